/** GLB files for tests, made with glTF-Transform, and the reading back of what we wrote. */
import { Document, type Node, type mat4, type TypedArray } from "@gltf-transform/core";
import { multiply, rotate, type Quat, type Vec3 } from "../math";
import { addedOn, evaluate } from "../place/testing";
import { emptyScene, sceneSchema } from "../scene";
import { plainIO } from "./gltf";
import type { Assets } from "./assets";
import type { EvaluatedScene } from "./evaluated";
import type { BroughtIn } from "./prop";

interface GlbOptions {
  positions?: TypedArray | null;
  matrix?: mat4;
  textured?: boolean;
}

/** A small wedge, about 0.4 × 0.5 × 0.3 m, its origin at the bottom; with a texture if wanted. */
export const WEDGE = new Float32Array([
  -0.2, 0, -0.15, 0.2, 0, -0.15, 0, 0.5, 0, 0.2, 0, 0.15, -0.2, 0, 0.15, 0, 0.5, 0,
]);

export async function makeGlb({ positions = WEDGE, matrix, textured = false }: GlbOptions = {}): Promise<Uint8Array> {
  const document = new Document();
  const buffer = document.createBuffer();
  const accessor = (type: "VEC2" | "VEC3", array: TypedArray) =>
    document.createAccessor().setType(type).setArray(array).setBuffer(buffer);
  const material = document.createMaterial("Paint").setBaseColorFactor([0.7, 0.2, 0.25, 1]);
  const primitive = document.createPrimitive().setMaterial(material);
  if (positions) primitive.setAttribute("POSITION", accessor("VEC3", positions as Float32Array<ArrayBuffer>));
  if (textured && positions) {
    primitive.setAttribute("TEXCOORD_0", accessor("VEC2", new Float32Array((positions.length / 3) * 2).fill(0.5)));
    material.setBaseColorTexture(document.createTexture("Weave").setImage(PIXEL).setMimeType("image/png"));
  }
  const node = document.createNode("Body").setMesh(document.createMesh("Wedge").addPrimitive(primitive));
  if (matrix) node.setMatrix(matrix);
  document.createScene().addChild(node);
  return plainIO().writeBinary(document);
}

/** A PNG of one pixel. */
export const PIXEL = Uint8Array.from(
  atob("iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNkYPhfDwAChwGA60e6kgAAAABJRU5ErkJggg=="),
  (c) => c.charCodeAt(0),
);

export interface ReadPlacement {
  mesh: string;
  position: Vec3;
  rotation: Quat;
  scale: Vec3;
}

/** Every placed mesh of a GLB: instances where there are some, else nodes; in world coordinates. */
export async function placementsInGlb(bytes: Uint8Array): Promise<ReadPlacement[]> {
  const document = await plainIO().readBinary(bytes);
  const found: ReadPlacement[] = [];
  const scene = document.getRoot().getDefaultScene()!;
  scene.traverse((node: Node) => {
    const mesh = node.getMesh();
    if (!mesh) return;
    const position = node.getWorldTranslation();
    const rotation = node.getWorldRotation();
    const scale = node.getWorldScale();
    const batch = node.getExtension<never>("EXT_mesh_gpu_instancing") as unknown as {
      getAttribute(name: string): { getCount(): number; getElement(i: number, out: number[]): number[] };
    } | null;
    if (!batch) {
      found.push({ mesh: mesh.getName(), position, rotation, scale });
      return;
    }
    for (let i = 0; i < batch.getAttribute("TRANSLATION").getCount(); i++) {
      const t = batch.getAttribute("TRANSLATION").getElement(i, []) as unknown as Vec3;
      const r = batch.getAttribute("ROTATION").getElement(i, []) as unknown as Quat;
      const s = batch.getAttribute("SCALE").getElement(i, []) as unknown as Vec3;
      const turned = rotate(rotation, [t[0] * scale[0], t[1] * scale[1], t[2] * scale[2]]);
      found.push({
        mesh: mesh.getName(),
        position: [position[0] + turned[0], position[1] + turned[1], position[2] + turned[2]],
        rotation: multiply(rotation, r),
        scale: [s[0] * scale[0], s[1] * scale[1], s[2] * scale[2]],
      });
    }
  });
  return found;
}

/** A scene in which one thing that was brought in stands once, and its file. */
export function evaluateAlone(brought: BroughtIn): [EvaluatedScene, Assets] {
  const { bytes, ...found } = brought;
  const scene = sceneSchema.parse({
    ...emptyScene("Alone"),
    props: [{ id: "p", name: "Thing", ...found }],
    dressings: [
      { id: "d", name: "One", where: { kind: "loose" }, pegs: addedOn("loose", { prop: "p", point: [0, 0, 0] }) },
    ],
  });
  const placements = evaluate(scene.dressings[0], { guides: new Map(), bounds: new Map([["p", found.bounds]]) });
  return [{ scene, dressings: [{ dressing: scene.dressings[0], placements }] }, new Map([[found.asset, bytes]])];
}
