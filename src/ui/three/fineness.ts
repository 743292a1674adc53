/**
 * *How finely things are drawn*: in full, with soft shadows and what their materials say of gloss, or plainly, which takes a
 * machine without graphics hardware half the time. By choice, or as the machine can.
 */
import { MeshLambertMaterial, MeshStandardMaterial, type Material } from "three";
import { create } from "zustand";

export type Fineness = "machine" | "full" | "plain";

const KEPT = "fineness";

/** Names of what draws without graphics hardware. */
const SOFTWARE = /swiftshader|llvmpipe|softpipe|software|basic render/i;

/** Whether a renderer, by the name it gives itself, draws without graphics hardware. */
export const isSoftware = (renderer: string): boolean => SOFTWARE.test(renderer);

let software = false;

export function finenessChoice(): Fineness {
  const kept = globalThis.localStorage?.getItem(KEPT);
  return kept === "full" || kept === "plain" ? kept : "machine";
}

const isPlain = (): boolean => {
  const choice = finenessChoice();
  return choice === "plain" || (choice === "machine" && software);
};

/** Whether everything is drawn plainly at present. */
export const useFineness = create<{ plain: boolean }>()(() => ({ plain: isPlain() }));

const take = () => {
  const plain = isPlain();
  if (useFineness.getState().plain !== plain) useFineness.setState({ plain });
};

export function chooseFineness(choice: Fineness): void {
  localStorage.setItem(KEPT, choice);
  take();
}

/** Tells what draws on this machine; where nothing has been chosen it decides. */
export function drawnWith(renderer: string): void {
  software = isSoftware(renderer);
  take();
}

/** The choices as a menu lists them; the present one is marked. */
export const finenessChoices = () =>
  (
    [
      ["machine", "As finely as this machine draws well"],
      ["full", "With soft shadows"],
      ["plain", "Plainly, for slow machines"],
    ] as const
  ).map(([id, label], i) => ({
    id: `fineness ${id}`,
    label: finenessChoice() === id ? `${label} ✓` : label,
    ...(i === 0 && { group: "Drawn" }),
  }));

const plains = new WeakMap<Material, Material>();

/** A material as it is drawn plainly: the same colours and pictures, without gloss and relief. */
export function plainly(material: Material): Material {
  if (!(material instanceof MeshStandardMaterial)) return material;
  let plain = plains.get(material);
  if (!plain) {
    const { name, color, map, side, transparent, opacity, alphaTest, vertexColors, emissive, emissiveMap } = material;
    const { emissiveIntensity, depthWrite, flatShading } = material;
    plain = new MeshLambertMaterial({
      ...{ name, color, map, side, transparent, opacity, alphaTest, vertexColors, emissive, emissiveMap },
      ...{ emissiveIntensity, depthWrite, flatShading },
    });
    plains.set(material, plain);
  }
  return plain;
}

/** A material, or those of a mesh's groups, as they are to be drawn now. */
export function asDrawn<M extends Material | Material[]>(material: M, plain: boolean): M {
  if (!plain) return material;
  return (Array.isArray(material) ? material.map(plainly) : plainly(material)) as M;
}
