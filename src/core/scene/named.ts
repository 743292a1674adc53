/** What lines, surfaces and dressings hang on by what they say. */
import { familyOf, isFamily, laidOf, type Line } from "../line";
import { eachId } from "../schema";
import { THING_SCHEMAS } from "./course-paths";
import type { Parts } from "./assembly-shape";

export type Thing = Parts[keyof Parts][number];

/** What a thing names, and whether it may be any that is there besides. */
export interface Names {
  /** Ids, of members of families those of their families among them. */
  ids: ReadonlySet<string>;
  anyGround: boolean;
  anyLine: boolean;
}

/** @param lineOf finds a line by its id */
export function namedBy(list: keyof Parts, thing: Thing, lineOf: (id: string) => Line | undefined): Names {
  const ids = new Set<string>();
  eachId(THING_SCHEMAS[list], thing, (id) => void ids.add(id).add(familyOf(id) ?? id));
  ids.delete(thing.id);
  if ("knots" in thing) {
    const laid = laidOf(thing as Line);
    return { ids, anyGround: laid !== null && laid.kind !== "edges" && laid.on.length === 0, anyLine: false };
  }
  if (!("stance" in thing)) return { ids, anyGround: false, anyLine: false };
  const { fit, stance } = thing;
  const faced = lineOf(stance.thing ?? "");
  return {
    ids,
    anyGround: fit.drop !== "off" && fit.onto.length === 0,
    // Who faces the nearest line, or that of a family, faces any.
    anyLine: stance.forward === "line" && (!faced || isFamily(faced)),
  };
}
