/** Placements that are spread over surfaces, moved and added by hand in the view. */
import { rotate, subtract, type Quat, type Vec3 } from "@/core/math";
import type { Dressing } from "@/core/place";
import type { Scene } from "@/core/scene";
import { useSceneStore } from "@/store";
import { dressingOf, fieldOf, millimetre, surfaceOf, writeAddedOn, writePegs } from "../state/edits";
import { useResults } from "../state/results";
import { selectPlacements, useSession } from "../state/session";
import type { Aim } from "./aim";
import type { Draft } from "immer";

/** Selected placements that have been taken hold of by one of them. */
export interface HeldPlacements {
  kind: "placements";
  dressing: string;
  /** The surface or area of the one that was taken. */
  field: string;
  start: Vec3;
  /** Where each of those selected was, by key. */
  from: ReadonlyMap<number, Vec3>;
}

const scene = (): Scene => useSceneStore.getState().history.scene;

/** The dressing that is selected, if it is spread over something. */
function spreadDressing(): Dressing | null {
  const { dressing, focus } = useSession.getState();
  const found = dressing === null || focus.kind !== "dressing" ? undefined : dressingOf(scene(), dressing);
  return found?.where.kind === "over" ? found : null;
}

/** What a press on a placement takes hold of: all that are selected, where it is one of them. */
export function takenPlacements(hit: { dressing: string; key: number } | null): HeldPlacements | null {
  const dressing = spreadDressing();
  const { keys } = useSession.getState();
  if (!hit || !dressing || hit.dressing !== dressing.id || !keys.has(hit.key)) return null;
  const placements = useResults.getState().byDressing.get(dressing.id)?.placements;
  const field = fieldOf(dressing, hit.key);
  if (!placements || field === null) return null;
  const from = new Map<number, Vec3>();
  const { origin, position, key } = placements;
  for (let i = 0; i < placements.count; i++) {
    if (keys.has(key[i])) from.set(key[i], [0, 1, 2].map((k) => origin[k] + position[3 * i + k]) as unknown as Vec3);
  }
  const start = from.get(hit.key);
  return start ? { kind: "placements", dressing: dressing.id, field, start, from } : null;
}

/** Where the pointer wants what is held: on its surface, or on its own level where that is missed. */
export const wantedPlace = (aim: Aim, { field, start }: HeldPlacements): Vec3 | null =>
  aim.on(field) ?? aim.level(start);

/** Moves all that are held by as much; each is put back onto its surface when it is placed. */
export function movePlacements(draft: Draft<Scene>, { dressing, from }: HeldPlacements, by: Vec3): void {
  const edited = dressingOf(draft, dressing);
  if (!edited) return;
  writePegs(edited, from.keys(), (peg, key) => {
    const start = from.get(key);
    if (start) peg.point = inField(draft as Scene, peg.line, [start[0] + by[0], start[1] + by[1], start[2] + by[2]]);
  });
}

/** A point in the coordinates of a surface, to the millimetre; of an area that has none as it is. */
function inField({ surfaces }: Pick<Scene, "surfaces">, id: string, point: Vec3): [number, number, number] {
  const surface = surfaceOf({ surfaces } as Scene, id);
  if (!surface) return point.map(millimetre) as [number, number, number];
  const [x, y, z, w] = surface.rotation;
  const back: Quat = [-x, -y, -z, w];
  return rotate(back, subtract(point, surface.position)).map((value) => millimetre(value / surface.scale)) as [
    number,
    number,
    number,
  ];
}

/** Adds one placement of the selected dressing where the pointer is; false where it has no surface there. */
export function addUnder(aim: Aim): boolean {
  const dressing = spreadDressing();
  if (!dressing) return false;
  const { surfaces, areas } = dressing.where;
  const field = surfaces.length > 0 ? surfaces.find((id) => aim.on(id) !== null) : areas[0];
  const point = field === undefined ? null : (aim.on(field) ?? aim.ground());
  const prop = dressing.what.entries.find((entry) => entry.prop !== null)?.prop;
  if (field === undefined || !point || !prop) return false;
  let key: number | null = null;
  useSceneStore.getState().change("Add placement", (draft) => {
    const edited = dressingOf(draft, dressing.id);
    if (edited) key = writeAddedOn(edited, { field, point: inField(draft as Scene, field, point), prop });
  });
  if (key !== null) selectPlacements(dressing.id, [key]);
  return true;
}
