/** A number as typed, with a decimal point or comma; null if it is none. */
export function parseNumber(text: string): number | null {
  const clean = text.trim().replace(/[\s\u00a0\u202f]/g, "");
  if (!/^[-−+]?(\d+([.,]\d*)?|[.,]\d+)$/.test(clean)) return null;
  return Number(clean.replace("−", "-").replace(",", "."));
}

/** Hours as typed: "18 min", "1h30", "2 h 15 min", "0,3" (hours), "2 d"; null if none. */
export function parseHours(text: string): number | null {
  const bare = parseNumber(text);
  if (bare !== null) return bare;
  const match =
    /^(?:([\d.,]+)\s*d(?:ays?)?)?\s*(?:([\d.,]+)\s*h(?:ours?)?)?\s*(?:([\d.,]+)\s*(?:m(?:in)?)?)?$/i.exec(
      text.trim(),
    );
  if (!match || text.trim() === "") return null;
  const parts = [match[1], match[2], match[3]].map((part) => (part ? parseNumber(part) : 0));
  const [days, whole, minutes] = parts;
  if (days == null || whole == null || minutes == null) return null;
  return days * 24 + whole + minutes / 60;
}
