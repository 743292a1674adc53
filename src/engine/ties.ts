/**
 * What ties come to: how far their ends have gone since they took hold. What would hang on itself by its ties is held by
 * nothing, and so is what was held by something that is gone; both are told of.
 */
import { query, step, type Ask } from "@/core/graph";
import { WorldMesh, type RestMesh, type Stand } from "@/core/mesh";
import { memberId, placeOnLine, type Knot } from "@/core/line";
import { boundPlace, frameOnMesh, HANDLE, keyOfHex, standingAt } from "@/core/place";
import { heldBy, ownerOf, tiesIn } from "@/core/scene";
import { pick } from "@/core/schema";
import { carryBetween, holderOf, type Carry, type Frame, type Tie, snapFrame } from "@/core/tie";
import { lostTies, placements, rules } from "./dressings";
import { reached } from "./reached";
import { idsIn, ownLine, ownSurface } from "./scopes";
import * as things from "./things";

/** A tie by its name, see `tiesIn`. */
const tieNamed = query("tie", (ask, name): Tie | null => {
  const held = heldBy(name);
  if ("surface" in held) return ask(ownSurface, held.surface)?.held ?? null;
  if ("dressing" in held) {
    const own = ask(rules, held.dressing);
    return (held.key === HANDLE ? own?.where.patch.tied : own?.pegs[held.key]?.held) ?? null;
  }
  const knots = (ask(ownLine, held.line)?.knots ?? []) as Knot[];
  return knots.find(({ id }) => id === held.knot)?.held ?? null;
});

const boundStep = step("bound tie", boundPlace);
const frameStep = step("frame of tie", frameOnMesh);
const stoodStep = step("mesh of tie", (rest: RestMesh, stood: Stand): WorldMesh => WorldMesh.of("", rest, stood));

/** The frame of a placement, or of a snap point of its prop; null where either is gone. */
function placementFrame(ask: Ask, { dressing, key, snap }: Extract<Tie, { kind: "placement" }>): Frame | null {
  const placed = ask(placements, dressing);
  const i = placed?.key.indexOf(keyOfHex(key)) ?? -1;
  if (!placed || i < 0) return null;
  const standing = standingAt(placed, i);
  if (snap === undefined) return pick(standing, ["position", "rotation"]);
  const found = standing.prop === null ? [] : ask(things.snapPoints, standing.prop);
  const named = found.find(({ name }) => name === snap);
  return named ? snapFrame(standing, named) : null;
}

/** The frame of a place on a line; null where it has none such. */
function lineFrame(ask: Ask, { line: owner, member, at }: Extract<Tie, { kind: "line" }>): Frame | null {
  const id = member === undefined ? owner : memberId(owner, member);
  const [line, guide] = [ask(things.line, id), ask(things.guide, id)];
  return line && guide ? placeOnLine(line, guide, at) : null;
}

/** Where a tie's end was and is; null where it is gone. */
function endsOf(ask: Ask, tie: Tie): { stood: Frame; now: Frame } | null {
  if (tie.kind !== "surface") {
    const now = tie.kind === "line" ? lineFrame(ask, tie) : placementFrame(ask, tie);
    return now && { stood: tie.stood, now };
  }
  const [rest, now] = [ask(things.meshAtRest, tie.surface), ask(things.worldMesh, tie.surface)];
  if (!rest || !now) return null;
  const { scale } = rest.stand!;
  const [x, y, z] = tie.at;
  const bound = ask.step(boundStep, rest, rest.toWorld([scale * x, scale * y, scale * z]));
  const stood = ask.step(frameStep, bound, ask.step(stoodStep, rest.rest, tie.stood));
  const there = ask.step(frameStep, bound, now);
  return stood && there && { stood, now: there };
}

/** What a tie comes to: what is carried, or why nothing is. */
const outcome = query("tie outcome", (ask, name): { carry: Carry | null; trouble: "gone" | "circle" | null } => {
  const tie = ask(tieNamed, name);
  if (!tie) return { carry: null, trouble: null };
  const held = heldBy(name);
  if (ask(reached, holderOf(tie)).has(ownerOf(held))) return { carry: null, trouble: "circle" };
  const ends = endsOf(ask, tie);
  if (ends) return { carry: carryBetween(ends.stood, ends.now), trouble: null };
  // Of a surface that is there the mesh may not be known yet.
  const isThere = tie.kind === "surface" && ask(ownSurface, tie.surface) !== undefined;
  return { carry: null, trouble: isThere ? null : "gone" };
});

things.carry.is((ask, name) => ask(outcome, name).carry);

lostTies.is((ask, id) => {
  const [line, surface, dressing] = [ask(ownLine, id), ask(ownSurface, id), ask(rules, id)];
  const ties = tiesIn({
    lines: line ? [line] : [],
    surfaces: surface ? [surface] : [],
    dressings: dressing ? [dressing] : [],
  });
  return ties.flatMap(({ name, tie }) => {
    const { trouble } = ask(outcome, name);
    return trouble ? [{ trouble, holder: holderOf(tie) }] : [];
  });
});

/** How far all that is held in a scope has been carried, by the names of ties. */
export const carries = query("carries", (ask, scope): readonly [name: string, carry: Carry][] => {
  const get = <T>(list: "lines" | "surfaces" | "dressings", of: (id: string) => T | undefined): T[] =>
    idsIn(ask, list, scope).flatMap((id) => of(id) ?? []);
  const ties = tiesIn({
    surfaces: get("surfaces", (id) => ask(ownSurface, id)),
    lines: get("lines", (id) => ask(ownLine, id)),
    dressings: get("dressings", (id) => ask(rules, id)),
  });
  return ties.flatMap(({ name }): [string, Carry][] => {
    const by = ask(things.carry, name);
    return by ? [[name, by]] : [];
  });
});
