/** Placements that are spread over surfaces or fill volumes, moved and added by hand in the view. */
import { add, rotate, type Vec3 } from "@/core/math";
import { kindOf, densityAt, fieldIdsOf, LOOSE, type Dressing, type FlatPlace, type Key, indicesOf } from "@/core/place";
import type { Scene } from "@/core/scene";
import { back, carriedPoint } from "@/core/tie";
import { useSceneStore } from "@/store";
import { boxOf } from "../assets";
import {
  carryOf,
  dressingOf,
  fieldOf,
  flatPlaceAt,
  placesLaid,
  inField,
  surfaceOf,
  writeAddedOn,
  pinAt,
  writePegs,
  useResults,
  selectPlacements,
  useSession,
  type Why,
  sightNow,
} from "../state";
import type { Aim } from "./aim";
import type { Draft } from "immer";

/** Selected placements that have been taken hold of by one of them. */
export interface HeldPlacements {
  kind: "placements";
  dressing: string;
  /** The surface, area or volume of the one that was taken. */
  field: string;
  /** Whether it is a volume, in which it may be moved anywhere. */
  free: boolean;
  start: Vec3;
  /** Where each of those selected was, by key. */
  from: ReadonlyMap<Key, Vec3>;
}

const scene = (): Scene => useSceneStore.getState().shown;

/** The dressing that is selected, if it is spread over something. */
export function spreadDressing(): Dressing | null {
  const { dressing, focus } = useSession.getState();
  const found = dressing === null || focus.kind !== "dressing" ? undefined : dressingOf(scene(), dressing);
  return found && !kindOf(found.where).ordered ? found : null;
}

/** What a press on a placement takes hold of: all that are selected, where it is one of them. */
export function takenPlacements(hit: { dressing: string; key: Key } | null): HeldPlacements | null {
  const dressing = spreadDressing();
  const { keys } = useSession.getState();
  if (!hit || !dressing || hit.dressing !== dressing.id || !keys.has(hit.key)) return null;
  const placements = useResults.getState().byDressing.get(dressing.id)?.placements;
  const field = fieldOf(dressing, hit.key);
  if (!placements || field === null) return null;
  const from = new Map<Key, Vec3>();
  const { origin, position, key } = placements;
  for (const i of indicesOf(key, keys))
    from.set(key[i], [0, 1, 2].map((k) => origin[k] + position[3 * i + k]) as unknown as Vec3);
  const start = from.get(hit.key);
  const free = kindOf(dressing.where).fills;
  return start ? { kind: "placements", dressing: dressing.id, field, free, start, from } : null;
}

/** Where the pointer wants what is held: on its surface, or on its own level where that is missed. */
export const wantedPlace = (aim: Aim, { field, start }: HeldPlacements): Vec3 | null =>
  (field === LOOSE ? aim.ground() : aim.on(field)) ?? aim.level(start);

/** Moves all that are held, each by so much from where it was; it is put back onto its surface when it is placed. */
export function movePlacements(
  draft: Draft<Scene>,
  { dressing, from }: HeldPlacements,
  by: (from: Vec3, key: Key) => Vec3,
): void {
  const edited = dressingOf(draft, dressing);
  if (!edited) return;
  const placements = useResults.getState().byDressing.get(dressing)?.placements;
  const places = placements ? placesLaid(placements, sightNow(dressing)?.laid ?? null, new Set(from.keys())) : NOWHERE;
  writePegs(edited, from.keys(), (peg, key) => {
    const start = from.get(key);
    if (!start) return;
    // What something holds is put down where it is seen, and kept where it was before it was carried there.
    const [to, carry] = [add(start, by(start, key)), carryOf(dressing, key)];
    const own = inField(draft, peg.on, carry ? carriedPoint(back(carry), to) : to);
    const flat = flatPlaceAt(edited as Dressing, own, places.get(key));
    if (!flat) return void (peg.point = own);
    // What is laid out stays in its layout.
    peg.flat = [...flat];
    delete peg.point;
  });
}

const NOWHERE: ReadonlyMap<Key, FlatPlace> = new Map();

/** Why nothing of the selected dressing stands where the pointer is on one of its surfaces; null where nothing keeps it off. */
export function whyUnder(aim: Aim): Pick<Why, "dressing" | "reason" | "share"> | null {
  const dressing = spreadDressing();
  const map = sightNow(dressing?.id ?? null)?.density;
  const on = dressing?.where.surfaces.includes(aim.surface() ?? "") ? aim.ground() : null;
  const found = map && on ? densityAt(map, on[0], on[2]) : null;
  return dressing && found?.reason ? { dressing: dressing.id, reason: found.reason, share: found.share } : null;
}

/** Adds one placement of the selected dressing where the pointer is; false where it has no surface there. */
export function addUnder(aim: Aim): boolean {
  const where = spreadDressing()?.where;
  if (where && kindOf(where).pins) {
    const met = aim.met();
    const { dressing } = useSession.getState();
    const prop = spreadDressing()?.what.entries.find((entry) => entry.prop !== null)?.prop;
    if (!met || !prop) return false;
    pinAt(dressing, met, prop);
    return true;
  }
  if (where && !kindOf(where).ruled) {
    const point = aim.ground();
    return point !== null && addPlacementAt(point);
  }
  if (where && kindOf(where).fills) return addInside(aim, where.volumes);
  const { surfaces = [], areas = [] } = where ?? {};
  const field = surfaces.length > 0 ? surfaces.find((id) => aim.on(id) !== null) : areas[0];
  const point = field === undefined ? null : (aim.on(field) ?? aim.ground());
  return point !== null && addPlacementAt(point, field);
}

/** Adds one where the pointer passes a volume's middle. */
function addInside(aim: Aim, volumes: readonly string[]): boolean {
  const field = volumes.find((id) => aim.on(id) !== null);
  const surface = field === undefined ? undefined : surfaceOf(scene(), field);
  if (!surface) return false;
  const [, tall] = boxOf(surface);
  const up = rotate(surface.rotation, [0, surface.made?.kind === "box" ? tall / 2 : 0, 0]);
  const point = aim.level(add(surface.position, up));
  return point !== null && addPlacementAt(point, field);
}

/** Adds one placement of the selected dressing at a point, on its first surface unless another is named. */
export function addPlacementAt(point: Vec3, on?: string): boolean {
  const dressing = spreadDressing();
  const field = on ?? (dressing ? fieldIdsOf(dressing.where)[0] : undefined);
  const prop = dressing?.what.entries.find((entry) => entry.prop !== null)?.prop;
  if (!dressing || field === undefined || !prop) return false;
  let key: Key | null = null;
  useSceneStore.getState().change("Add placement", (draft) => {
    const edited = dressingOf(draft, dressing.id);
    if (!edited) return;
    const own = inField(draft, field, point);
    key = writeAddedOn(edited, { field, point: own, flat: flatPlaceAt(dressing, own), prop });
  });
  if (key !== null) selectPlacements(dressing.id, [key]);
  return true;
}
