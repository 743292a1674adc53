/** What an artist does to the movers of a surface. */
import { toast } from "sonner";
import { MOVER_KINDS, moverSchema, type Mover, type MoverKind, type Pull, type Replay, type Side } from "@/core/movers";
import { nextNumber } from "@/core/schema";
import { selectSurface, useSession } from "../session";
import { scene, store } from "./common";
import { editSurface, surfaceOf } from "./surfaces";
import type { Draft } from "immer";
import type { Vec3 } from "@/core/math";

/** What a mover is called. */
export const moverName = ({ kind, name }: Pick<Mover, "kind" | "name">): string => name ?? MOVER_KINDS[kind].label;

/** Changes a mover, as one change with a name; nothing where it is gone. */
export const editMover = (
  surface: string,
  id: number,
  label: string,
  edit: (mover: Draft<Mover>) => void,
  mark?: string,
): void =>
  editSurface(
    surface,
    label,
    ({ movers }) => {
      const mover = movers.find((one) => one.id === id);
      if (mover) edit(mover);
    },
    mark,
  );

/** Waves of water as long as this, metres, run at this speed, metres a second: a gravity wave's over deep water. */
const speedOf = (length: number): number => Math.sqrt((9.81 * length) / (2 * Math.PI));
/** On the largest surfaces waves begin no longer than this, metres. */
const LONGEST = 6;

/** Begins as suits the surface: waves of a third of its extent at most, a bulge of an eighth. */
function begun(kind: MoverKind, extent: number): Record<string, unknown> {
  const round = (metres: number) => Number(metres.toPrecision(1));
  if (!(extent > 0)) return { kind };
  const length = round(Math.min(LONGEST, extent / 3));
  if (kind === "waves")
    return { kind, length, height: round(length / 20), speed: Number(speedOf(length).toPrecision(2)) };
  return kind === "billow" ? { kind, depth: round(extent / 8) } : { kind };
}

/**
 * Adds a mover behind those there are, and shows it.
 *
 * @param extent of the surface, metres
 */
export const addMover = (surface: string, kind: MoverKind, extent: number): void =>
  put(surface, `Add ${MOVER_KINDS[kind].label.toLowerCase()}`, begun(kind, extent));

/** Puts a mover behind those there are, and shows it. */
function put(surface: string, label: string, says: Record<string, unknown>): void {
  const movers = surfaceOf(scene(), surface)?.movers;
  if (!movers) return;
  const id = nextNumber(movers);
  const mover = { ...moverSchema.parse(says), id } as Mover;
  editSurface(surface, label, (draft) => void draft.movers.push(mover as Draft<Mover>));
  useSession.setState({ mover: id });
}

/** Gives a mover a simulation to replay; a new one where none is named. */
export function giveReplay(
  surface: string,
  id: number | null,
  played: Pick<Replay, "asset" | "file" | "vertices" | "rate">,
): void {
  if (id === null) return put(surface, "Add replay", { kind: "replay", ...played });
  editMover(surface, id, "Another replay", (mover) => {
    if (mover.kind === "replay") Object.assign(mover, played);
  });
}

export function duplicateMover(surface: string, id: number): void {
  const movers = surfaceOf(scene(), surface)?.movers ?? [];
  const at = movers.findIndex((one) => one.id === id);
  if (at < 0) return;
  const copy = nextNumber(movers);
  editSurface(surface, "Duplicate mover", (draft) => {
    draft.movers.splice(at + 1, 0, { ...draft.movers[at], id: copy });
    copyCourses(draft.courses, draft.courses, id, copy);
  });
  useSession.setState({ mover: copy });
}

/** Takes the courses of a mover's numbers over to those of another. */
function copyCourses(from: Draft<Mover> | object, to: object, id: number, as: number): void {
  const own = `movers/${id}/`;
  const target = to as Record<string, unknown>;
  for (const [path, course] of Object.entries(from))
    if (path.startsWith(own)) target[`movers/${as}/${path.slice(own.length)}`] = course;
}

/** A copy of a mover, with its courses, on another surface. */
export function copyMover(surface: string, id: number, to: string): void {
  const target = surfaceOf(scene(), to);
  if (!target) return;
  const copy = nextNumber(target.movers);
  store().change("Copy mover", (draft) => {
    const [from, onto] = [surface, to].map((one) => surfaceOf(draft, one)!);
    const mover = from.movers.find((one) => one.id === id);
    if (!mover) return;
    onto.movers.push({ ...mover, id: copy });
    copyCourses(from.courses, onto.courses, id, copy);
  });
  selectSurface(to);
  useSession.setState({ mover: copy });
}

export function deleteMover(surface: string, id: number): void {
  const mover = surfaceOf(scene(), surface)?.movers.find((one) => one.id === id);
  if (!mover) return;
  editSurface(surface, "Take mover off", (draft) => {
    draft.movers = draft.movers.filter((one) => one.id !== id);
  });
  useSession.setState({ mover: null });
  toast(`Took “${moverName(mover)}” off.`, { action: { label: "Undo", onClick: () => store().undo() } });
}

/** Puts a mover in the place of another, those between moving up. */
export const moveMover = (surface: string, id: number, to: number): void =>
  editSurface(surface, "Order of movers", ({ movers }) => {
    const [from, at] = [id, to].map((one) => movers.findIndex((mover) => mover.id === one));
    if (from < 0 || at < 0) return;
    const [mover] = movers.splice(from, 1);
    movers.splice(at, 0, mover);
  });

/** Holds a surface fast along a side, or lets it go there. */
export const holdSide = (surface: string, id: number, side: Side): void =>
  editMover(surface, id, "Held fast", (mover) => {
    if (!("held" in mover)) return;
    mover.held = mover.held.includes(side) ? mover.held.filter((one) => one !== side) : [...mover.held, side];
  });

/** Holds a surface fast at a place too, in its own coordinates. */
export const holdPlace = (surface: string, id: number, at: Vec3): void =>
  editMover(surface, id, "Hold fast here", (mover) => {
    if ("places" in mover) mover.places.push({ id: nextNumber(mover.places), at: [...at] });
  });

export const letPlaceGo = (surface: string, id: number, place: number): void =>
  editMover(surface, id, "Let go here", (mover) => {
    if ("places" in mover) mover.places = mover.places.filter((one) => one.id !== place);
  });

/** Writes a pull into the draft: how far the place that was taken has gone, in the surface's own directions, metres. */
export function writePull(draft: Draft<Mover>, pull: Pull): void {
  if (draft.kind !== "pulls") return;
  const known = draft.pulls.findIndex((one) => one.id === pull.id);
  if (known < 0) draft.pulls.push(pull as Draft<Pull>);
  else draft.pulls[known] = pull as Draft<Pull>;
}

export const takePullOff = (surface: string, id: number, pull: number): void =>
  editMover(surface, id, "Take pull off", (mover) => {
    if (mover.kind === "pulls") mover.pulls = mover.pulls.filter((one) => one.id !== pull);
  });
