"use client";
/** Spreading a prop or a mix over one of the scene's surfaces. */
import { useScene, useSceneStore } from "@/store";
import { boxOf, topOf } from "../assets";
import { usePropChoices } from "../basket";
import { Choose } from "../kit";
import { dressField, dressPatch, surfaceOf } from "../state";

const MAIN = "h-8 w-fit rounded-lg border border-ink-9 bg-ink-9 px-2.5 font-medium text-paper hover:bg-ink-6";
const LOOK = "h-8 w-fit rounded-lg border border-linen-3 bg-linen-0 px-2.5 hover:bg-paper";

/** Dresses a surface with a prop. */
export function spreadOver(surface: string, prop: string): void {
  const { shown: scene } = useSceneStore.getState();
  const found = surfaceOf(scene, surface);
  if (!found) return;
  const [wide, , deep] = boxOf(found);
  dressField({ surfaces: [surface] }, wide * deep, prop);
}

/** Lays a patch of a prop onto a surface, its handle in the middle of its upper side. */
export function patchOn(surface: string, prop: string): void {
  const found = surfaceOf(useSceneStore.getState().shown, surface);
  if (found) dressPatch(surface, prop, topOf(found));
}

/** Fills the inside of a surface with a prop. */
export function fillInside(surface: string, prop: string): void {
  const { shown: scene } = useSceneStore.getState();
  const found = surfaceOf(scene, surface);
  if (!found) return;
  const [wide, tall, deep] = boxOf(found);
  dressField({ volumes: [surface] }, wide * tall * deep, prop);
}

export function SpreadOver({ what, id }: { what: string; id: string }) {
  const surfaces = useScene((scene) => scene.surfaces);
  if (surfaces.length === 0) return null;
  return (
    <Choose
      label={`Spread over a surface: this ${what}`}
      choices={surfaces.map((surface) => ({ id: surface.id, label: surface.name }))}
      onChoose={(surface) => spreadOver(surface, id)}
      className={LOOK}
    >
      Spread over a surface…
    </Choose>
  );
}

/** The other way round: for a surface, or for an area that has none, which prop. */
interface SpreadHereProps {
  label: string;
  /** Whether it is what matters most there. */
  main?: boolean;
  onChoose: (prop: string) => void;
}

export function SpreadHere({ label, main = false, onChoose }: SpreadHereProps) {
  const choices = usePropChoices();
  return (
    <Choose
      label={label}
      choices={choices}
      empty="The basket is empty. Drop a mesh's file anywhere on the screen first."
      onChoose={onChoose}
      className={main ? MAIN : LOOK}
    >
      {label}…
    </Choose>
  );
}
