import { Tabs } from "radix-ui";

interface TabListProps {
  label: string;
  /** Each tab's value and title. */
  tabs: readonly (readonly [string, string, ...unknown[]])[];
  className?: string;
}

/** The row of tabs above what they show. */
export function TabList({ label, tabs, className = "" }: TabListProps) {
  return (
    <Tabs.List
      className={`no-print flex gap-1 overflow-x-auto border-line border-b ${className}`}
      aria-label={label}
    >
      {tabs.map(([value, title]) => (
        <Tabs.Trigger
          key={value}
          value={value}
          className="whitespace-nowrap border-transparent border-b-3 px-2.5 py-1.5 text-soft data-[state=active]:border-river data-[state=active]:font-semibold data-[state=active]:text-ink"
        >
          {title}
        </Tabs.Trigger>
      ))}
    </Tabs.List>
  );
}
