/** Other names for things. */
import { familyOf, memberId } from "../line";

/** Gives things other ids, and so the members of families. */
export const renamingBy =
  (names: ReadonlyMap<string, string>) =>
  (id: string): string => {
    const family = familyOf(id);
    const other = family === null ? undefined : names.get(family);
    return names.get(id) ?? (other === undefined ? id : memberId(other, id.slice(family!.length + 1)));
  };
