/** *Smooth it for this*: a dressing goes over to copies of its surfaces without their creases, and keeps all that was set by hand. */
import { hexOf, keyOfHex, keyOnOther, type Dressing } from "@/core/place";
import { madeSchema } from "@/core/made";
import { freeName, newId, surfaceSchema, type Scene, type Surface } from "@/core/scene";
import { dressingOf, store } from "./common";
import { hideParts } from "./made";
import type { Draft } from "immer";

/** Smoothed once more no further than this; what is still sharp then stays so. */
const MOST_ROUNDS = 4;

/** Parted so often at first, but for meshes that are fine by themselves to no more than so many triangles. */
const FIRST_ROUNDS = 3;
const FINE = 200_000;

export function smoothFor(id: string): void {
  store().change("Smooth it for this", (draft) => {
    const dressing = dressingOf(draft, id);
    if (!dressing) return;
    for (const on of [...dressing.where.surfaces]) {
      const surface = draft.surfaces.find((one) => one.id === on);
      if (surface?.made?.kind === "smoothed") surface.made.rounds = Math.min(MOST_ROUNDS, surface.made.rounds + 1);
      else if (surface) {
        const copy = smoothedCopy(
          surface as unknown as Surface,
          draft.surfaces.map(({ name }) => name),
        );
        draft.surfaces.push(copy as unknown as Draft<Surface>);
        goOver(dressing, on, copy.id);
        // What else lies on it goes on to do so.
        if (!standsElse(draft, on)) hideParts(draft, [on], true);
      }
    }
  });
}

/** Where it stands, and moved as it is, but for what its file says of its own vertices. */
function smoothedCopy(surface: Surface, taken: readonly string[]): Surface {
  let rounds = FIRST_ROUNDS;
  while (rounds > 1 && surface.triangles * 4 ** rounds > FINE) rounds--;
  return surfaceSchema.parse({
    ...surface,
    id: newId(),
    name: freeName(`${surface.name}, smoothed`, taken),
    made: madeSchema.parse({ kind: "smoothed", of: surface.id, rounds }),
    asset: null,
    standIn: null,
    movers: surface.movers.filter(({ kind }) => kind !== "file" && kind !== "replay"),
  });
}

const standsElse = (draft: Draft<Scene>, id: string): boolean =>
  draft.dressings.some(
    ({ where, fit }) => where.surfaces.includes(id) || where.volumes.includes(id) || fit.onto.includes(id),
  ) || draft.lines.some(({ laid }) => laid?.on.includes(id));

/** A dressing lies on another surface of the same shape, with its pegs and what was painted and sown. */
function goOver(dressing: Draft<Dressing>, from: string, to: string): void {
  dressing.where.surfaces = dressing.where.surfaces.map((one) => (one === from ? to : one));
  dressing.fit.onto = dressing.fit.onto.map((one) => (one === from ? to : one));
  for (const stroke of [...dressing.gaps.paint.strokes, ...dressing.sown]) if (stroke.on === from) stroke.on = to;
  for (const [hex, peg] of Object.entries(dressing.pegs)) {
    if (peg.on !== from) continue;
    const key = peg.added ? keyOfHex(hex) : keyOnOther(keyOfHex(hex), to, dressing.where as Dressing["where"], []);
    delete dressing.pegs[hex];
    if (key !== null) dressing.pegs[hexOf(key)] = { ...peg, on: to };
  }
}
