/** How surfaces are laid flat: turned, flipped, as another one lies. */
import type { Laying } from "@/core/mesh";
import { omit } from "@/core/schema";
import { scene } from "./common";
import { editSurface, surfaceOf } from "./surfaces";

type Turn = Pick<Laying, "quarters" | "flip">;

/** A quarter to the left. */
export const quarterOn = ({ quarters, flip }: Turn): Turn => ({ quarters: (quarters + 1) % 4, flip });

/** Left for right, as it lies now. */
export const flipped = ({ quarters, flip }: Turn): Turn => ({ quarters: (4 - quarters) % 4, flip: !flip });

/** What went to the right goes up, and the other way round. */
export const swapped = ({ quarters, flip }: Turn): Turn => ({ quarters: (7 - quarters) % 4, flip: !flip });

export const turnLaying = (id: string, label: string, turn: (now: Turn) => Turn): void =>
  editSurface(id, label, ({ laying }) => void Object.assign(laying, turn(laying)));

/** A surface takes another one's directions. */
export function layAs(id: string, other: string): void {
  const from = surfaceOf(scene(), other)?.laying;
  // Its seams are lines along its own edges.
  if (from) editSurface(id, "Lay as another", (draft) => void Object.assign(draft.laying, omit(from, "seams")));
}
