/** Surfaces that are part of assemblies, as what stands in these. */
import { query, type Ask } from "@/core/graph";
import { hashText } from "@/core/math";
import { onePlacement, type Gathered, type Placements } from "@/core/place";
import { isSeenPart } from "@/core/scene";
import { idsIn, ownSurface, plainId } from "./scopes";
import * as things from "./things";

export interface SeenSurface {
  name: string;
  /** A number of its own, which tells its key from those of others. */
  salt: number;
  /** Itself, as the one thing that stands there. */
  placements: Placements;
}

const seenSurface = query("seen surface", (ask, id): SeenSurface | null => {
  const own = ask(ownSurface, id);
  const stand = own && isSeenPart(own) ? ask(things.stand, id) : undefined;
  if (!own || !stand) return null;
  const plain = plainId(ask, id);
  return { name: own.name, salt: hashText(plain), placements: onePlacement(plain, stand) };
});

/** The surfaces that are seen of an assembly, or of a variant of one. */
export const seenSurfaces = (ask: Ask, scope: string): SeenSurface[] =>
  idsIn(ask, "surfaces", scope).flatMap((id) => ask(seenSurface, id) ?? []);

/** The same as what is gathered of it. */
export const seenIn = (ask: Ask, scope: string): Gathered[] =>
  seenSurfaces(ask, scope).map(({ salt, placements }) => ({ salt, inside: { placements, leftOut: 0 } }));
