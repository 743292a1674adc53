/** Pictures of props as they stand against a line, seen from its side; made when the strip first asks for them. */
import { Group, Quaternion, Vector3 } from "three";
import { create } from "zustand";
import type { Quat } from "@/core/math";
import type { Prop } from "@/core/scene";
import { lookOf, preparedModel, useModels } from "./models";
import { AT_ONCE, renderModels, squareOn, type Sitter } from "./pictures";

/** Pictures by looks and poses; null where there is next to nothing to be seen. */
export const useElevations = create<{ pictures: ReadonlyMap<string, HTMLCanvasElement | null> }>()(() => ({
  pictures: new Map(),
}));

/** So many are kept; the oldest go first. */
const MAX_PICTURES = 600;

interface Wanted {
  prop: Prop;
  turn: Quat;
  mirrored: boolean;
}

const waiting = new Map<string, Wanted>();

/**
 * The picture of a prop in a pose: the whole of its box as it stands, from edge to edge; undefined until it is made.
 *
 * @param turn in the frame of the line: X to the left, Y up, Z along
 * @param pose what tells poses apart
 */
export function elevationOf(wanted: Wanted, pose: string): HTMLCanvasElement | null | undefined {
  const name = `${lookOf(wanted.prop)} ${pose}`;
  const made = useElevations.getState().pictures.get(name);
  if (made === undefined && !waiting.has(name)) {
    waiting.set(name, wanted);
    if (waiting.size === 1) setTimeout(work, 0);
  }
  return made;
}

function work(): void {
  const sitters = new Map<string, Sitter>();
  for (const [name, wanted] of [...waiting].slice(0, AT_ONCE)) {
    waiting.delete(name);
    const sitter = sitterFor(wanted);
    // What has not come yet is asked for again when the strip is drawn anew.
    if (sitter) sitters.set(name, sitter);
  }
  const pictures = sitters.size > 0 ? renderModels([...sitters.values()]) : [];
  const made = [...sitters.keys()].map((name, i) => [name, pictures[i]] as const);
  if (made.length > 0) {
    useElevations.setState(({ pictures }) => ({ pictures: new Map([...pictures, ...made].slice(-MAX_PICTURES)) }));
  }
  if (waiting.size > 0) setTimeout(work, 0);
}

function sitterFor({ prop, turn, mirrored }: Wanted): Sitter | undefined {
  const model = useModels.getState().models.get(prop.asset);
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
