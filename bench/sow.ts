/** One more stroke among 100,000 sown props: changed, told to the worker and kept, against Immer over as many objects. */
import { produce } from "immer";
import { dressingSchema, packed } from "@/core/place";
import { unit } from "@/core/math";
import { changeBetween, emptyScene, sceneSchema, type Scene } from "@/core/scene";
import type { Contest } from "./row";

const SOWN = 100_000;
const A_STROKE = 1_000;
const STROKE = { on: "hill", from: [0, 0, 0] as [number, number, number] };

function sownScene(): Scene {
  const places = (s: number) => Array.from({ length: 3 * A_STROKE }, (_, k) => 100 * unit(s, 1, k, 0));
  const sown = Array.from({ length: SOWN / A_STROKE }, (_, s) => ({ ...STROKE, number: s + 1, places: packed(places(s)) })); // prettier-ignore
  const dressing = dressingSchema.parse({ id: "d", name: "d", where: { kind: "pinned", surfaces: ["hill"] }, sown });
  return sceneSchema.parse({ ...emptyScene("Sown"), dressings: [dressing] });
}

const peg = (k: number) => ({ on: "hill", point: [k, 0, k], prop: "buoy", added: true });

export function sowContest(): Contest {
  let scene = sownScene();
  let pegs = { pegs: Object.fromEntries(Array.from({ length: SOWN }, (_, k) => [k.toString(16).padStart(16, "f"), peg(k)])) }; // prettier-ignore
  let number = SOWN;
  return {
    name: "sow-100k",
    n: SOWN,
    peer: "immer, as many objects",
    ours: () => {
      const next = produce(scene, ({ dressings: [{ sown }] }) => void sown.push({ ...STROKE, number: ++number, places: packed([1, 2, 3]) })); // prettier-ignore
      structuredClone(changeBetween(scene, next, 1));
      structuredClone(next);
      scene = next;
    },
    theirs: () => {
      const next = produce(pegs, (draft) => void (draft.pegs[(++number).toString(16).padStart(16, "e")] = peg(number)));
      structuredClone(next);
      structuredClone(next);
      pegs = next;
    },
  };
}
