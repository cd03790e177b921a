import { DropdownMenu } from "radix-ui";

export interface OpenedMenuProps {
  /** Name of the button. */
  label: string;
  className: string;
  align?: "start" | "end";
  items: readonly MenuItem[];
}

export interface MenuItem {
  text: string;
  onSelect: () => void;
  /** Whether it takes something away. */
  removes?: boolean;
}

/** A menu from its first opening on. */
export default function OpenedMenu({ label, className, align = "start", items }: OpenedMenuProps) {
  return (
    <DropdownMenu.Root defaultOpen>
      <DropdownMenu.Trigger className={className} aria-label={label}>
        ⋯
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          className="z-40 min-w-48 rounded-md border border-edge bg-card p-1 shadow-lg"
          align={align}
        >
          {items.map(({ text, onSelect, removes }) => (
            <DropdownMenu.Item
              key={text}
              className={`cursor-pointer rounded px-3 py-1.5 text-sm outline-none data-highlighted:bg-river-wash ${removes ? "text-stop" : ""}`}
              onSelect={onSelect}
            >
              {text}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
