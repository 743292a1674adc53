/** Surfaces as they look from straight above, as a picture for the sheet. */
import { Box3, DirectionalLight, Group, HemisphereLight, Mesh, OrthographicCamera, Scene, WebGLRenderer } from "three";
import type { Surface } from "@/core/scene";
import { asDrawn, useFineness } from "../three";
import type { Model } from "./models";

export interface TopView {
  picture: HTMLCanvasElement;
  /** Which part of the ground it shows: corners, x and z, metres. */
  least: readonly [number, number];
  most: readonly [number, number];
}

/** Pixels of its longer side; without graphics hardware each of them is felt. */
const SIZE = { full: 1024, plain: 512 } as const;

let renderer: WebGLRenderer | null = null;

/** Null where there is nothing to see. */
export function topView(surfaces: readonly { surface: Surface; model: Model }[]): TopView | null {
  const { plain } = useFineness.getState();
  const scene = new Scene();
  const sun = new DirectionalLight("#fff4dd", 2.4);
  sun.position.set(-2, 3, -1.4);
  scene.add(sun, new HemisphereLight("#eaf3f4", "#c8b48c", 1.5));
  for (const { surface, model } of surfaces) {
    const group = new Group();
    group.position.set(...surface.position);
    group.quaternion.set(...surface.rotation);
    group.scale.setScalar(surface.scale);
    for (const part of model.parts) {
      const mesh = new Mesh(part.geometry, asDrawn(part.material, plain));
      mesh.position.copy(model.origin);
      group.add(mesh);
    }
    scene.add(group);
  }
  const box = new Box3().setFromObject(scene);
  const [wide, deep] = [box.max.x - box.min.x, box.max.z - box.min.z];
  if (!(wide > 0 && deep > 0)) return null;
  const scale = SIZE[plain ? "plain" : "full"] / Math.max(wide, deep);
  const [width, height] = [Math.max(1, Math.round(wide * scale)), Math.max(1, Math.round(deep * scale))];
  const tall = Math.max(1, box.max.y - box.min.y);
  const camera = new OrthographicCamera(-wide / 2, wide / 2, deep / 2, -deep / 2, 0.1, tall + 2);
  camera.position.set((box.min.x + box.max.x) / 2, box.max.y + 1, (box.min.z + box.max.z) / 2);
  // North, which is away along -Z, is at the top.
  camera.up.set(0, 0, -1);
  camera.lookAt(camera.position.x, box.min.y, camera.position.z);
  renderer ??= new WebGLRenderer({ alpha: true, antialias: true, preserveDrawingBuffer: true });
  renderer.setClearColor(0x000000, 0);
  renderer.setSize(width, height, false);
  renderer.render(scene, camera);
  const picture = document.createElement("canvas");
  [picture.width, picture.height] = [width, height];
  picture.getContext("2d")!.drawImage(renderer.domElement, 0, 0);
  return { picture, least: [box.min.x, box.min.z], most: [box.max.x, box.max.z] };
}
