/** What an artist does to pins: props held to places of surfaces that were picked by hand. */
import { addedKey, hexOf, indicesOf, kindOf, LOOSE, nextAdded, type Dressing, type Key, type Peg } from "@/core/place";
import { InputError } from "@/core/schema";
import { readPins, writePins, type PinRow } from "@/core/files";
import type { Vec3 } from "@/core/math";
import { fromStand } from "@/core/mesh";
import { tieOfPeg, type Scene } from "@/core/scene";
import { carriedPoint, type Tie } from "@/core/tie";
import { selectPlacements } from "../session";
import { useResults } from "../results";
import { dressingOf, editDressing, inField, millimetre, scene, store } from "./common";
import { addDressing, overFields } from "./dressings";
import { setPegs, setTurn, takeAway, writePegs } from "./pegs";
import { surfaceOf } from "./surfaces";
import type { Draft } from "immer";

/** Off its surface by a hair's breadth nothing flickers through, metres. */
const HAIR = 0.002;

/** A place of a surface that something is pinned to. */
export interface PinPlace {
  surface: string;
  /** As it is seen, in the world. */
  point: Vec3;
  uv: [number, number] | null;
}

/** A new dressing of pins, not yet part of the scene. */
export function pinsOf(prop: string): Dressing {
  const begun = overFields({}, 1, prop);
  return {
    ...begun,
    where: { ...begun.where, kind: "pinned" },
    stance: { ...begun.stance, up: "normal", upBy: 1 },
    fit: { ...begun.fit, up: HAIR },
  };
}

/** Begins a dressing of pins, still without any; gives its id. */
export function beginPins(prop: string): string {
  const dressing = pinsOf(prop);
  addDressing(dressing);
  return dressing.id;
}

/** Writes into the draft that something is pinned somewhere; gives its key. */
function writePin(
  draft: Draft<Scene>,
  dressing: Draft<Dressing>,
  { surface, point, uv }: PinPlace,
  says: Partial<Peg>,
): Key {
  if (!dressing.where.surfaces.includes(surface)) dressing.where.surfaces.push(surface);
  const key = addedKey(nextAdded(dressing.pegs, () => true));
  const peg = { ...says, on: surface, point: inField(draft, surface, point), ...(uv && { uv }), added: true };
  dressing.pegs[hexOf(key)] = peg as Draft<Peg>;
  return key;
}

/** Pins a prop to a place: into a dressing of pins, or into a new one. */
export function pinAt(dressing: string | null, place: PinPlace, prop: string): void {
  const existing = dressing === null ? undefined : dressingOf(scene(), dressing);
  const id = existing && kindOf(existing.where).pins ? existing.id : null;
  const fresh = id === null ? pinsOf(prop) : null;
  let key: Key | null = null;
  store().change("Pin", (draft) => {
    if (fresh) draft.dressings.push(fresh as Draft<Dressing>);
    const pins = dressingOf(draft, fresh?.id ?? id!);
    if (pins) key = writePin(draft, pins, place, { prop });
  });
  if (key !== null) selectPlacements(fresh?.id ?? id!, [key]);
}

/** Writes where a pin has been dragged to, and what it is tied to there. */
export function writePinMoved(
  draft: Draft<Scene>,
  dressing: string,
  key: Key,
  { surface, point, uv }: PinPlace,
  tie: Tie | null = null,
): void {
  const pins = dressingOf(draft, dressing);
  if (!pins) return;
  if (surface !== LOOSE && !pins.where.surfaces.includes(surface)) pins.where.surfaces.push(surface);
  writePegs(pins, [key], (peg) => {
    peg.on = surface;
    peg.point = inField(draft, surface, point);
    if (uv) peg.uv = uv;
    else delete peg.uv;
    if (tie) peg.held = tie as Draft<Tie>;
    else delete peg.held;
  });
}

/** Copies pins in place, as they are taken hold of; gives the keys of the copies. */
export function writePinCopies(draft: Draft<Scene>, dressing: string, keys: readonly Key[]): Key[] {
  const pins = dressingOf(draft, dressing);
  return keys.flatMap((key) => {
    const peg = pins?.pegs[hexOf(key)];
    if (!pins || !peg) return [];
    const copy = addedKey(nextAdded(pins.pegs as Dressing["pegs"], () => true));
    pins.pegs[hexOf(copy)] = { ...peg };
    return [copy];
  });
}

/** Across which of a surface's own directions pins are mirrored: the plane goes through the middle of its box. */
export type MirrorAxis = 0 | 1 | 2;
/** What is no farther from the plane than this, metres, is its own mirror image. */
const ON_PLANE = 0.0005;

/**
 * Pins the same props once more, mirrored over a plane, and selects these; the ones that lie on the plane have no others.
 *
 * @param middles of the surfaces' boxes, in their own coordinates
 * @returns how many were pinned
 */
export function mirrorPins(
  id: string,
  keys: Iterable<Key>,
  axis: MirrorAxis,
  middles: ReadonlyMap<string, Vec3>,
): number {
  const made: Key[] = [];
  editDressing(id, "Mirror pins", (pins) => {
    for (const key of keys) {
      const peg = pins.pegs[hexOf(key)];
      const middle = peg && middles.get(peg.on);
      if (!peg?.point || !middle || Math.abs(peg.point[axis] - middle[axis]) <= ON_PLANE) continue;
      const copy = addedKey(nextAdded(pins.pegs as Dressing["pegs"], () => true));
      const point = peg.point.map((value, k) => millimetre(k === axis ? 2 * middle[axis] - value : value));
      const twin = { ...peg, point: point as unknown as Draft<Vec3> };
      delete twin.uv;
      delete twin.held;
      // Ahead is counted from north: what is mirrored from front to back looks the other way.
      setTurn(twin, (axis === 2 ? Math.PI : 0) - (peg.turn ?? 0));
      pins.pegs[hexOf(copy)] = twin;
      made.push(copy);
    }
  });
  if (made.length > 0) selectPlacements(id, made);
  return made.length;
}

const NOTHING_SAID: Peg = { on: "" };

/** What all of some placements have by hand as a number; NaN where they differ. */
export function saidByAll({ pegs }: Dressing, keys: Iterable<Key>, of: (peg: Peg) => number): number {
  const said = new Set([...keys].map((key) => of(pegs[hexOf(key)] ?? NOTHING_SAID)));
  return said.size === 1 ? [...said][0] : NaN;
}

/** Pins by texture coordinates instead of a place that was picked. */
export const pinToUv = (draft: Draft<Dressing>, keys: Iterable<Key>, uv: [number, number]): void =>
  writePegs(draft, keys, (peg) => {
    peg.uv = uv;
    delete peg.point;
    delete peg.held;
  });

/** Has pins that have lost hold be held where they are now, or lets those that are tied go there. */
export function holdHere(dressing: string, keys: Iterable<Key>, label = "Pin them here"): void {
  const placements = useResults.getState().byDressing.get(dressing)?.placements;
  if (!placements) return;
  const places = new Map<Key, Vec3>();
  for (const i of indicesOf(placements.key, new Set(keys)))
    places.set(
      placements.key[i],
      [0, 1, 2].map((k) => placements.origin[k] + placements.position[3 * i + k]) as unknown as Vec3,
    );
  const all = scene();
  setPegs(dressing, places.keys(), label, (peg, key) => {
    peg.point = inField(all, peg.on, places.get(key)!);
    delete peg.uv;
    delete peg.held;
  });
}

/** Takes placements out of their dressing and pins them to places, in a dressing of pins of their own. */
export function pinPlacements(dressing: string, places: readonly { key: Key; prop: string; place: PinPlace }[]): void {
  if (places.length === 0) return;
  const pins = pinsOf(places[0].prop);
  const keys: Key[] = [];
  store().change("Pin where they are", (draft) => {
    draft.dressings.push(pins as Draft<Dressing>);
    const target = dressingOf(draft, pins.id)!;
    for (const { prop, place } of places) keys.push(writePin(draft, target, place, { prop }));
    const from = dressingOf(draft, dressing);
    if (from) takeAway(from, places.map(({ key }) => key)); // prettier-ignore
  });
  selectPlacements(pins.id, keys);
}

/**
 * Takes pins over from a CSV.
 *
 * @throws InputError with a sentence that says what is wrong
 */
export function bringInPins(dressing: string, bytes: Uint8Array, name: string): number {
  const rows = readPins(bytes, name);
  const { surfaces, props } = scene();
  const pins = dressingOf(scene(), dressing);
  const standardProp = pins?.what.entries.find(({ prop }) => prop !== null)?.prop ?? null;
  const named = <T extends { id: string; name: string }>(
    things: readonly T[],
    wanted: string | null,
    standard: string | null,
    what: string,
    row: number,
  ) => {
    // prettier-ignore
    const found = wanted === null ? standard : things.find((one) => one.name === wanted)?.id;
    if (found) return found;
    throw new InputError(
      wanted === null
        ? `“${name}” names no ${what} in row ${row + 2}, and the dressing has none yet. Pin one by hand first, or add a column “${what}”.`
        : `“${name}” was not taken over: there is no ${what} “${wanted}” (row ${row + 2}).`,
    );
  };
  const wanted = rows.map((row, i) => ({
    row,
    surface: named(surfaces, row.surface, pins?.where.surfaces[0] ?? null, "surface", i),
    prop: named(props, row.prop, standardProp, "prop", i),
  }));
  editDressing(dressing, "Bring in pins", (draft) => {
    for (const { row, surface, prop } of wanted) {
      if (!draft.where.surfaces.includes(surface)) draft.where.surfaces.push(surface);
      const key = hexOf(addedKey(nextAdded(draft.pegs as Dressing["pegs"], () => true)));
      draft.pegs[key] = pegOf(row, surface, prop);
    }
  });
  return rows.length;
}

function pegOf({ point, uv, turn, lift, size }: PinRow, surface: string, prop: string): Draft<Peg> {
  const peg: Draft<Peg> = { on: surface, prop, added: true };
  if (point) peg.point = inField(scene(), surface, point);
  if (uv) peg.uv = uv;
  if (lift !== 0) peg.lift = lift;
  if (size !== 1) peg.size = size;
  setTurn(peg, turn);
  return peg;
}

/** The pins of a dressing as a CSV, where they are seen. */
export function pinsAsCsv(dressing: string): Uint8Array {
  const { surfaces, props } = scene();
  const pins = dressingOf(scene(), dressing);
  const nameOf = (things: readonly { id: string; name: string }[], id: string | undefined) =>
    things.find((one) => one.id === id)?.name ?? null;
  return writePins(
    Object.entries(pins?.pegs ?? {}).map(([hex, { on, point, uv, prop, turn = 0, lift = 0, size = 1 }]) => {
      const surface = surfaceOf(scene(), on);
      const world = point && surface ? fromStand(surface, point) : point;
      const carry = store().carries.get(tieOfPeg(dressing, hex));
      return {
        point: (world && carry ? carriedPoint(carry, world) : world) ?? null,
        uv: uv ?? null,
        surface: nameOf(surfaces, on),
        prop: nameOf(props, prop),
        turn,
        lift,
        size,
      };
    }),
  );
}
