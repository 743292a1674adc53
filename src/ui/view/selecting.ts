/** What a click or a box in the view selects. */
import type { Key } from "@/core/place";
import { isKnotted, withKnotAt, type Line } from "@/core/line";
import type { Vec3 } from "@/core/math";
import { preparedBounds } from "@/core/scene";
import { useSceneStore } from "@/store";
import {
  allKnots,
  editLine,
  insertKnot,
  lineOf,
  ownerOfLine,
  runningLinesNow,
  useResults,
  selectLine,
  selectNothing,
  selectPlacements,
  useSession,
  drawnLine,
  seenLine,
  spanMiddles,
} from "../state";
import type { Aim } from "./aim";
import type { useMove } from "./move-state";

/** Marks between knots, and lines, are taken hold of within so many pixels. */
export const [MIDDLE, LINE] = [10, 7];

/** The line in focus, its knots where they are seen. */
export function focusedLine(): Line | undefined {
  const { focus } = useSession.getState();
  const line = focus.kind === "line" ? lineOf(useSceneStore.getState().shown, focus.id) : undefined;
  return line && seenLine(line);
}

/** What the box holds: knots of the line in focus, otherwise placements of the dressing. */
export function selectBox(aim: Aim, box: NonNullable<ReturnType<typeof useMove.getState>["box"]>): void {
  const line = focusedLine();
  if (line && isKnotted(line)) {
    const knots = allKnots(line).filter((k) => aim.inBox(line.knots[k].position, box));
    return useSession.setState({ knots });
  }
  const { dressing } = useSession.getState();
  const placements = dressing === null ? undefined : useResults.getState().byDressing.get(dressing)?.placements;
  if (dressing === null || !placements) return;
  const { origin, position, key, count } = placements;
  const keys: Key[] = [];
  for (let i = 0; i < count; i++) {
    const place: Vec3 = [0, 1, 2].map((k) => origin[k] + position[3 * i + k]) as unknown as Vec3;
    if (aim.inBox(place, box)) keys.push(key[i]);
  }
  selectPlacements(dressing, keys);
}

/** Selects what is under the pointer, or inserts a knot where a line in focus offers one. */
export function selectClick(aim: Aim, more: boolean): void {
  const line = focusedLine();
  if (line) {
    const middle = aim.nearest(spanMiddles(line), MIDDLE);
    if (middle !== null) return insertKnot(line.id, middle, spanMiddles(line)[middle]);
    const at = isKnotted(line) && !line.ring && !line.laid ? aim.placeOn(drawnLine(line), LINE) : null;
    if (at !== null && isKnotted(line)) {
      const made = withKnotAt(line, at);
      editLine(
        line.id,
        "Insert knot",
        (draft) => void (draft.knots = structuredClone(made.line.knots) as typeof draft.knots),
      );
      return selectLine(line.id, made.knot);
    }
  }
  const hit = placementUnder(aim);
  if (hit) return selectPlacements(hit.dressing, [hit.key], more);
  const guide = aim.line(runningLinesNow(), LINE);
  if (guide) return selectLine(ownerOfLine(useSceneStore.getState().shown.lines, guide));
  if (!more) selectNothing();
}

/** The placement that the pointer is on. */
export function placementUnder(aim: Aim) {
  const bounds = new Map(useSceneStore.getState().shown.props.map((prop) => [prop.id, preparedBounds(prop)]));
  return aim.placement(useResults.getState().byDressing, bounds);
}
