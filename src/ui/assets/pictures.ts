/** Pictures of props, rendered from their meshes: at an angle for the basket; see `elevations.ts` for the strip's. */
import { useEffect, useMemo } from "react";
import {
  AmbientLight,
  Box3,
  DirectionalLight,
  DoubleSide,
  Group,
  HemisphereLight,
  Mesh,
  OrthographicCamera,
  PerspectiveCamera,
  Scene,
  Vector3,
  WebGLRenderer,
  type Camera,
  type Material,
} from "three";
import type { Prop } from "@/core/scene";
import { lookOf, usePrepared, type Model } from "./models";
import { asDrawn, useFineness } from "../three";
import { shelfOf } from "./shelf";

export interface PropPictures {
  /** Square, from above at an angle. */
  card: HTMLCanvasElement;
  cardUrl: string;
  /** The colour that most of it has. */
  color: string;
}

/** Pixels of one picture, and how many lie side by side in one rendering, since each reading back costs a wait. */
const TILE = 128;
export const AT_ONCE = 16;

/** By the looks of props; turning one about while it is prepared makes new ones. */
const shelf = shelfOf<Model, PropPictures>({ most: 1000, atOnce: AT_ONCE, make: picturesOf });

export const usePictureStore = shelf.useShelf;

/** The pictures of a prop as it is prepared; undefined until they are made. */
export function usePictures(prop: Prop): PropPictures | undefined {
  const model = usePrepared(prop);
  const look = useMemo(() => lookOf(prop), [prop]);
  useEffect(() => {
    if (model) shelf.ask(look, model);
  }, [look, model]);
  return usePictureStore(({ pictures }) => pictures.get(look));
}

let renderer: WebGLRenderer | null = null;

/** A model to be pictured, standing as its group says. */
export interface Sitter {
  model: Model;
  group: Group;
  shot: Shot;
}

/** Pictures of at most {@link AT_ONCE} models, each null where there is next to nothing to be seen. */
export function renderModels(sitters: readonly Sitter[]): (HTMLCanvasElement | null)[] {
  if (sitters.length === 0) return [];
  const renderer = sharedRenderer();
  renderer.setScissor(0, 0, AT_ONCE * TILE, TILE);
  renderer.clear();
  sitters.forEach(({ model, group, shot: { camera, width, height } }, i) => {
    const materials = model.parts.map(({ material }) => [material].flat().map(bothSides));
    model.parts.forEach(({ geometry }, k) => {
      const [own, ...more] = materials[k];
      group.add(new Mesh(geometry, more.length > 0 ? materials[k] : own));
    });
    renderer.setViewport(i * TILE, 0, width, height);
    renderer.setScissor(i * TILE, 0, width, height);
    renderer.render(lit(group), camera);
  });
  const all = cutOut(renderer.domElement, 0, 0, sitters.length * TILE, TILE);
  return sitters.map(({ shot: { width, height } }, i) => seen(cutOut(all, i * TILE, TILE - height, width, height)));
}

function lit(group: Group): Scene {
  const scene = new Scene();
  const sun = new DirectionalLight("#fff4dd", 2.6);
  sun.position.set(2, 4, 3);
  return scene.add(group, sun, new HemisphereLight("#eaf3f4", "#c8b48c", 1.6), new AmbientLight("#ffffff", 0.3));
}

function sharedRenderer(): WebGLRenderer {
  if (renderer) return renderer;
  renderer = new WebGLRenderer({ alpha: true, antialias: true, preserveDrawingBuffer: true });
  renderer.setSize(AT_ONCE * TILE, TILE, false);
  renderer.setScissorTest(true);
  renderer.autoClear = false;
  renderer.setClearColor(0x000000, 0);
  return renderer;
}

function picturesOf(models: readonly Model[]): PropPictures[] {
  const cards = renderModels(models.map((model) => ({ model, group: new Group(), shot: angled(model.box) })));
  return cards.map((seen) => {
    const card = seen ?? blank();
    return { card, cardUrl: card.toDataURL(), color: mainColor(card) };
  });
}

/** A box from above at an angle. */
function angled(box: Box3): Shot {
  const size = box.getSize(new Vector3());
  const middle = box.getCenter(new Vector3());
  const radius = Math.max(size.length() / 2, 1e-6);
  const camera = new PerspectiveCamera(24, 1, radius * 0.1, radius * 20);
  const away = radius / Math.sin((12 * Math.PI) / 180);
  camera.position.copy(middle).add(new Vector3(0.45, 0.32, 1).normalize().multiplyScalar(away));
  camera.lookAt(middle);
  return { camera, width: TILE, height: TILE };
}

const blank = (): HTMLCanvasElement => Object.assign(document.createElement("canvas"), { width: TILE, height: TILE });

const doubled = new WeakMap<Material, Material>();

/** What has one side only, such as a sheet, would not be seen from the other. Made once: each has a program to be linked. */
function bothSides(material: Material): Material {
  const drawn = asDrawn(material, useFineness.getState().plain);
  let both = doubled.get(drawn);
  if (!both) doubled.set(drawn, (both = Object.assign(drawn.clone(), { side: DoubleSide })));
  return both;
}

export interface Shot {
  camera: Camera;
  /** Pixels, at most a tile. */
  width: number;
  height: number;
}

/** The box seen square on from `direction`, filling its picture from edge to edge. */
export function squareOn(box: Box3, direction: Vector3, breadth: number, height: number): Shot {
  const middle = box.getCenter(new Vector3());
  const radius = Math.max(box.getSize(new Vector3()).length(), 1e-6);
  const [w, h] = [Math.max(breadth, radius * 0.02), Math.max(height, radius * 0.02)];
  const camera = new OrthographicCamera(-w / 2, w / 2, h / 2, -h / 2, radius * 0.1, radius * 4);
  camera.position.copy(middle).addScaledVector(direction, radius * 2);
  camera.lookAt(middle);
  const scale = TILE / Math.max(w, h);
  return { camera, width: Math.max(2, Math.round(w * scale)), height: Math.max(2, Math.round(h * scale)) };
}

/** A picture, unless there is next to nothing on it, as of a sheet that is seen edge on. */
function seen(canvas: HTMLCanvasElement): HTMLCanvasElement | null {
  const { data } = canvas.getContext("2d")!.getImageData(0, 0, canvas.width, canvas.height);
  let solid = 0;
  for (let i = 3; i < data.length; i += 4) if (data[i] > 127) solid++;
  return solid > 0.02 * canvas.width * canvas.height ? canvas : null;
}

function cutOut(from: HTMLCanvasElement, x: number, y: number, width: number, height: number): HTMLCanvasElement {
  const canvas = Object.assign(document.createElement("canvas"), { width, height });
  canvas.getContext("2d", { willReadFrequently: true })!.drawImage(from, x, y, width, height, 0, 0, width, height);
  return canvas;
}

/** The mean of the picture's solid pixels, more of the colourful ones. */
function mainColor(canvas: HTMLCanvasElement): string {
  const { data } = canvas.getContext("2d")!.getImageData(0, 0, canvas.width, canvas.height);
  const sum = [0, 0, 0, 0];
  for (let i = 0; i < data.length; i += 4) {
    if (data[i + 3] < 200) continue;
    const spread = Math.max(data[i], data[i + 1], data[i + 2]) - Math.min(data[i], data[i + 1], data[i + 2]);
    const weight = 1 + spread;
    for (let k = 0; k < 3; k++) sum[k] += weight * data[i + k];
    sum[3] += weight;
  }
  if (sum[3] === 0) return "#b9a784";
  const [r, g, b] = sum.map((total) => Math.round(total / sum[3]));
  return `#${((r << 16) | (g << 8) | b).toString(16).padStart(6, "0")}`;
}
