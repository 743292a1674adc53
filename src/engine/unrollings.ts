/**
 * *Unrollings that are kept*, so that opening a scene unrolls no file anew: each by the hash of the file and the seams that were
 * picked by hand. What is made here is unrolled again, as what it is made of may be anything.
 */
import type { LaidOnEdges, Line } from "@/core/line";
import type { Laying, Unrolled } from "@/core/mesh";
import { meshAssetOf, type Scene } from "@/core/scene";

/** Meshes of fewer triangles are unrolled sooner than they are read. */
const WORTH = 1000;

/** How lines go along the edges of a surface at which that is cut open. */
export function seamsOf(
  surface: string,
  laying: Laying | undefined,
  lineOf: (id: string) => Line | undefined,
): LaidOnEdges[] {
  return (laying?.seams ?? []).flatMap((id) => {
    const laid = lineOf(id)?.laid;
    return laid?.kind === "edges" && laid.on === surface ? [laid] : [];
  });
}

/** Raised whenever the same mesh is unrolled otherwise than before, so that what was kept until then counts for nothing. */
const VERSION = 2;

/** Where it was taken and what it follows is all that counts of a seam. */
export const nameOfUnrolling = (asset: string, seams: readonly LaidOnEdges[]): string =>
  `unrolled ${VERSION} ${asset} ${JSON.stringify(seams.map(({ follow, at, bend }) => [follow, at, bend]))}`;

/** The names of all that a scene may ask for. */
export function unrollingsOf({ surfaces, lines }: Pick<Scene, "surfaces" | "lines">): Map<string, string> {
  return new Map(
    surfaces.flatMap((surface) => {
      const asset = surface.made ? null : meshAssetOf(surface);
      const seams = seamsOf(surface.id, surface.laying, (id) => lines.find((line) => line.id === id));
      return asset === null ? [] : [[surface.id, nameOfUnrolling(asset, seams)]];
    }),
  );
}

export const isWorthKeeping = ({ index }: Unrolled): boolean => index.length / 3 >= WORTH;

export const bytesOfUnrolling = ({ index, places }: Unrolled): number => index.byteLength + places.byteLength;
