/** Data in which ids have become others, wherever they are named; the names of properties stay as they are. */
export function renamed<T>(value: T, nameOf: (text: string) => string): T {
  if (typeof value === "string") return nameOf(value) as T;
  if (Array.isArray(value)) return value.map((one) => renamed<unknown>(one, nameOf)) as T;
  if (typeof value !== "object" || value === null) return value;
  return Object.fromEntries(Object.entries(value).map(([name, one]) => [name, renamed<unknown>(one, nameOf)])) as T;
}

/** Visits every text in some data. */
export function eachText(value: unknown, visit: (text: string) => void): void {
  if (typeof value === "string") visit(value);
  else if (typeof value === "object" && value !== null) for (const one of Object.values(value)) eachText(one, visit);
}
