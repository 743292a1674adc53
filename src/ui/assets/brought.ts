/** What a prop's file brought, in words. */
import type { Brought } from "@/core/scene";

type What = Brought["mended"][number]["what"];

const SENTENCES: Readonly<Record<What, (part: string) => string>> = {
  scale: (part) => `${part} had a leftover scale; it is worked into the mesh.`,
  uneven: (part) => `${part} had an uneven scale; it is worked into the mesh.`,
  mirrored: (part) => `${part} was mirrored; its triangles are turned round, so that they show their fronts.`,
  normals: (part) => `${part} had no normals; they are worked out from its triangles.`,
  far: () => "The mesh lies far from its file's origin; the prop is taken by its bottom instead.",
  lines: (part) => `${part === "" ? "The file" : part} has lines or points beside its triangles; they are left out.`,
  morphs: (part) => `${part} has other shapes to morph into; it stays as it is at rest.`,
  numbers: (part) => `${part} had values that are no numbers; they are worked out anew, or count as 0.`,
  instances: (part) => `${part} was shown many times by one node; each is a part of its own now.`,
  missing: (part) => `${part} did not come with the file; it is shown without.`,
  extension: (part) => `The file uses ${part}, an extension that is not known here; it is shown without.`,
  moving: (part) => `${part === "" ? "The file" : part} has motion or bones; the prop stands as it is at rest.`,
};

export const mendedSentences = ({ mended }: Brought): string[] =>
  mended.map(({ what, part }) => SENTENCES[what](part === "" ? "" : `“${part}”`));

/** Parts, materials, textures and clips, counted; what there is none of is not spoken of. */
export function broughtFacts({ parts, materials, textures, clips }: Brought): string {
  const counted = (n: number, one: string) => (n === 0 ? [] : `${n} ${one}${n === 1 ? "" : "s"}`);
  return [
    counted(parts, "part"),
    counted(materials, "material"),
    counted(textures, "texture"),
    counted(clips.length, "clip"),
  ]
    .flat()
    .join(" · ");
}

/** Units that a file may have been made in, by the factor that brings it to metres. */
export const UNITS = [
  { label: "centimetres", size: 0.01 },
  { label: "millimetres", size: 0.001 },
  { label: "inches", size: 0.0254 },
] as const;
