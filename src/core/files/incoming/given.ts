/** Files as they were chosen or dropped, together. */
export interface GivenFile {
  /** With the folders that it came in, where they are known. */
  name: string;
  bytes: Uint8Array;
}

const plain = (path: string): string =>
  path
    .replaceAll("\\", "/")
    .replace(/^(\.?\/)+/, "")
    .toLowerCase();

/** A file's name without its folders. */
export const baseOf = (path: string): string => plain(path).split("/").pop()!;

/**
 * What another file means by a path: the file that lies there, else the only one of that name, wherever it lies.
 *
 * @param from the name of the file that says so
 */
export function companion(others: readonly GivenFile[], from: string, path: string): GivenFile | undefined {
  const folder = plain(from).split("/").slice(0, -1);
  for (const part of plain(path).split("/")) {
    if (part === "..") folder.pop();
    else if (part !== ".") folder.push(part);
  }
  const wanted = folder.join("/");
  const named = others.filter(({ name }) => baseOf(name) === baseOf(path));
  return named.find(({ name }) => plain(name) === wanted) ?? named[0];
}
