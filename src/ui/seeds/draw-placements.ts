/** Small pictures of what a dressing comes to, all seen from the same side. */
import {
  AmbientLight,
  Box3,
  DirectionalLight,
  Group,
  HemisphereLight,
  InstancedBufferAttribute,
  InstancedMesh,
  Matrix4,
  PerspectiveCamera,
  Scene,
  Vector3,
  WebGLRenderer,
} from "three";
import { CHUNK, type Drawn } from "@/core/place";
import type { Prop } from "@/core/scene";
import type { ShownResult } from "@/engine/engine";
import { modelOf, preparedModel, transformed, useModels, type Model } from "../assets";
import { wholeOf } from "../state";
import { asDrawn, useFineness } from "../three";
import { cameraNow, distanceToSee, boxAroundAll } from "../view";

export const PICTURE = { width: 264, height: 150 } as const;

/** The view's, degrees. */
const FIELD_OF_VIEW = 42;
const MIRROR = new Matrix4().makeScale(-1, 1, 1);
/** More placements than this are not drawn into a picture of this size. */
const MAX_DRAWN = 20_000;

/** Whether a picture frames the dressing, or shows what the view shows. */
export type SeenBy = "closely" | "view";

type Seeded = Pick<ShownResult, "placements" | "apart" | "drawn">;

let renderer: WebGLRenderer | null = null;

/** The picture as a data URL. What is bent or clipped is drawn stiff: a seed does not change that. */
export function pictureOf(seeded: Seeded, props: readonly Prop[], through: SeenBy): string {
  const { drawn } = seeded;
  const placements = wholeOf(seeded);
  const group = new Group();
  const models = placements.props.map((id) => {
    const prop = props.find((one) => one.id === id);
    const loaded = prop && useModels.getState().models.get(modelOf(prop));
    return prop && loaded && typeof loaded !== "string" ? preparedModel(prop, loaded) : null;
  });
  const turned = models.map(() => null as Model | null);
  for (let c = 0; c < drawn.prop.length; c++) {
    const index = drawn.prop[c];
    const model = models[index];
    if (!model || drawn.from[c] > MAX_DRAWN) continue;
    const isMirrored = drawn.kind[c] === CHUNK.mirrored;
    addChunk(group, isMirrored ? (turned[index] ??= transformed(model, MIRROR)) : model, drawn, c);
  }
  group.position.set(...placements.origin);
  const scene = new Scene();
  const sun = new DirectionalLight("#fff4dd", 2.6);
  sun.position.set(2, 4, 3);
  scene.add(group, sun, new HemisphereLight("#eaf3f4", "#c8b48c", 1.6), new AmbientLight("#ffffff", 0.3));
  return render(scene, through === "view" ? null : boxAroundAll(placements, drawn));
}

function addChunk(group: Group, model: Model, { matrices, colours, from }: Drawn, c: number): void {
  for (const { geometry, material } of model.parts) {
    const mesh = new InstancedMesh(geometry, asDrawn(material, useFineness.getState().plain), from[c + 1] - from[c]);
    mesh.instanceMatrix = new InstancedBufferAttribute(matrices.subarray(16 * from[c], 16 * from[c + 1]), 16);
    if (colours) mesh.instanceColor = new InstancedBufferAttribute(colours.subarray(3 * from[c], 3 * from[c + 1]), 3);
    mesh.frustumCulled = false;
    group.add(mesh);
  }
}

/** Seen from where the camera of the view is: with the whole box just in the picture, or, without one, as the view shows it. */
function render(scene: Scene, box: Box3 | null): string {
  const { width, height } = PICTURE;
  if (!renderer) {
    renderer = new WebGLRenderer({ alpha: true, antialias: true, preserveDrawingBuffer: true });
    renderer.setSize(2 * width, 2 * height, false);
    renderer.setClearColor(0x000000, 0);
  }
  if (!box) {
    const camera = new PerspectiveCamera(FIELD_OF_VIEW, width / height, 0.05, 1e5);
    camera.position.set(...cameraNow.position);
    camera.lookAt(...cameraNow.target);
    camera.updateMatrixWorld();
    renderer.render(scene, camera);
    return renderer.domElement.toDataURL();
  }
  const middle = box.getCenter(new Vector3());
  const side = new Vector3(...cameraNow.position).sub(new Vector3(...cameraNow.target)).normalize();
  const camera = new PerspectiveCamera(30, width / height, 0.01, 1e5);
  camera.position.copy(middle).add(side);
  camera.lookAt(middle);
  camera.updateMatrixWorld();
  camera.position.addScaledVector(side, distanceToSee(box, middle, camera) - 1);
  camera.updateMatrixWorld();
  renderer.render(scene, camera);
  return renderer.domElement.toDataURL();
}
