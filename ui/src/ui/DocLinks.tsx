const PAGES = [
  ["/glossary", "Glossary"],
  ["/method", "Method"],
] as const;

/** Links to the pages that explain the words and the figures. */
export function DocLinks() {
  return (
    <p className="flex gap-4 text-sm">
      {PAGES.map(([address, name]) => (
        <a
          key={address}
          className="text-river underline"
          href={address}
          target="_blank"
          rel="noreferrer"
        >
          {name}
        </a>
      ))}
    </p>
  );
}
