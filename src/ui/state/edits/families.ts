/** Edits of families: lines between pairs of places. */
import { hexOf, keyOfHex, keyOnOther, type Dressing, type Peg } from "@/core/place";
import {
  familyOf,
  isFamily,
  lineSchema,
  memberNumber,
  memberId,
  nameOfMember,
  type Between,
  type Line,
} from "@/core/line";
import type { Vec3 } from "@/core/math";
import { freeName, newId, nextLineNumber, snapPointsOf, type Scene } from "@/core/scene";
import { nextNumber } from "@/core/schema";
import type { Tie } from "@/core/tie";
import { membersNow } from "../families";
import { selectLine } from "../session";
import { editLine, lineOf, scene, store } from "./common";
import type { Draft } from "immer";

/** Two places to go between, and what either is tied to. */
export interface PickedEnd {
  position: Vec3;
  held: Tie | null;
}

const knotsOf = (ends: readonly PickedEnd[], from: number): Draft<Between>["knots"] =>
  ends.map(({ position, held }, i) => ({
    id: from + i,
    position: [...position] as [number, number, number],
    ...(held && { held: held as Draft<Tie> }),
  }));

/** More pairs for a family. */
export function addPairs(id: string, ends: readonly PickedEnd[]): void {
  const whole = ends.slice(0, ends.length - (ends.length % 2));
  if (whole.length === 0) return;
  editLine(id, "Pick places", (line) => {
    if (line.kind !== "between") return;
    line.pairs = "picked";
    line.knots.push(...knotsOf(whole, nextNumber(line.knots)));
  });
}

/** What a new family goes between, by what is in focus: that line, the snap points of that dressing, or places yet to be picked. */
export function suitingPairs(focus: { line: string | null; dressing: string | null }): Partial<Between> {
  const { props, dressings, lines } = scene();
  const line = lines.find(({ id }) => id === focus.line);
  if (line) {
    const next = lines[lines.indexOf(line) + 1];
    const twin = next && next.kind === line.kind && !isFamily(line) ? next : undefined;
    if (twin || isFamily(line)) return { pairs: "across", lines: [line.id, ...(twin ? [twin.id] : [])] };
    return { pairs: "along", lines: [line.id] };
  }
  const dressing = dressings.find(({ id }) => id === focus.dressing);
  if (!dressing) return { pairs: "picked" };
  const prop = props.find(({ id }) => dressing.what.entries.some((entry) => entry.prop === id));
  const snap = prop && snapPointsOf(prop)[0]?.own ? snapPointsOf(prop)[0].name : "top";
  return { pairs: "snaps", dressing: dressing.id, snap };
}

/** A new family. */
export function addFamily(described: Partial<Between>, ends: readonly PickedEnd[] = []): string {
  const name = freeName(
    "Lines between 1",
    scene().lines.map((line) => line.name),
  );
  const id = newId();
  const line = lineSchema.parse({
    ...described,
    knots: knotsOf(ends, 0),
    kind: "between",
    name,
    id,
    number: nextLineNumber(scene()),
  });
  store().change("Lines between", (draft) => void draft.lines.push(line as Draft<Line>));
  selectLine(id);
  return id;
}

/** Every member a line of its own; whatever dresses the family dresses them, pegs and held gaps with them. */
export function loosenFamily(id: string): void {
  const family = lineOf(scene(), id);
  const { lines: members } = membersNow(id);
  if (!family || members.length === 0) return;
  const first = nextLineNumber(scene());
  const taken = new Set(scene().lines.map((line) => line.name));
  const made = members.map((member, i): Line => {
    const name = freeName(nameOfMember(family.name, i), taken);
    taken.add(name);
    return { ...structuredClone(member), id: newId(), number: first + i, name } as Line;
  });
  store().change("Lines of a family", (draft) => {
    draft.lines.splice(
      draft.lines.findIndex((line) => line.id === id),
      1,
      ...(made as Draft<Line>[]),
    );
    for (const { made: surface } of draft.surfaces)
      if (surface?.kind === "tube")
        surface.lines = surface.lines
          .flatMap((one) => (one === id ? made.map((line) => line.id) : one))
          .slice(0, 5_000);
    for (const dressing of draft.dressings) {
      const { where, gaps } = dressing;
      where.lines = where.lines.flatMap((one) => (one === id ? made.map((line) => line.id) : one));
      gaps.avoid = gaps.avoid.flatMap((one) => (one === id ? made.map((line) => line.id) : one));
      members.forEach((member, i) => onto(dressing, member.id, made[i]));
    }
  });
  selectLine(made[0].id);
}

/** What is pegged and held open on a line of a dressing is so on another instead. */
function onto(dressing: Draft<Dressing>, from: string, to: Pick<Line, "id" | "number">): void {
  for (const stretch of dressing.gaps.stretches) if (stretch.line === from) stretch.line = to.id;
  for (const [hex, peg] of Object.entries(dressing.pegs)) {
    const key = peg.on === from ? keyOnOther(keyOfHex(hex), to.id, dressing.where as Dressing["where"], [to]) : null;
    if (key === null) continue;
    delete dressing.pegs[hex];
    dressing.pegs[hexOf(key)] = { ...peg, on: to.id };
  }
}

/** What is pegged on the members of a family, as it is on those of a copy of it. */
export function pegsOnCopy(
  pegs: Readonly<Record<string, Peg>>,
  id: string,
  copy: Pick<Line, "id" | "number">,
  where: Dressing["where"],
): [hex: string, peg: Peg][] {
  return Object.entries(pegs).flatMap(([hex, peg]): [string, Peg][] => {
    if (familyOf(peg.on) !== id) return [];
    const pair = peg.on.slice(id.length + 1);
    const on = { id: memberId(copy.id, pair), number: memberNumber(copy.number, pair) };
    const key = keyOnOther(keyOfHex(hex), on.id, where, [on]);
    return key === null ? [] : [[hexOf(key), { ...peg, on: on.id }]];
  });
}

/** Takes a line or a dressing out of all families that go between its places. */
export function familiesWithout(draft: Draft<Scene>, id: string): void {
  for (const line of draft.lines) {
    if (line.kind !== "between") continue;
    if (line.lines.includes(id)) line.lines = line.lines.filter((other) => other !== id);
    if (line.dressing === id) line.dressing = null;
    if (line.on.includes(id)) line.on = line.on.filter((other) => other !== id);
  }
}

/** The knots to be deleted with some: of picked places both of a pair. */
export const withPartners = (line: Line, knots: ReadonlySet<number>): ReadonlySet<number> =>
  !isFamily(line) ? knots : new Set([...knots].flatMap((k) => [k - (k % 2), k - (k % 2) + 1]));
