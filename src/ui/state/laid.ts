/** Where lines lie that have been laid onto surfaces, as the worker tells it. */
import { create } from "zustand";
import type { LaidTrack, Line } from "@/core/line";

export const useLaid = create<{ tracks: ReadonlyMap<string, LaidTrack> }>()(() => ({ tracks: new Map() }));

/** Where a line lies; null for one that goes by its knots, or as long as it is not known. */
export const trackOf = (line: Line): LaidTrack | null =>
  line.laid ? (useLaid.getState().tracks.get(line.id) ?? null) : null;

export function putLaid(laid: readonly [string, LaidTrack][], free: readonly string[]): void {
  const tracks = new Map(useLaid.getState().tracks);
  for (const id of free) tracks.delete(id);
  for (const [id, track] of laid) tracks.set(id, track);
  useLaid.setState({ tracks });
}
