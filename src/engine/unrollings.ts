/**
 * *Unrollings that are kept*, so that opening a scene unrolls nothing anew: each by what the mesh is known by (the hash of its
 * file, of what it is made of, or the job that joined it) and the seams that were picked by hand.
 */
import { hashOf } from "@/core/files";
import { isFamily, type LaidOnEdges, type Line } from "@/core/line";
import { beforeTravel, isSolid, linesOf, type Made } from "@/core/made";
import type { Laying, Unrolled } from "@/core/mesh";
import { meshAssetOf, type Scene, type Surface } from "@/core/scene";
import { omit } from "@/core/schema";

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

/** Where it was taken and what it follows is all that counts of a seam. @param mesh what the mesh is known by */
export const nameOfUnrolling = (mesh: string, seams: readonly LaidOnEdges[]): string =>
  `unrolled ${VERSION} ${mesh} ${JSON.stringify(seams.map(({ follow, at, bend }) => [follow, at, bend]))}`;

/** What of a surface says which mesh it has. */
export interface Form {
  made: Made | null;
  asset: string | null;
}

export const formOf = (surface: Surface): Form => ({
  made: surface.made && beforeTravel(surface.made),
  asset: meshAssetOf(surface),
});

/** What of a line has no part in how it is sketched. */
const BESIDE: ReadonlySet<string> = new Set(["id", "name", "number", "source", "courses", "laid"]);

/** Copies of copies are known no deeper than this. */
const DEEPEST = 8;

/**
 * What a surface's mesh is known by, before there is one; null where it is made of what moves along, or is not joined yet.
 *
 * @param solid what a surface that is made of closed bodies is known by
 */
export function nameOfMesh(
  id: string,
  formNamed: (id: string) => Form | undefined,
  lineNamed: (id: string) => Line | undefined,
  solid: (id: string) => string | null,
  depth = 0,
): string | null {
  const form = formNamed(id);
  if (!form?.made) return form?.asset ?? null;
  const { made } = form;
  if (isSolid(made)) return solid(id);
  let source: string | null = "";
  if (made.kind === "smoothed")
    source = made.of === null || depth > DEEPEST ? null : nameOfMesh(made.of, formNamed, lineNamed, solid, depth + 1);
  const lines = linesOf(made).map(lineNamed);
  const alone = lines.every((line) => line && !isFamily(line) && !line.knots.some(({ held }) => held));
  if (source === null || !alone) return null;
  const shapes = (lines as Line[]).map((line) => Object.entries(line).filter(([part]) => !BESIDE.has(part)));
  const said = JSON.stringify([omit(made as Made & { of: null }, "of"), shapes, source]);
  return `made ${hashOf(new TextEncoder().encode(said))}`;
}

/** The names of all that a scene may ask for; of what is joined, once that is known. */
export function unrollingsOf(
  { surfaces, lines }: Pick<Scene, "surfaces" | "lines">,
  solid: (id: string) => string | null = () => null,
): Map<string, string> {
  const formNamed = (id: string) => {
    const surface = surfaces.find((one) => one.id === id);
    return surface && formOf(surface);
  };
  const lineNamed = (id: string) => (lines as Line[]).find((line) => line.id === id);
  return new Map(
    surfaces.flatMap(({ id, laying, made }) => {
      // All others that are made here know how they lie flat.
      const unrolls = !made || laying.by === "unrolled" || made.kind === "smoothed" || isSolid(made);
      const mesh = unrolls ? nameOfMesh(id, formNamed, lineNamed, solid) : null;
      return mesh === null ? [] : [[id, nameOfUnrolling(mesh, seamsOf(id, laying, lineNamed))]];
    }),
  );
}

export const isWorthKeeping = ({ index }: Unrolled): boolean => index.length / 3 >= WORTH;

export const bytesOfUnrolling = ({ index, places }: Unrolled): number => index.byteLength + places.byteLength;
