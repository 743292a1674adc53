/** What can be drawn at the moment; worked out once for all who ask. */
import type { ShownResult } from "@/engine/engine";
import type { Prop } from "@/core/scene";
import { useDrawnProps } from "../assets";
import { useResults } from "../state";
import { usePace } from "./pace";
import { boxesFor, shareOut, type Budget } from "./budget";

interface Known {
  props: readonly Prop[];
  triangles: number;
  budget: Budget;
}

const known = new WeakMap<ReadonlyMap<string, ShownResult>, Known>();

export function useBudget(): Budget {
  const results = useResults((state) => state.byDressing);
  const props = useDrawnProps();
  const triangles = usePace((pace) => pace.triangles);
  let held = known.get(results);
  if (held?.props !== props || held.triangles !== triangles) {
    held = { props, triangles, budget: shareOut(results.values(), props, { triangles, boxes: boxesFor(triangles) }) };
    known.set(results, held);
  }
  return held.budget;
}
