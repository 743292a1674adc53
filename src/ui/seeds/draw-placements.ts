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
import type { Placements } from "@/core/place";
import { preparedBounds, type Prop } from "@/core/scene";
import { preparedModel, transformed, useModels, type Model } from "../assets/models";
import { cameraNow } from "../view/CameraRig";
import { distanceToSee } from "../view/framing";
import { boxAround, instancesOf, membersOf } from "../view/placed";

export const PICTURE = { width: 264, height: 150 } as const;

const MIRROR = new Matrix4().makeScale(-1, 1, 1);
/** More placements than this are not drawn into a picture of this size. */
const MAX_DRAWN = 20_000;

let renderer: WebGLRenderer | null = null;

/** The picture as a data URL. What is bent or clipped is drawn stiff: a seed does not change that. */
export function pictureOf(placements: Placements, props: readonly Prop[]): string {
  const group = new Group();
  membersOf(placements).forEach(({ plain, mirrored, shaped }, index) => {
    const prop = props.find(({ id }) => id === placements.props[index]);
    const loaded = prop && useModels.getState().models.get(prop.asset);
    if (!prop || !loaded || typeof loaded === "string") return;
    const model = preparedModel(prop, loaded);
    addInstances(group, model, placements, [...plain, ...shaped]);
    if (mirrored.length > 0) addInstances(group, transformed(model, MIRROR), placements, mirrored);
  });
  group.position.set(...placements.origin);
  const scene = new Scene();
  const sun = new DirectionalLight("#fff4dd", 2.6);
  sun.position.set(2, 4, 3);
  scene.add(group, sun, new HemisphereLight("#eaf3f4", "#c8b48c", 1.6), new AmbientLight("#ffffff", 0.3));
  const bounds = new Map(props.map((prop) => [prop.id, preparedBounds(prop)]));
  return render(
    scene,
    boxAround(placements, bounds, () => true),
  );
}

function addInstances(group: Group, model: Model, placements: Placements, members: readonly number[]): void {
  if (members.length === 0) return;
  const { matrices, colours } = instancesOf(placements, members.slice(0, MAX_DRAWN));
  for (const { geometry, material } of model.parts) {
    const mesh = new InstancedMesh(geometry, material, matrices.length / 16);
    mesh.instanceMatrix = new InstancedBufferAttribute(matrices, 16);
    if (colours) mesh.instanceColor = new InstancedBufferAttribute(colours, 3);
    mesh.frustumCulled = false;
    group.add(mesh);
  }
}

/** Seen from where the camera of the view is, with the whole box in the picture. */
function render(scene: Scene, box: Box3): string {
  const { width, height } = PICTURE;
  if (!renderer) {
    renderer = new WebGLRenderer({ alpha: true, antialias: true, preserveDrawingBuffer: true });
    renderer.setSize(2 * width, 2 * height, false);
    renderer.setClearColor(0x000000, 0);
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
