/** Who may ask the API. (Source: W3C, Fetch Metadata Request Headers.) */

/** Origins besides our own, from the environment: addresses with commas between them. */
const ALLOWED = new Set((process.env.ALLOWED_ORIGINS ?? "").split(",").flatMap((origin) => origin.trim() || []));

/** Whether a request comes from a page of another site. What no browser sent says nothing of either. */
export function isForeign({ headers }: Request): boolean {
  const origin = headers.get("origin");
  if (origin !== null && ALLOWED.has(origin)) return false;
  const site = headers.get("sec-fetch-site");
  if (site !== null && site !== "same-origin" && site !== "none") return true;
  return origin !== null && (!URL.canParse(origin) || new URL(origin).host !== headers.get("host"));
}
