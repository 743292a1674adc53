/** Pictures of props as they stand against a line, seen from its side; made when the strip first asks for them. */
import { Group, Quaternion, Vector3 } from "three";
import type { Quat } from "@/core/math";
import type { Prop } from "@/core/scene";
import { lookOf, modelOf, preparedModel, useModels } from "./models";
import { AT_ONCE, renderModels, squareOn, type Sitter } from "./pictures";
import { shelfOf } from "./shelf";

interface Wanted {
  prop: Prop;
  turn: Quat;
  mirrored: boolean;
}

/** By looks and poses; null where there is next to nothing to be seen. */
const shelf = shelfOf<Wanted, HTMLCanvasElement | null>({ most: 600, atOnce: AT_ONCE, make });

export const useElevations = shelf.useShelf;

/**
 * The picture of a prop in a pose: the whole of its box as it stands, from edge to edge; undefined until it is made.
 *
 * @param turn in the frame of the line: X to the left, Y up, Z along
 * @param pose what tells poses apart
 */
export const elevationOf = (wanted: Wanted, pose: string): HTMLCanvasElement | null | undefined =>
  shelf.ask(`${lookOf(wanted.prop)} ${pose}`, wanted);

function make(wanted: readonly Wanted[]): (HTMLCanvasElement | null | undefined)[] {
  const sitters = wanted.map(sitterFor);
  const pictures = renderModels(sitters.filter((sitter) => sitter !== undefined));
  let next = 0;
  return sitters.map((sitter) => sitter && pictures[next++]);
}

function sitterFor({ prop, turn, mirrored }: Wanted): Sitter | undefined {
  const model = useModels.getState().models.get(modelOf(prop));
  if (!model || typeof model === "string") return undefined;
  const prepared = preparedModel(prop, model);
  const group = new Group();
  group.quaternion.copy(new Quaternion(...turn));
  if (mirrored) group.scale.x = -1;
  group.updateMatrixWorld();
  const box = prepared.box.clone().applyMatrix4(group.matrixWorld);
  const size = box.getSize(new Vector3());
  // From the right of the line, which is at −X of its frame.
  return { model: prepared, group, shot: squareOn(box, new Vector3(-1, 0, 0), size.z, size.y) };
}
