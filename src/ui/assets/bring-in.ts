/** Files that come in: props are added to the scene, project files opened as scenes of their own. */
import { InputError } from "@/core/schema";
import { MOST_PIXELS, writeRaster } from "@/core/image";
import { toast } from "sonner";
import { hashOf } from "@/core/files";
import { fileJobs } from "@/engine/client";
import { freeName, newId, propSchema, surfaceSchema, type Prop, type Surface } from "@/core/scene";
import { addScene, assetBytes, putAssets, useSceneStore } from "@/store";
import { addSurfaces, editProp, editSurface, replaceProp, replaceSurfaceBy, selectProp, useSession } from "../state";
import { glbFromObj, isForObj, isObj } from "./obj";
import type { Draft } from "immer";

/** What a choice of files offers for meshes. */
export const MESH_FILES = ".glb,.obj,.mtl,.png,.jpg,.jpeg,model/gltf-binary";

/** Masks are kept no larger than this a side, pixels. */
const MASK_PIXELS = Math.min(2048, MOST_PIXELS);

const MAX_BYTES = 512 * 1024 ** 2;

/** A file's name without its ending, with its first letter large: what a prop is called at first. */
function nameFrom(file: string): string {
  const stem =
    file
      .replace(/\.[^.]*$/, "")
      .replace(/[_-]+/g, " ")
      .trim() || "Prop";
  return (stem[0].toUpperCase() + stem.slice(1)).slice(0, 100);
}

/** @param others files that came with it, for those that are made of several */
async function bytesOf(file: File, others: readonly File[] = []): Promise<Uint8Array> {
  if (file.size > MAX_BYTES) throw new InputError(`“${file.name}” is larger than 512 MB.`);
  if (isObj(file)) return glbFromObj(file, others);
  return new Uint8Array(await file.arrayBuffer());
}

const sentenceFor = (error: unknown, file: string): string =>
  error instanceof InputError
    ? error.message
    : `“${file}” could not be brought in: ${error instanceof Error ? error.message : error}`;

/**
 * Adds each GLB or OBJ as a prop, or as a surface, and opens the last project file among them; says what could not be read.
 *
 * @param as what the files become
 */
export async function bringIn(
  files: readonly File[],
  as: "props" | "surfaces",
  openScene: (id: string) => void,
): Promise<void> {
  const props: Prop[] = [];
  const surfaces: Surface[] = [];
  const others = files.filter(isForObj);
  const own = files.some(isObj) ? files.filter((file) => !isForObj(file)) : files;
  for (const file of own) {
    try {
      if (/\.(zip|clothesline)$/i.test(file.name)) openScene(await openProject(file));
      else if (as === "props") props.push(await propFrom(file, others));
      else surfaces.push(await surfaceFrom(file, others));
    } catch (error) {
      toast.error(sentenceFor(error, file.name), { duration: 12_000 });
    }
  }
  if (props.length > 0) addProps(props);
  if (surfaces.length === 0) return;
  addSurfaces(surfaces);
  toast.success(
    surfaces.length === 1 ? `“${surfaces[0].name}” is in the scene.` : `${surfaces.length} surfaces are in the scene.`,
  );
}

/** Stores a picture as a mask; gives its asset, or null where it cannot be read, which it says. */
export async function maskPicture(file: File): Promise<string | null> {
  try {
    const bitmap = await createImageBitmap(file);
    const scale = Math.min(1, MASK_PIXELS / Math.max(bitmap.width, bitmap.height));
    const [width, height] = [bitmap.width, bitmap.height].map((side) => Math.max(1, Math.round(side * scale)));
    const pen = new OffscreenCanvas(width, height).getContext("2d")!;
    pen.drawImage(bitmap, 0, 0, width, height);
    const bytes = writeRaster(width, height, pen.getImageData(0, 0, width, height).data);
    const asset = hashOf(bytes);
    await putAssets(new Map([[asset, bytes]]));
    return asset;
  } catch {
    toast.error(`“${file.name}” cannot be read as a picture. Bring a PNG, JPEG or WebP file.`, { duration: 12_000 });
    return null;
  }
}

/** Stores a project file as a new scene; gives its id. */
export async function openProject(file: File): Promise<string> {
  const { scene, assets } = await fileJobs.readProject(await bytesOf(file), file.name);
  return addScene(scene, assets);
}

/** The one file that is meant, and what only belongs to it. */
const withCompanions = (files: readonly File[]): [file: File, others: readonly File[]] => {
  const file = files.find((one) => !isForObj(one)) ?? files[0];
  return [file, files.filter((one) => one !== file)];
};

/** Gives a prop another file and keeps all that refers to it; says what could not be read. */
export async function replaceFile(prop: string, files: readonly File[]): Promise<void> {
  const [file, others] = withCompanions(files);
  try {
    const { asset, bounds, triangles, brought } = await propFrom(file, others);
    replaceProp(prop, { asset, bounds, triangles, brought, file: file.name });
    toast.success(`The prop's file is now “${file.name}”.`);
  } catch (error) {
    toast.error(sentenceFor(error, file.name), { duration: 12_000 });
  }
}

/** Gives a prop a light version; says what could not be read. */
export async function lightVersionFor(id: string, files: readonly File[]): Promise<void> {
  const [file, others] = withCompanions(files);
  try {
    const bytes = await bytesOf(file, others);
    const { asset, triangles } = await fileJobs.inspectProp(bytes, file.name);
    await putAssets(new Map([[asset, bytes]]));
    editProp(id, "Light version", (draft) => void (draft.light = { asset, triangles, file: file.name }));
    toast.success(`“${file.name}” is the light version, with ${triangles.toLocaleString("en")} triangles.`);
  } catch (error) {
    toast.error(sentenceFor(error, file.name), { duration: 12_000 });
  }
}

/** Gives a surface another file; it stays where it stands, and everything on it follows. */
export async function replaceSurface(id: string, files: readonly File[]): Promise<void> {
  const [file, others] = withCompanions(files);
  try {
    const found = await surfaceFile(file, others);
    editSurface(id, "Replace file of surface", (draft) => {
      // What stood in for the old file would not do for the new one.
      Object.assign(draft, found, { standIn: null, standInFile: "" });
    });
    toast.success(`The surface's file is now “${file.name}”.`);
  } catch (error) {
    toast.error(sentenceFor(error, file.name), { duration: 12_000 });
  }
}

/** Gives a surface a lighter mesh for all that is reckoned; says what could not be read. */
export async function standInFor(id: string, files: readonly File[]): Promise<void> {
  const [file, others] = withCompanions(files);
  try {
    const { asset, triangles } = await surfaceFile(file, others);
    editSurface(id, "Stand-in of surface", (draft) => {
      draft.standIn = asset;
      draft.standInFile = file.name;
    });
    toast.success(`“${file.name}” stands in, with ${triangles.toLocaleString("en")} triangles.`);
  } catch (error) {
    toast.error(sentenceFor(error, file.name), { duration: 12_000 });
  }
}

/** Makes a surface of each mesh that a surface's file has, all where they stand now. */
export async function partSurface(surface: Surface): Promise<void> {
  try {
    const bytes = surface.asset === null ? undefined : await assetBytes(surface.asset);
    if (!bytes) throw new InputError(`The file of “${surface.name}” is not there.`);
    const parts = await fileJobs.splitFile(bytes, surface.file || surface.name);
    if (parts.length < 2) {
      toast(`“${surface.name}” has one mesh only.`);
      return;
    }
    const made: Surface[] = [];
    for (const part of parts) {
      const { asset, triangles } = await fileJobs.inspectProp(part.bytes, part.name);
      await putAssets(new Map([[asset, part.bytes]]));
      made.push({
        ...surface,
        id: newId(),
        name: nameFrom(part.name),
        asset,
        triangles,
        standIn: null,
        standInFile: "",
      });
    }
    replaceSurfaceBy(surface.id, made);
    toast.success(`“${surface.name}” is ${made.length} surfaces now.`);
  } catch (error) {
    toast.error(sentenceFor(error, surface.name), { duration: 12_000 });
  }
}

const surfaceFrom = async (file: File, others: readonly File[]): Promise<Surface> =>
  surfaceSchema.parse({ id: newId(), name: nameFrom(file.name), ...(await surfaceFile(file, others)) });

async function surfaceFile(
  file: File,
  others: readonly File[],
): Promise<Pick<Surface, "asset" | "triangles" | "file">> {
  const bytes = await bytesOf(file, others);
  const { asset, triangles } = await fileJobs.inspectProp(bytes, file.name);
  await putAssets(new Map([[asset, bytes]]));
  return { asset, triangles, file: file.name };
}

async function propFrom(file: File, others: readonly File[]): Promise<Prop> {
  const bytes = await bytesOf(file, others);
  const { asset, ...found } = await fileJobs.inspectProp(bytes, file.name);
  await putAssets(new Map([[asset, bytes]]));
  // What its file left far from the origin is taken by its foot.
  const far = found.brought.mended.some(({ what }) => what === "far");
  const prepared = far ? { pivot: "bottom" as const } : {};
  return propSchema.parse({ id: newId(), name: nameFrom(file.name), asset, prepared, file: file.name, ...found });
}

function addProps(props: readonly Prop[]): void {
  useSceneStore.getState().change(props.length === 1 ? "Add prop" : "Add props", (scene) => {
    for (const prop of props) {
      const name = freeName(
        prop.name,
        scene.props.map((other) => other.name),
      );
      scene.props.push({ ...prop, name } as Draft<Prop>);
    }
  });
  const last = props[props.length - 1];
  selectProp(last.id);
  useSession.setState({ drawProp: last.id });
  toast.success(props.length === 1 ? `“${last.name}” is in the basket.` : `${props.length} props are in the basket.`);
}
