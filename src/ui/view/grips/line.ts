/** The line in focus taken by its start, a knot, a handle, or anywhere on it. */
import { placeOn, type Line } from "@/core/line";
import { add, subtract, type Vec3 } from "@/core/math";
import { useSceneStore } from "@/store";
import {
  allKnots,
  drawnLine,
  guideLinesOf,
  moveKnots,
  placesOf,
  runningLinesNow,
  tieKnot,
  selectLine,
  spanMiddles,
  startsAnywhere,
  useSession,
  writeHandle,
  writeStart,
} from "../../state";
import { KNOT, tieCaught } from "../caught";
import { handleEnds, type HandleEnd } from "../handles";
import { LINE, MIDDLE } from "../selecting";
import { snapTargets, type SnapTarget } from "../snap";
import type { But } from "../snap-field";
import { shownWay } from "./pull";
import type { Aim } from "../aim";
import type { Grip } from "./grip";
import type { Draft } from "immer";

/** The start of a line follows the pointer as far off it as this, pixels. */
const FAR_FROM_LINE = 400;

/** Whether the ring is under the pointer by which the start of a line along edges is moved. */
const startUnder = (aim: Aim, line: Line): boolean =>
  startsAnywhere(line) && aim.nearest([drawnLine(line).points[0]], KNOT) === 0;

function knotUnder(aim: Aim, line: Line): number | null {
  if (line.laid?.kind === "edges") return null;
  return aim.nearest(
    line.knots.map((knot) => knot.position),
    KNOT,
  );
}

function handleUnder(aim: Aim, line: Line): HandleEnd | null {
  const ends = handleEnds(line, useSession.getState().knots);
  const found = aim.nearest(
    ends.map(({ position }) => position),
    KNOT,
  );
  return found === null ? null : ends[found];
}

const middleUnder = (aim: Aim, line: Line): boolean => aim.nearest(spanMiddles(line), MIDDLE) !== null;

/** Whether the pointer is on a ring, a handle or a mark between knots. */
export const ringUnder = (aim: Aim, line: Line): boolean =>
  startUnder(aim, line) || knotUnder(aim, line) !== null || handleUnder(aim, line) !== null || middleUnder(aim, line);

/** What of a line is under the pointer. */
export function lineGrip(aim: Aim, line: Line, more: boolean): Grip | null {
  if (startUnder(aim, line)) return startGrip(line);
  if (line.laid?.kind === "edges") return null;
  const knot = knotUnder(aim, line);
  if (knot !== null) return knotGrip(line, knot, more);
  const handle = handleUnder(aim, line);
  if (handle) return handleGrip(line, handle);
  return !more && !middleUnder(aim, line) && aim.placeOn(drawnLine(line), LINE) !== null ? wholeGrip(line) : null;
}

/** Where a line starts that may start anywhere: it goes along the line as it was when that was taken. */
function startGrip(line: Line): Grip {
  const drawn = drawnLine(line);
  return {
    label: "Start of line",
    drag({ aim }) {
      const at = aim.placeOn(drawn, FAR_FROM_LINE);
      if (at === null) return;
      useSceneStore.getState().drag((draft) => writeStart(draft, line.id, placeOn(drawn.curve, at)));
    },
  };
}

function knotGrip(line: Line, knot: number, more: boolean): Grip {
  const { knots } = useSession.getState();
  const moving = knots.includes(knot) ? knots : more ? [...knots, knot] : [knot];
  const from = placesOf(line, moving);
  const start = line.knots[knot].position;
  let targets: SnapTarget[] = [];
  let but: But | null = null;
  return {
    label: "Move knot",
    begin() {
      if (!useSession.getState().knots.includes(knot)) {
        useSession.setState({ knots: from.size > 1 ? [...from.keys()] : [knot] });
      }
      targets = targetsBeside(line, from.keys());
      but = alongIt(line);
    },
    drag(pull) {
      const to = pull.destination(start, targets, but);
      if (!to) return;
      const by = shownWay(start, to);
      const tie = tieCaught();
      changeLine(line.id, (draft) => {
        moveKnots(draft, from, by);
        if (draft.knots[knot]) tieKnot(draft.knots[knot], tie);
      });
    },
    click: (again) => selectLine(line.id, knot, again),
  };
}

function handleGrip(line: Line, { knot, side, position }: HandleEnd): Grip {
  let targets: SnapTarget[] = [];
  let but: But | null = null;
  return {
    label: "Move handle",
    begin() {
      targets = targetsBeside(line, []);
      but = alongIt(line);
    },
    drag(pull) {
      const to = pull.destination(position, targets, but);
      if (!to) return;
      const by = shownWay(position, to);
      // A handle is kept from its knot on, wherever that is seen.
      const from = subtract(add(position, by), line.knots[knot].position);
      changeLine(line.id, (draft) => writeHandle(draft, knot, side, add(draft.knots[knot].position, from)));
    },
  };
}

/** The whole line, which goes where the pointer does from where it was taken. */
function wholeGrip(line: Line): Grip {
  const from = placesOf(line, allKnots(line));
  const start: Vec3 = line.knots[0].position;
  return {
    label: "Move line",
    drag(pull) {
      const taken = pull.gripped(start);
      const to = pull.destination(taken);
      if (!to) return;
      const by = shownWay(taken, to);
      changeLine(line.id, (draft) => moveKnots(draft, from, by));
    },
  };
}

const targetsBeside = (line: Line, knots: Iterable<number>): SnapTarget[] =>
  snapTargets(runningLinesNow(), { line: line.id, knots: new Set(knots) });

/** What runs along a line, or lies within it: it goes along with the line, and holds nothing of it. */
const alongIt = (line: Line): But => {
  const { dressings } = useSceneStore.getState().shown;
  const own = dressings.filter((one) => guideLinesOf(one).includes(line.id));
  return { dressings: new Set(own.map(({ id }) => id)), dressing: null, keys: new Set() };
};

function changeLine(id: string, change: (line: Draft<Line>) => void): void {
  useSceneStore.getState().drag((draft) => {
    const line = draft.lines.find((one) => one.id === id);
    if (line) change(line);
  });
}
