/** Surfaces as things to draw: from their files, or from the numbers and lines that they are made of. */
import { useEffect, useMemo } from "react";
import { BufferAttribute, BufferGeometry, DoubleSide, MeshStandardMaterial } from "three";
import { useShallow } from "zustand/react/shallow";
import { linesOf, madeMesh, type Made } from "@/core/made";
import { GuideLine, type Line } from "@/core/line";
import type { Scene, Surface } from "@/core/scene";
import { useScene } from "@/store";
import { requestModel, useModels, type Model } from "./models";

/** What made surfaces are made of, to the eye: pale stone. */
const stone = new MeshStandardMaterial({ color: "#cfc4ab", roughness: 0.95, side: DoubleSide });

const known = new WeakMap<Made, { lines: readonly Line[]; model: Model | null }>();

/** The model of a made surface; null while lines that it is made of are not there. */
function madeModel(made: Made, lines: readonly Line[]): Model | null {
  const before = known.get(made);
  if (before && before.lines.length === lines.length && before.lines.every((line, i) => line === lines[i])) {
    return before.model;
  }
  // Surfaces are made of lines as they are drawn, before these are laid onto anything.
  const mesh = madeMesh(made, new Map(lines.map((line) => [line.id, new GuideLine(line)])));
  let model: Model | null = null;
  if (mesh) {
    const geometry = new BufferGeometry();
    geometry.setAttribute("position", new BufferAttribute(mesh.position, 3));
    for (const { name, width, array } of mesh.attributes) {
      if (name === "TEXCOORD_0") geometry.setAttribute("uv", new BufferAttribute(array, width));
    }
    geometry.setIndex(new BufferAttribute(mesh.index, 1));
    geometry.computeVertexNormals();
    geometry.computeBoundingBox();
    model = { parts: [{ geometry, material: stone }], triangles: mesh.index.length / 3, box: geometry.boundingBox! };
  }
  known.set(made, { lines, model });
  return model;
}

const linesFor = ({ lines }: Pick<Scene, "lines">, made: Made | null): Line[] => {
  const wanted = made ? linesOf(made) : [];
  return wanted.length > 0 ? lines.filter(({ id }) => wanted.includes(id)) : [];
};

/** The model of a surface; null until it is there, or when it cannot be drawn. */
export function useSurfaceModel({ asset, made }: Surface): Model | null {
  const loaded = useModels(({ models }) => (asset === null ? undefined : models.get(asset)));
  const lines = useScene(useShallow((scene) => linesFor(scene, made)));
  useEffect(() => {
    if (asset !== null) void requestModel(asset);
  }, [asset]);
  return useMemo(() => {
    if (made) return madeModel(made, lines);
    return loaded === undefined || typeof loaded === "string" ? null : loaded;
  }, [made, lines, loaded]);
}

/** As {@link useSurfaceModel}, of several surfaces: those that can be drawn. */
export function useSurfaceModels(surfaces: readonly Surface[]): { surface: Surface; model: Model }[] {
  const models = useModels((state) => state.models);
  const lines = useScene(useShallow((scene) => surfaces.flatMap(({ made }) => linesFor(scene, made))));
  useEffect(() => {
    for (const { asset } of surfaces) if (asset !== null) void requestModel(asset);
  }, [surfaces]);
  return useMemo(
    () =>
      surfaces.flatMap((surface) => {
        const model = modelOf(surface, models, { lines });
        return model ? [{ surface, model }] : [];
      }),
    [surfaces, models, lines],
  );
}

function modelOf(
  { asset, made }: Surface,
  models: ReturnType<typeof useModels.getState>["models"],
  scene: Pick<Scene, "lines">,
): Model | null {
  if (made) return madeModel(made, linesFor(scene, made));
  const model = asset === null ? undefined : models.get(asset);
  return model === undefined || typeof model === "string" ? null : model;
}

/** The extents of a surface's box in its own directions, metres; zero until it is loaded. */
export function boxOf(surface: Surface, scene: Pick<Scene, "lines">): [wide: number, tall: number, deep: number] {
  const model = modelOf(surface, useModels.getState().models, scene);
  if (!model) return [0, 0, 0];
  const { min, max } = model.box;
  return [max.x - min.x, max.y - min.y, max.z - min.z].map((side) => side * surface.scale) as [number, number, number];
}
