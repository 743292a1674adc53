/** Step 1, Where: the guides that a dressing runs along. */
import type { GuideLine } from "../../line";
import type { Where } from "./schema";

/** The dressing's lines in its own order, without the ones that are gone and without repeats. */
export function where(params: Pick<Where, "lines">, guides: ReadonlyMap<string, GuideLine>): GuideLine[] {
  const found: GuideLine[] = [];
  for (const id of new Set(params.lines)) {
    const guide = guides.get(id);
    if (guide) found.push(guide);
  }
  return found;
}
