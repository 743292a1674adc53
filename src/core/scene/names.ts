/** What things are called. */
import { familyOf } from "../line";
import type { Scene } from "./schema";

type Kind = "guide" | "dressing" | "prop";

/** The names of a scene's lines, surfaces and areas (guides), of its dressings and of its props, by their ids. */
export function namesIn({
  lines,
  surfaces,
  dressings,
  props,
}: Pick<Scene, "lines" | "surfaces" | "dressings" | "props">): (id: string, kind: Kind) => string | undefined {
  const namesOf = (things: readonly { id: string; name: string }[]) =>
    new Map(things.map(({ id, name }) => [id, name]));
  const names = { guide: namesOf([...surfaces, ...lines]), dressing: namesOf(dressings), prop: namesOf(props) };
  return (id, kind) => names[kind].get(id) ?? (kind === "guide" ? names.guide.get(familyOf(id) ?? "") : undefined);
}
