/** What surfaces that are made of other things do when one of those goes, or becomes several. */
import type { Scene } from "@/core/scene";
import type { Draft } from "immer";

/** Takes a line, a surface or a dressing out of all surfaces that are made of it. */
export function makeWithout(draft: Draft<Scene>, id: string): void {
  for (const { made } of draft.surfaces) {
    if (made?.kind === "loft" || made?.kind === "tube") made.lines = made.lines.filter((other) => other !== id);
    if ((made?.kind === "revolve" || made?.kind === "band") && made.line === id) made.line = null;
    if (made?.kind === "revolve" && made.axisLine === id) made.axisLine = null;
    if (made?.kind === "tube" && made.outline === id) made.outline = null;
    if (made && "of" in made && made.of === id) made.of = null;
    if (made?.kind === "solid" && made.parts.some(({ of }) => of === id)) {
      made.parts = made.parts.filter(({ of }) => of !== id);
      // What comes first is what all others are joined to.
      if (made.parts.length > 0) made.parts[0].how = "join";
    }
  }
}

/** A surface stands for others that are parts of it: these are not drawn as long as it does. */
export function hideParts(draft: Draft<Scene>, parts: readonly string[], hidden: boolean): void {
  for (const surface of draft.surfaces) if (parts.includes(surface.id)) surface.hidden = hidden;
}

/** What is made of a line or a surface is made of others as well, or instead. */
export function makeOf(draft: Draft<Scene>, id: string, others: readonly string[]): void {
  const all = (list: readonly string[]) => list.flatMap((one) => (one === id ? others : one));
  for (const { made } of draft.surfaces) {
    if (made?.kind === "tube") made.lines = all(made.lines).slice(0, 5_000);
    if (made && "of" in made && made.of === id) made.of = others[0] ?? null;
    if (made?.kind !== "solid") continue;
    let next = made.parts.reduce((most, part) => Math.max(most, part.id + 1), 0);
    made.parts = made.parts.flatMap((part) =>
      part.of === id ? others.map((of, k) => ({ ...part, of, id: k === 0 ? part.id : next++ })) : part,
    );
  }
}
