/** Surfaces that move, as things to draw: the parts of their models with the vertices of the moment written into them. */
import { invalidate } from "@react-three/fiber";
import { useLayoutEffect } from "react";
import { BufferAttribute, BufferGeometry, DynamicDrawUsage, Mesh } from "three";
import { acceleratedRaycast } from "three-mesh-bvh";
import type { MovedShape } from "@/core/movers";
import type { Prop } from "@/core/scene";
import { useMoved, useStills } from "../state";
import { lookOf, preparedAs, verticesIn, type Model } from "./models";

/** What is drawn of each surface that moves, with the model that it was made of. */
const moving = new Map<string, { of: Model; model: Model; shown: MovedShape | null }>();

// What is drawn no more gives the graphics card its memory back.
useMoved.subscribe(({ shapes }, before) => {
  for (const id of before.shapes.keys()) if (!shapes.has(id)) forget(id);
});

function forget(id: string): void {
  for (const { geometry } of moving.get(id)?.model.parts ?? []) geometry.dispose();
  moving.delete(id);
}

/** A model whose vertices may move: what it is made of otherwise is shared. */
function movable({ parts, box, ...rest }: Model): Model {
  return {
    ...rest,
    box: box.clone(),
    parts: parts.map(({ geometry, material }) => {
      const own = new BufferGeometry();
      own.setIndex(geometry.index);
      for (const [name, attribute] of Object.entries(geometry.attributes)) own.setAttribute(name, attribute);
      for (const name of ["position", "normal"]) {
        const array = new Float32Array(3 * geometry.getAttribute("position").count);
        own.setAttribute(name, new BufferAttribute(array, 3).setUsage(DynamicDrawUsage));
      }
      own.deleteAttribute("tangent");
      return { geometry: own, material };
    }),
  };
}

function write({ parts, origin, box }: Model, { position, normal }: MovedShape): void {
  let from = 0;
  box.setFromArray(position).translate(origin.clone().negate());
  for (const { geometry } of parts) {
    const [places, normals] = ["position", "normal"].map((name) => geometry.getAttribute(name) as BufferAttribute);
    const to = from + places.array.length;
    places.array.set(position.subarray(from, to));
    normals.array.set(normal.subarray(from, to));
    if (origin.lengthSq() > 0) geometry.translate(-origin.x, -origin.y, -origin.z);
    places.needsUpdate = normals.needsUpdate = true;
    geometry.userData.fitted = false;
    from = to;
  }
}

/** The model of a surface as it is at the moment; the same model where it keeps its shape. */
export function useMovedModel(id: string, model: Model | null): Model | null {
  const shape = useMoved(({ shapes }) => shapes.get(id));
  const shown = model && shape ? movedModel(id, model, shape) : model;
  useLayoutEffect(() => {
    const own = moving.get(id);
    if (!own || !shape || own.shown === shape) return;
    write(own.model, shape);
    own.shown = shape;
    invalidate();
  }, [id, model, shape]);
  return shown;
}

function movedModel(id: string, of: Model, { position }: MovedShape): Model {
  if (3 * verticesIn(of) !== position.length) return of;
  const known = moving.get(id);
  if (known?.of === of) return known.model;
  forget(id);
  const model = movable(of);
  moving.set(id, { of, model, shown: null });
  return model;
}

/** Whether a model is one whose vertices move. */
export const isMoving = (id: string, model: Model): boolean => moving.get(id)?.model === model;

/** What a ray meets of a mesh that moves: its tree is fitted to where it is only when somebody looks. */
export const raycastMoving: Mesh["raycast"] = function (this: Mesh, ...args) {
  fitted(this.geometry);
  acceleratedRaycast.apply(this, args);
};

/** Sees to it that a geometry's tree is there, and fitted to where its vertices are. */
export function fitted(geometry: BufferGeometry): void {
  if (!geometry.boundsTree) geometry.computeBoundsTree();
  else if (geometry.userData.fitted === false) geometry.boundsTree.refit();
  geometry.userData.fitted = true;
}

/** Props at stills of their clips, by what these look like and how the prop is prepared. */
const stills = new Map<MovedShape, Map<string, Model>>();

useStills.subscribe(({ shapes }) => {
  const known = new Set(shapes.values());
  for (const [shape, models] of stills) {
    if (known.has(shape)) continue;
    for (const { parts } of models.values()) for (const { geometry } of parts) geometry.dispose();
    stills.delete(shape);
  }
});

/** A prop as it stands at a still; null where that is of another file. */
export function stillModel(prop: Prop, of: Model, shape: MovedShape): Model | null {
  if (3 * verticesIn(of) !== shape.position.length) return null;
  const models = stills.get(shape) ?? new Map<string, Model>();
  stills.set(shape, models);
  const look = lookOf(prop);
  let model = models.get(look);
  if (!model) {
    const own = movable(of);
    write(own, shape);
    model = preparedAs(prop, own);
    for (const { geometry } of own.parts) geometry.dispose();
    models.set(look, model);
  }
  return model;
}
