/** What can be drawn at the moment; worked out once for all who ask. */
import type { DressingResult } from "@/engine/engine";
import type { Prop } from "@/core/scene";
import { useScene } from "@/store";
import { useResults } from "../state/results";
import { shareOut, type Budget } from "./budget";

const known = new WeakMap<ReadonlyMap<string, DressingResult>, { props: readonly Prop[]; budget: Budget }>();

export function useBudget(): Budget {
  const results = useResults((state) => state.byDressing);
  const props = useScene((scene) => scene.props);
  let held = known.get(results);
  if (held?.props !== props) known.set(results, (held = { props, budget: shareOut(results.values(), props) }));
  return held.budget;
}
