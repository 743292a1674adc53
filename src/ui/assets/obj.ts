/** OBJ files with their MTL and pictures, made into GLB as they come in, so that everything after knows one format. */
import { LoadingManager, Mesh, MeshPhongMaterial, MeshStandardMaterial, type Material, type Object3D } from "three";
import { GLTFExporter } from "three/examples/jsm/exporters/GLTFExporter.js";
import { MTLLoader } from "three/examples/jsm/loaders/MTLLoader.js";
import { OBJLoader } from "three/examples/jsm/loaders/OBJLoader.js";
import { InputError } from "@/core/schema";

export const isObj = ({ name }: File): boolean => /\.obj$/i.test(name);

/** Whether a file is only there for an OBJ to speak of: its materials and their pictures. */
export const isForObj = ({ name }: File): boolean => /\.(mtl|png|jpe?g|webp)$/i.test(name);

/** Pictures of materials are waited for no longer than this, milliseconds. */
const PATIENCE = 20_000;

/**
 * @param others files that came with it, among which its materials and their pictures are looked for by name
 * @throws InputError when it holds no faces
 */
export async function glbFromObj(file: File, others: readonly File[]): Promise<Uint8Array> {
  const text = await file.text();
  const pictures = new Map<string, string>();
  const base = (path: string) => path.replaceAll("\\", "/").split("/").pop()!.toLowerCase();
  for (const other of others)
    if (!/\.mtl$/i.test(other.name)) pictures.set(base(other.name), URL.createObjectURL(other));
  const manager = new LoadingManager();
  manager.setURLModifier((url) => pictures.get(base(url)) ?? url);
  try {
    const loader = new OBJLoader(manager);
    const named = /^mtllib\s+(.+?)\s*$/m.exec(text)?.[1];
    const mtls = others.filter(({ name }) => /\.mtl$/i.test(name));
    const mtl = mtls.find(({ name }) => named !== undefined && base(name) === base(named)) ?? mtls[0];
    if (mtl) {
      const known = withoutMissing(await mtl.text(), (path) => pictures.has(base(path)));
      const loaded = allLoaded(manager);
      const materials = new MTLLoader(manager).parse(known, "");
      materials.preload();
      loader.setMaterials(materials);
      if (/^\s*map_/m.test(known)) await loaded;
    }
    const object = loader.parse(text);
    if (prepared(object) === 0) throw new InputError(`“${file.name}” holds no faces.`);
    const glb = (await new GLTFExporter().parseAsync(object, { binary: true })) as ArrayBuffer;
    return new Uint8Array(glb);
  } finally {
    for (const url of pictures.values()) URL.revokeObjectURL(url);
  }
}

/** The lines of an MTL without those that name pictures which did not come along. */
const withoutMissing = (mtl: string, has: (path: string) => boolean): string =>
  mtl
    .split(/\r?\n/)
    .filter((line) => {
      const picture = /^\s*(?:map_\w+|bump|disp|norm|refl)\s+(?:-\S+\s+\S+\s+)*(.+?)\s*$/i.exec(line)?.[1];
      return picture === undefined || has(picture);
    })
    .join("\n");

function allLoaded(manager: LoadingManager): Promise<void> {
  return new Promise((resolve) => {
    manager.onLoad = resolve;
    manager.onError = () => resolve();
    setTimeout(resolve, PATIENCE);
  });
}

/** Gives all meshes materials that GLB knows; says how many meshes have faces. Points and lines are left out. */
function prepared(object: Object3D): number {
  const made = new Map<Material, MeshStandardMaterial>();
  const standard = (material: Material): MeshStandardMaterial => {
    let one = made.get(material);
    if (!one) made.set(material, (one = standardOf(material)));
    return one;
  };
  const others: Object3D[] = [];
  let meshes = 0;
  object.traverse((one) => {
    if (!(one instanceof Mesh) || one.geometry.getAttribute("position") === undefined) {
      if (one !== object && one.children.length === 0) others.push(one);
      return;
    }
    meshes++;
    if (!one.geometry.getAttribute("normal")) one.geometry.computeVertexNormals();
    one.material = Array.isArray(one.material) ? one.material.map(standard) : standard(one.material);
  });
  for (const other of others) other.removeFromParent();
  return meshes;
}

function standardOf(material: Material): MeshStandardMaterial {
  const { name, opacity, transparent, side, vertexColors } = material;
  const phong = material instanceof MeshPhongMaterial ? material : null;
  return new MeshStandardMaterial({
    name,
    opacity,
    transparent,
    side,
    vertexColors,
    color: phong?.color ?? "#c9c2b4",
    map: phong?.map ?? null,
    normalMap: phong?.normalMap ?? null,
    // Shininess runs from dull to polished; most of what it is used for is somewhere near dull.
    roughness: phong ? Math.max(0.15, Math.sqrt(2 / (Math.max(0, phong.shininess) + 2))) : 0.85,
    metalness: 0,
  });
}
