/** What is known of surfaces that are made of closed bodies, and how far their joining has come. */
import { useMemo } from "react";
import { create } from "zustand";
import { thingsOf } from "@/core/made";
import { useScene } from "@/store";
import { useMade } from "./laid";
import { useSession } from "./session";
import type { SolidState, Solved } from "@/engine/solids";

interface Solids {
  states: ReadonlyMap<string, SolidState>;
  /** The surface that is being joined, and how far that is, from 0 to 1. */
  joining: { id: string; share: number } | null;
  /** Why surfaces could not be joined. */
  failures: ReadonlyMap<string, string>;
  /** The jobs that were stopped or failed, and wait until they are asked for again. */
  left: ReadonlySet<string>;
  /** What jobs came to, by their names. */
  solved: () => ReadonlyMap<string, Solved>;
  stop: () => void;
  again: () => void;
}

const nothing = (): void => undefined;

export const useSolids = create<Solids>()(() => ({
  states: new Map(),
  joining: null,
  failures: new Map(),
  left: new Set(),
  solved: () => new Map(),
  stop: nothing,
  again: nothing,
}));

export const putSolids = (states: Solids["states"]): void =>
  useSolids.setState(({ states: before, failures }) => {
    const changed = states.size !== before.size || [...states].some(([id, state]) => !isSame(before.get(id), state));
    if (!changed) return {};
    // What has changed since may well succeed.
    const still = [...failures].filter(([id]) => before.get(id)?.job === states.get(id)?.job);
    return { states, failures: new Map(still) };
  });

const isSame = (a: SolidState | undefined, b: SolidState): boolean =>
  a !== undefined && JSON.stringify(a) === JSON.stringify(b);

/** Whether a surface shows what it came to, and not something from before. */
export const isJoined = ({ job, solved }: SolidState): boolean => job !== null && solved?.name === job;

/** The dressings that are not drawn by themselves, because a solid that is seen stands for them; not the selected one. */
export function useDrawnAsSolids(): ReadonlySet<string> {
  const surfaces = useScene((scene) => scene.surfaces);
  const meshes = useMade((made) => made.meshes);
  const chosen = useSession(({ focus, dressing }) => (focus.kind === "dressing" ? dressing : null));
  return useMemo(() => {
    const solids = surfaces.filter(({ id, made, hidden }) => made?.kind === "solid" && !hidden && meshes.has(id));
    return new Set(solids.flatMap(({ made }) => thingsOf(made!)).filter((id) => id !== chosen));
  }, [surfaces, meshes, chosen]);
}
