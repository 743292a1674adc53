/** In which order dressings are placed: each after those that its props stand on or give way to. */
import type { Dressing } from "@/core/place";

export interface Order {
  dressings: Dressing[];
  /** By the ids of dressings: one that does not count for them, because its own props stand on theirs or give way to them. */
  circles: Map<string, { id: string; name: string }>;
}

/** Whose props a dressing is dropped onto. */
export const dressingsUnder = ({ fit }: Dressing): readonly string[] => (fit.drop === "off" ? [] : fit.ontoProps);

/** Whose props a dressing gives way to. Of two that name each other it is the later one on the rail that does. */
export function dressingsBefore({ id, fit }: Dressing, all: readonly Dressing[]): readonly string[] {
  if (fit.clear === "off" || fit.clearOf.length === 0) return [];
  const place = all.findIndex((one) => one.id === id);
  return fit.clearOf.filter((named) => {
    const other = all.findIndex((one) => one.id === named);
    if (other < 0 || other === place) return false;
    const { clear, clearOf } = all[other].fit;
    return other < place || clear === "off" || !clearOf.includes(id);
  });
}

/** Whose props a dressing keeps a distance to, or thickens towards. */
export function measuredTo({ id, where, gaps }: Dressing, all: readonly Dressing[]): readonly string[] {
  if (where.kind === "along") return [];
  return gaps.distances.flatMap(({ to }) => (to !== id && all.some((one) => one.id === to) ? to : []));
}

/** All that have to be placed before a dressing. */
const needed = (dressing: Dressing, all: readonly Dressing[]): readonly string[] => [
  ...dressingsUnder(dressing),
  ...dressingsBefore(dressing, all),
  ...measuredTo(dressing, all),
];

export function inOrder(dressings: readonly Dressing[]): Order {
  const byId = new Map(dressings.map((dressing) => [dressing.id, dressing]));
  const order: Order = { dressings: [], circles: new Map() };
  const state = new Map<string, "under way" | "done">();
  const visit = (dressing: Dressing): void => {
    state.set(dressing.id, "under way");
    for (const id of needed(dressing, dressings)) {
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

/** A dressing with all that it stands on or gives way to, directly or not, in the scene's order. */
export function withUnder(dressings: readonly Dressing[], id: string): Dressing[] {
  const wanted = new Set([id]);
  for (let before = 0; before < wanted.size;) {
    before = wanted.size;
    for (const dressing of dressings)
      if (wanted.has(dressing.id)) for (const one of needed(dressing, dressings)) wanted.add(one);
  }
  return dressings.filter((dressing) => wanted.has(dressing.id));
}
