/**
 * What families come to: the lines between their pairs. What a family goes between may hang on it in turn; then it has none,
 * which is told of.
 */
import { query, step, type Ask } from "@/core/graph";
import {
  familyOf,
  isFamily,
  membersOf,
  NO_MEMBERS,
  pairsOfDivisions,
  pairsPicked,
  type Between,
  type GuideLine,
  type Knot,
  type Line,
  type Members,
  type Pair,
} from "@/core/line";
import { pairsOfSnaps, standingAt, type Placements } from "@/core/place";
import { pick } from "@/core/schema";
import { snapFrame, type SnapPoint } from "@/core/tie";
import { placements } from "./dressings";
import { reached } from "./reached";
import { ownLine } from "./scopes";
import * as things from "./things";

const divisionsStep = step("pairs of divisions", pairsOfDivisions);
const membersStep = step("members", membersOf);

type SnapRule = Pick<Between, "partner" | "within" | "snap" | "toSnap">;
const snapsStep = step(
  "pairs of snap points",
  ({ partner, within, snap, toSnap }: SnapRule, placed: Placements, points: readonly (readonly SnapPoint[])[]) => {
    const named = points.map((all) => [snap, toSnap ?? snap].map((name) => all.find((one) => one.name === name)));
    return pairsOfSnaps({ partner, within }, placed, (i) => {
      const [from, to] = named[placed.prop[i]] ?? [];
      if (!from || !to) return null;
      const standing = standingAt(placed, i);
      return [snapFrame(standing, from).position, snapFrame(standing, to).position];
    });
  },
);

/** What a family's places are on: lines and their families, or a dressing. */
const holdersOf = ({ pairs, lines, dressing }: Between): readonly string[] =>
  pairs === "picked" ? [] : pairs === "snaps" ? (dressing === null ? [] : [dressing]) : lines;

function pairsFor(ask: Ask, family: Between): { pairs: readonly Pair[]; left: number } {
  if (family.pairs === "picked") return { pairs: pairsPicked(family.knots as Knot[]), left: 0 };
  if (family.pairs === "snaps") {
    const placed = family.dressing === null ? undefined : ask(placements, family.dressing);
    if (!placed) return { pairs: [], left: 0 };
    const points = placed.props.map((prop) => ask(things.snapPoints, prop));
    return ask.step(snapsStep, pick(family, ["partner", "within", "snap", "toSnap"]), placed, points);
  }
  const guides = things.linesIn(ask, family.lines).flatMap((id): GuideLine[] => {
    const guide = ask(things.guide, id);
    return guide ? [guide] : [];
  });
  const rule = pick(family, ["pairs", "parts", "skip", "shift", "around"]);
  return { pairs: ask.step(divisionsStep, rule, guides), left: 0 };
}

/** The members of a family; none for any other line. */
export const members = query("members", (ask, id): Members => {
  const family = ask(things.line, id);
  if (!isFamily(family)) return NO_MEMBERS;
  if (holdersOf(family).some((holder) => ask(reached, holder).has(id))) return { ...NO_MEMBERS, inCircle: true };
  const { pairs, left } = pairsFor(ask, family);
  const made = ask.step(membersStep, family, pairs);
  return left > 0 ? { ...made, beyond: made.beyond + left } : made;
});

const byId = query(
  "members by id",
  (ask, id): ReadonlyMap<string, Line> => new Map(ask(members, id).lines.map((line) => [line.id, line])),
);

things.member.is((ask, id) => {
  const family = familyOf(id);
  return family === null ? undefined : ask(byId, family).get(id);
});

things.memberIds.is((ask, id) => (isFamily(ask(ownLine, id)) ? ask(members, id).lines.map((line) => line.id) : null));
