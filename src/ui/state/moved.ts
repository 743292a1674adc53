/** Surfaces that have another shape at the moment than at rest, as the worker tells of them, in the coordinates of their files. */
import { create } from "zustand";
import { Graph, input, query } from "@/core/graph";
import { multiply, rotate, type Vec3 } from "@/core/math";
import { bind, carryPoints, WorldMesh, type Shape, type Stand } from "@/core/mesh";
import { boundPlace, frameOnMesh } from "@/core/place";
import { carryBetween, type Carry, type Frame } from "@/core/tie";
import type { MovedShape } from "@/core/movers";
import { knowing, type Told } from "@/engine/told";

interface Moved {
  shapes: ReadonlyMap<string, MovedShape>;
  /** Meshes at rest of all surfaces that have movers. */
  rest: ReadonlyMap<string, Shape>;
}

const nothing = (): Moved => ({ shapes: new Map(), rest: new Map() });

export const useMoved = create<Moved>()(nothing);

const restInput = input<Shape>("rest");
const shapeInput = input<MovedShape>("moved shape");
const restMesh = query("rest mesh", (ask, id) => {
  const { position, index } = ask(restInput, id)!;
  return new WorldMesh(id, Float64Array.from(position), index);
});
const movedMesh = query("moved mesh", (ask, id) => {
  const { index } = ask(restInput, id)!;
  return new WorldMesh(id, Float64Array.from(ask(shapeInput, id)!.position), index);
});
let graph = new Graph();

export const putMovable = (movable: Told<Shape>): void => {
  useMoved.setState(({ rest }) => ({ rest: knowing(rest, movable) }));
  for (const id of movable.gone) graph.forget(id);
};

export const putMoved = (moved: Told<MovedShape>): void =>
  useMoved.setState(({ shapes }) => ({ shapes: knowing(shapes, moved) }));

/** What the files of props look like at moments of their clips, by `stillKey`. */
export const useStills = create<{ shapes: ReadonlyMap<string, MovedShape> }>()(() => ({ shapes: new Map() }));

export const putStills = (stills: Told<MovedShape>): void =>
  useStills.setState(({ shapes }) => ({ shapes: knowing(shapes, stills) }));

export function forgetMoved(): void {
  useMoved.setState(nothing());
  useStills.setState({ shapes: new Map() });
  graph = new Graph();
}

/**
 * How far a place on a surface has gone from rest by the surface's movers; null for not at all.
 *
 * @param at in the coordinates of its file
 */
export function carriedByMovers(id: string, at: Vec3, { position, rotation, scale }: Stand): Carry | null {
  const { shapes, rest } = useMoved.getState();
  const [shape, mesh] = [shapes.get(id), rest.get(id)];
  if (!shape || shape.position.length !== mesh?.position.length) return null;
  graph.set(restInput, id, mesh);
  graph.set(shapeInput, id, shape);
  const own = graph.get(restMesh, id);
  const bound = boundPlace(own, at);
  const inWorld = (frame: Frame | null): Frame | null => {
    if (!frame) return null;
    const [x, y, z] = rotate(rotation, frame.position.map((one) => scale * one) as unknown as Vec3);
    return {
      position: [position[0] + x, position[1] + y, position[2] + z],
      rotation: multiply(rotation, frame.rotation),
    };
  };
  const [before, now] = [own, graph.get(movedMesh, id)].map((one) => inWorld(frameOnMesh(bound, one)));
  return before && now && carryBetween(before, now);
}

/** Where a point at a surface as it is seen, in the coordinates of its file, is when the surface is at rest. */
export function atRest(id: string, point: Vec3): Vec3 {
  const { shapes, rest } = useMoved.getState();
  const [shape, mesh] = [shapes.get(id), rest.get(id)];
  if (!shape || shape.position.length !== mesh?.position.length) return point;
  graph.set(restInput, id, mesh);
  graph.set(shapeInput, id, shape);
  const bound = bind([graph.get(movedMesh, id)], Uint16Array.of(0), Float64Array.from(point), null);
  const out = Float64Array.from(point);
  carryPoints(bound, [graph.get(restMesh, id)], out);
  return [out[0], out[1], out[2]];
}
