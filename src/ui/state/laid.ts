/** What the worker tells of lines and surfaces: where lines lie that have been laid, and the meshes of what is made. */
import { create } from "zustand";
import type { LaidTrack, Line } from "@/core/line";
import type { Shape } from "@/core/mesh";
import { knowing, type Told } from "@/engine/told";

export const useLaid = create<{ tracks: ReadonlyMap<string, LaidTrack> }>()(() => ({ tracks: new Map() }));

/** Meshes of surfaces that are made, in their own coordinates, by the surfaces' ids. */
export const useMade = create<{ meshes: ReadonlyMap<string, Shape> }>()(() => ({ meshes: new Map() }));

/** Where a line lies; null for one that goes by its knots, or as long as it is not known. */
export const trackOf = (line: Line): LaidTrack | null =>
  line.laid ? (useLaid.getState().tracks.get(line.id) ?? null) : null;

export const putLaid = (laid: Told<LaidTrack>): void =>
  useLaid.setState(({ tracks }) => ({ tracks: knowing(tracks, laid) }));

export const putMade = (made: Told<Shape>): void =>
  useMade.setState(({ meshes }) => ({ meshes: knowing(meshes, made) }));
