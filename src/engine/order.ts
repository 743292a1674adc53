/** In which order dressings are placed: each after those whose props it is dropped onto. */
import type { Dressing } from "@/core/place";

export interface Order {
  dressings: Dressing[];
  /** By the ids of dressings: the name of one whose props they are not dropped onto, because those stand on theirs. */
  circles: Map<string, { id: string; name: string }>;
}

/** Whose props a dressing is dropped onto. */
export const dressingsUnder = ({ fit }: Dressing): readonly string[] => (fit.drop === "off" ? [] : fit.ontoProps);

export function inOrder(dressings: readonly Dressing[]): Order {
  const byId = new Map(dressings.map((dressing) => [dressing.id, dressing]));
  const order: Order = { dressings: [], circles: new Map() };
  const state = new Map<string, "under way" | "done">();
  const visit = (dressing: Dressing): void => {
    state.set(dressing.id, "under way");
    for (const id of dressingsUnder(dressing)) {
      const under = byId.get(id);
      if (!under) continue;
      if (state.get(id) === "under way") order.circles.set(dressing.id, under);
      else if (!state.has(id)) visit(under);
    }
    state.set(dressing.id, "done");
    order.dressings.push(dressing);
  };
  for (const dressing of dressings) if (!state.has(dressing.id)) visit(dressing);
  return order;
}

/** A dressing with all that it stands on, directly or not, in the scene's order. */
export function withUnder(dressings: readonly Dressing[], id: string): Dressing[] {
  const wanted = new Set([id]);
  for (let before = 0; before < wanted.size;) {
    before = wanted.size;
    for (const dressing of dressings)
      if (wanted.has(dressing.id)) for (const one of dressingsUnder(dressing)) wanted.add(one);
  }
  return dressings.filter((dressing) => wanted.has(dressing.id));
}
