/** Surfaces as things to draw: from their files, or from the meshes that the worker made of numbers and lines. */
import { useEffect, useMemo } from "react";
import { BufferAttribute, BufferGeometry, DoubleSide, MeshStandardMaterial, Vector3 } from "three";
import { useShallow } from "zustand/react/shallow";
import type { Shape } from "@/core/mesh";
import type { Surface } from "@/core/scene";
import { useScene } from "@/store";
import { useMade } from "../state";
import { requestModel, useModels, verticesIn, type Model } from "./models";

/** What made surfaces are made of, to the eye: pale stone. */
const stone = new MeshStandardMaterial({ color: "#cfc4ab", roughness: 0.95, side: DoubleSide });

const drawn = new WeakMap<Shape, Model>();

/** A made mesh as it is drawn; the same as long as the mesh is the same. */
function madeModel(mesh: Shape): Model {
  let model = drawn.get(mesh);
  if (!model) {
    const geometry = new BufferGeometry();
    geometry.setAttribute("position", new BufferAttribute(Float32Array.from(mesh.position), 3));
    for (const { name, width, array } of mesh.attributes) {
      const own = { TEXCOORD_0: "uv", NORMAL: "normal" }[name];
      if (own) geometry.setAttribute(own, new BufferAttribute(array, width));
    }
    geometry.setIndex(new BufferAttribute(mesh.index, 1));
    if (!geometry.hasAttribute("normal")) geometry.computeVertexNormals();
    geometry.computeBoundingBox();
    const parts = [{ geometry, material: stone }];
    model = { parts, triangles: mesh.index.length / 3, box: geometry.boundingBox!, origin: new Vector3(), clips: [] };
    drawn.set(mesh, model);
  }
  return model;
}

// What is drawn no more gives the graphics card its memory back.
useMade.subscribe(({ meshes }, before) => {
  for (const [id, mesh] of before.meshes) {
    if (meshes.get(id) !== mesh) for (const { geometry } of drawn.get(mesh)?.parts ?? []) geometry.dispose();
  }
});

type Loaded = ReturnType<typeof useModels.getState>["models"];
type Made = ReturnType<typeof useMade.getState>["meshes"];

const loadedOf = ({ asset, made }: Surface, models: Loaded) => (made || asset === null ? undefined : models.get(asset));
const meshOf = ({ id, made }: Surface, meshes: Made) => (made ? meshes.get(id) : undefined);

function modelOf(loaded: ReturnType<typeof loadedOf>, mesh: Shape | undefined): Model | null {
  if (mesh) return madeModel(mesh);
  return loaded === undefined || typeof loaded === "string" ? null : loaded;
}

/** The model of a surface as it is known now; null where it is not. */
export const modelOfSurface = (surface: Surface): Model | null =>
  modelOf(loadedOf(surface, useModels.getState().models), meshOf(surface, useMade.getState().meshes));

/** The model of a surface; null until it is there, or when it cannot be drawn. */
export function useSurfaceModel(surface: Surface): Model | null {
  const { asset } = surface;
  useEffect(() => {
    if (asset !== null) void requestModel(asset);
  }, [asset]);
  const loaded = useModels(({ models }) => loadedOf(surface, models));
  const mesh = useMade(({ meshes }) => meshOf(surface, meshes));
  return modelOf(loaded, mesh);
}

/** The surfaces of the scene that are meant; the same list as long as they are the same. */
export const useSurfacesMeant = (isMeant: (surface: Surface) => boolean): readonly Surface[] =>
  useScene(useShallow(({ surfaces }) => surfaces.filter(isMeant)));

/** As {@link useSurfaceModel}, of several surfaces: those that can be drawn. The same as long as they and their models are. */
export function useSurfaceModels(surfaces: readonly Surface[]): { surface: Surface; model: Model }[] {
  const loaded = useModels(useShallow(({ models }) => surfaces.map((surface) => loadedOf(surface, models))));
  const made = useMade(useShallow(({ meshes }) => surfaces.map((surface) => meshOf(surface, meshes))));
  useEffect(() => {
    for (const { asset } of surfaces) if (asset !== null) void requestModel(asset);
  }, [surfaces]);
  return useMemo(
    () =>
      surfaces.flatMap((surface, i) => {
        const model = modelOf(loaded[i], made[i]);
        return model ? [{ surface, model }] : [];
      }),
    [surfaces, loaded, made],
  );
}

/** The middle of the upper side of a surface's box, in its own metres; its origin until it is there. */
export function topOf(surface: Surface): [number, number, number] {
  const model = modelOfSurface(surface);
  if (!model) return [0, 0, 0];
  const { min, max } = model.box;
  const { x, y, z } = model.origin;
  return [x + (min.x + max.x) / 2, y + max.y, z + (min.z + max.z) / 2];
}

/** The extents of a surface's box in its own directions, metres; zero until it is there. */
export function boxOf(surface: Surface): [wide: number, tall: number, deep: number] {
  const model = modelOfSurface(surface);
  if (!model) return [0, 0, 0];
  const { min, max } = model.box;
  return [max.x - min.x, max.y - min.y, max.z - min.z].map((side) => side * surface.scale) as [number, number, number];
}

/** The number of vertices of a surface's mesh; null until it is there. */
export function useVertexCount(surface: Surface): number | null {
  const model = useSurfaceModel(surface);
  return model && verticesIn(model);
}
