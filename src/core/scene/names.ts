/** What things are called. */
import type { Scene } from "./schema";

/** The names of a scene's lines, surfaces and areas (guides) and of its dressings, by their ids. */
export function namesIn({
  lines,
  surfaces,
  dressings,
}: Pick<Scene, "lines" | "surfaces" | "dressings">): (id: string, kind: "guide" | "dressing") => string | undefined {
  const namesOf = (things: readonly { id: string; name: string }[]) =>
    new Map(things.map(({ id, name }) => [id, name]));
  const names = { guide: namesOf([...surfaces, ...lines]), dressing: namesOf(dressings) };
  return (id, kind) => names[kind].get(id);
}
