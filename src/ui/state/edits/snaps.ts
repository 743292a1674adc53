/** Edits of the snap points of props. */
import { nextNumber } from "@/core/schema";
import {
  freeName,
  MOST_SNAP_POINTS,
  preparationSchema,
  type OwnSnapPoint,
  type Parts,
  type Prop,
  type Scene,
} from "@/core/scene";
import { toast } from "sonner";
import type { Vec3 } from "@/core/math";
import type { Draft } from "immer";
import { scene, store } from "./common";
import { editProp } from "./props";

/** The prop of a draft, by its id. */
const propOf = (draft: Draft<Scene>, id: string): Draft<Prop> | undefined => draft.props.find((one) => one.id === id);

const directed = (v: Vec3): Vec3 => {
  const length = Math.hypot(...v);
  return length > 1e-9 ? (v.map((x) => Number((x / length).toFixed(6)) + 0) as unknown as Vec3) : [0, 1, 0];
};

/** A snap point more; gives its number, null where a prop has as many as may be. */
export function addSnap(
  prop: string,
  { name, position, direction }: { name: string; position: Vec3; direction: Vec3 },
): number | null {
  const own = scene().props.find(({ id }) => id === prop)?.prepared.snaps ?? [];
  if (own.length >= MOST_SNAP_POINTS) {
    toast.error(`A prop has up to ${MOST_SNAP_POINTS} snap points.`);
    return null;
  }
  const id = nextNumber(own);
  const free = freeName(
    name,
    own.map((one) => one.name),
  );
  editProp(prop, "Add snap point", ({ prepared }) => {
    prepared.snaps.push({ id, name: free, position: [...position], direction: [...directed(direction)], free: true });
  });
  return id;
}

/** Changes one of a prop's snap points. */
export function editSnap(
  prop: string,
  id: number,
  label: string,
  change: (snap: Draft<OwnSnapPoint>) => void,
  mark?: string,
): void {
  const edit = (draft: Draft<Scene>) => {
    const snap = propOf(draft, prop)?.prepared.snaps.find((one) => one.id === id);
    if (snap) change(snap);
  };
  store().change(label, edit, mark);
}

/** Gives a snap point another name, everywhere where no other prop has one of the old name; whether it was free. */
export function renameSnap(prop: string, id: number, name: string): boolean {
  const { props } = scene();
  const own = props.find((one) => one.id === prop)?.prepared.snaps ?? [];
  const before = own.find((one) => one.id === id)?.name;
  if (before === undefined || own.some((one) => one.id !== id && one.name === name)) return false;
  const alone = !props.some((one) => one.id !== prop && one.prepared.snaps.some((snap) => snap.name === before));
  store().changeAll("Rename snap point", (draft) => {
    const snap = propOf(draft, prop)?.prepared.snaps.find((one) => one.id === id);
    if (snap) snap.name = name;
    if (!alone) return;
    for (const parts of [draft, ...draft.props.flatMap(({ assembly }) => assembly ?? [])])
      renameEverywhere(parts, before, name);
  });
  return true;
}

/** Families and ties that name a snap point name it anew. */
function renameEverywhere(draft: Draft<Parts>, before: string, name: string): void {
  const tied = (held: { kind: string; snap?: string } | null | undefined): void => {
    if (held?.kind === "placement" && held.snap === before) held.snap = name;
  };
  for (const line of draft.lines) {
    for (const knot of line.knots) tied(knot.held);
    if (line.kind !== "between") continue;
    if (line.snap === before) line.snap = name;
    if (line.toSnap === before) line.toSnap = name;
  }
  for (const surface of draft.surfaces) tied(surface.held);
  for (const { pegs } of draft.dressings)
    for (const peg of Object.values(pegs)) {
      tied(peg.held);
      if (peg.hangs?.by === before) peg.hangs.by = name;
    }
}

export const deleteSnap = (prop: string, id: number): void =>
  editProp(prop, "Delete snap point", ({ prepared }) => {
    prepared.snaps = prepared.snaps.filter((one) => one.id !== id);
  });

/** The snap point on the other side of the prop, left for right as the prop is prepared. */
export function mirrorSnap(prop: Prop, id: number): void {
  const snap = prop.prepared.snaps.find((one) => one.id === id);
  if (!snap) return;
  // Left is square to front and up, along one axis of the file.
  const axis = [0, 1, 2].find(
    (k) => !["front", "up"].some((way) => prop.prepared[way as "front" | "up"][1] === "xyz"[k]),
  )!;
  const middle = (prop.bounds.min[axis] + prop.bounds.max[axis]) / 2;
  const other = (v: Vec3, about: number): Vec3 => v.map((x, k) => (k === axis ? 2 * about - x : x)) as unknown as Vec3;
  addSnap(prop.id, {
    name: snap.name,
    position: other(snap.position, middle),
    direction: other(snap.direction, 0),
  });
}

/** Gives other props the snap points of one, at the same places of their own files; those of a name that they have stay theirs. */
export function copySnaps(from: Prop, to: readonly string[]): void {
  store().change("Copy snap points", (draft) => {
    for (const id of to) {
      const prop = propOf(draft, id);
      if (!prop) continue;
      for (const snap of from.prepared.snaps) {
        const { snaps } = prop.prepared;
        if (snaps.length >= MOST_SNAP_POINTS || snaps.some(({ name }) => name === snap.name)) continue;
        snaps.push({ ...(snap as Draft<OwnSnapPoint>), id: nextNumber(snaps) });
      }
    }
  });
}

/** What is wrong with a value of a snap point, or null. */
export function snapComplaint(change: Partial<OwnSnapPoint>): string | null {
  const snap = { id: 0, name: "snap", position: [0, 0, 0], direction: [0, 1, 0], free: true, ...change };
  const { success, error } = preparationSchema.safeParse({ snaps: [snap] });
  return success ? null : error.issues[0].message;
}
