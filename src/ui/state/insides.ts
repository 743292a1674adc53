/** What the worker tells of assemblies: what they hold, for their pictures, how large that is, and what is found in it. */
import { useMemo } from "react";
import { create } from "zustand";
import type { InnerFinding } from "@/engine/assemblies";
import type { ShownResult } from "@/engine/engine";
import type { ToldInside } from "@/engine/evaluation.worker";
import { knowing, type Told } from "@/engine/told";
import type { Placements } from "@/core/place";
import { containersOf, type Prop } from "@/core/scene";
import { useSceneStore } from "@/store";
import type { Boxes } from "@/store/scene-store";

interface Insides {
  insides: ReadonlyMap<string, ToldInside>;
  found: readonly InnerFinding[];
}

export const useInsides = create<Insides>()(() => ({ insides: new Map(), found: [] }));

export const putInsides = (told: Told<ToldInside>): void =>
  useInsides.setState(({ insides }) => ({ insides: knowing(insides, told) }));

export function putInner(found: readonly InnerFinding[]): void {
  if (found.length > 0 || useInsides.getState().found.length > 0) useInsides.setState({ found });
}

/** How large what is in assemblies is. */
export const boxesNow = (): Boxes =>
  new Map([...useInsides.getState().insides].flatMap(([id, { box }]) => (box ? [[id, box] as const] : [])));

/** The props that can be used in what is seen: not the assembly that is open, nor any that it is in. */
export function useUsableProps(into?: string): readonly Prop[] {
  const { props, mixes } = useSceneStore((store) => store.shown);
  const opened = useSceneStore((store) => store.opened.at(-1));
  return useMemo(() => {
    const assembly = into ?? opened;
    const within = assembly === undefined ? null : containersOf({ props, mixes }, assembly).add(assembly);
    return within ? props.filter(({ id }) => !within.has(id)) : props;
  }, [props, mixes, opened, into]);
}

/** What stands in a dressing in the end: assemblies taken apart into what is in them. */
export const wholeOf = ({ apart, placements }: Pick<ShownResult, "apart" | "placements">): Placements =>
  apart?.placements ?? placements;
