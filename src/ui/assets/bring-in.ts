/** Files that come in: props are added to the scene, project files opened as scenes of their own. */
import { InputError } from "@/core/schema";
import { MOST_PIXELS, writeRaster } from "@/core/image";
import { toast } from "sonner";
import {
  CACHE_ENDINGS,
  COMPANION_ENDINGS,
  hashOf,
  holdsScene,
  isCompanion,
  isParted,
  MESH_ENDINGS,
  type BroughtIn,
  type GivenFile,
} from "@/core/files";
import { fileJobs, incoming } from "@/engine/file-clients";
import { freeName, newId, propSchema, surfaceSchema, type Prop, type Surface } from "@/core/scene";
import { addScene, assetBytes, putAssets, useSceneStore } from "@/store";
import {
  addSurfaces,
  editProp,
  editSurface,
  giveReplay,
  replaceProp,
  replaceSurfaceBy,
  selectProp,
  useSession,
} from "../state";
import { offerDrawing } from "./drawings";
import type { Draft } from "immer";

/** What a choice of files offers for meshes. */
export const MESH_FILES = [...MESH_ENDINGS, ...COMPANION_ENDINGS, "zip", "clothesline"]
  .map((one) => `.${one}`)
  .join(",");

/** What it offers for all that can be brought into a scene. */
export const SCENE_FILES = `${MESH_FILES},.svg`;

/** Masks are kept no larger than this a side, pixels. */
const MASK_PIXELS = Math.min(2048, MOST_PIXELS);

const MAX_BYTES = 512 * 1024 ** 2;
/** Reading that takes no longer than this, milliseconds, is not spoken of. */
const UNNOTICED = 400;

/** A file's name without its ending, with its first letter large: what a prop is called at first. */
function nameFrom(file: string): string {
  const stem =
    file
      .replace(/^.*[\\/]/, "")
      .replace(/\.[^.]*$/, "")
      .replace(/[_-]+/g, " ")
      .trim() || "Prop";
  return (stem[0].toUpperCase() + stem.slice(1)).slice(0, 100);
}

async function given(file: File): Promise<GivenFile> {
  if (file.size > MAX_BYTES) throw new InputError(`“${file.name}” is larger than 512 MB.`);
  return { name: file.webkitRelativePath || file.name, bytes: new Uint8Array(await file.arrayBuffer()) };
}

/** A mesh's file that is to be read, and how to get at what came with it. */
interface Wanted {
  name: string;
  read(): Promise<[main: GivenFile, others: GivenFile[]]>;
}

/** The meshes among some files, those in zips as well, and the project files. Throws what {@link given} does. */
async function sorted(files: readonly File[]): Promise<{ wanted: Wanted[]; projects: File[] }> {
  const wanted: Wanted[] = [];
  const projects: File[] = [];
  const beside = files.filter(({ name }) => isCompanion(name));
  const alone = beside.length === files.length;
  for (const file of files) {
    if (/\.clothesline$/i.test(file.name)) projects.push(file);
    else if (/\.zip$/i.test(file.name)) {
      const zip = await given(file);
      if (holdsScene(zip.bytes)) projects.push(file);
      else {
        const { mains, others } = await incoming.meshesInZip(zip);
        for (const main of mains)
          wanted.push({ name: main.name, read: async () => [main, isParted(main.name) ? others : []] });
      }
    } else if (alone || !isCompanion(file.name)) {
      const others = async () => (isParted(file.name) ? await Promise.all(beside.map(given)) : []);
      wanted.push({ name: file.name, read: async () => [await given(file), await others()] });
    }
  }
  return { wanted, projects };
}

const sentenceFor = (error: unknown, file: string): string =>
  error instanceof InputError ? error.message : `“${file}” could not be brought in.`;

const complain = (error: unknown, file: string) => toast.error(sentenceFor(error, file), { duration: 12_000 });

/**
 * Reads files one after the other, says how far it is and lets go of the rest when it is told to; what was read is given. What
 * was meant for one scene comes into no other: once another is open, nothing is.
 */
async function readAll<T>(
  wanted: readonly Wanted[],
  take: (found: BroughtIn, name: string) => Promise<T>,
): Promise<T[]> {
  const taken: T[] = [];
  const { id: scene } = useSceneStore.getState();
  const isElsewhere = () => useSceneStore.getState().id !== scene;
  let stopped = false;
  const id = `bring ${wanted[0]?.name}`;
  const stop = () => {
    stopped = true;
    incoming.stop();
  };
  const begun = performance.now();
  for (const [i, one] of wanted.entries()) {
    if (stopped || isElsewhere()) break;
    const told =
      wanted.length > 1 ? `Bringing in ${i + 1} of ${wanted.length}: “${one.name}” …` : `Bringing in “${one.name}” …`;
    const tell = () => toast.loading(told, { id, duration: Infinity, action: { label: "Stop", onClick: stop } });
    const clock = setTimeout(tell, Math.max(0, UNNOTICED - (performance.now() - begun)));
    try {
      const found = await incoming.bringInFile(...(await one.read()));
      await putAssets(new Map([[found.asset, found.bytes as Uint8Array<ArrayBuffer>]]));
      taken.push(await take(found, one.name));
    } catch (error) {
      if (!stopped) complain(error, one.name);
    } finally {
      clearTimeout(clock);
    }
  }
  toast.dismiss(id);
  if (isElsewhere()) {
    toast(`“${wanted[0].name}” was not brought in: its scene was left for another.`);
    return [];
  }
  if (stopped && wanted.length > 1) toast(`Stopped: ${taken.length} of ${wanted.length} were brought in.`);
  else if (stopped) toast(`“${wanted[0].name}” was not brought in.`);
  return taken;
}

/**
 * Adds each mesh's file as a prop, or as a surface, in one step, and opens the last project file among them; says what could
 * not be read.
 *
 * @param as what the files become
 */
export async function bringIn(
  files: readonly File[],
  as: "props" | "surfaces",
  openScene: (id: string) => void,
): Promise<void> {
  try {
    const drawings = files.filter(({ name }) => /\.svg$/i.test(name));
    for (const file of drawings) await bringDrawing(file);
    if (drawings.length === files.length) return;
    const { wanted, projects } = await sorted(files.filter((file) => !drawings.includes(file)));
    if (as === "props") {
      const props = await readAll(wanted, async (found, name) => propFrom(found, name));
      if (props.length > 0) addProps(props);
    } else {
      const surfaces = await readAll(wanted, async (found, name) => surfaceFrom(found, name));
      if (surfaces.length > 0) {
        addSurfaces(surfaces);
        toast.success(
          surfaces.length === 1
            ? `“${surfaces[0].name}” is in the scene.`
            : `${surfaces.length} surfaces are in the scene.`,
        );
      }
    }
    for (const file of projects) openScene(await openProject(file));
  } catch (error) {
    complain(error, files[0].name);
  }
}

/** Reads a drawing, and asks how large it is to be. */
async function bringDrawing(file: File): Promise<void> {
  try {
    offerDrawing(file.name, await incoming.readDrawing(await given(file)));
  } catch (error) {
    complain(error, file.name);
  }
}

/** The one mesh's file that is meant, read; null where it cannot be, which is said. */
async function readOne(files: readonly File[]): Promise<{ found: BroughtIn; file: string } | null> {
  try {
    const { wanted } = await sorted(files);
    if (wanted.length === 0) throw new InputError(`“${files[0].name}” holds no mesh.`);
    const [one] = await readAll(wanted.slice(0, 1), async (found, file) => ({ found, file }));
    return one ?? null;
  } catch (error) {
    complain(error, files[0].name);
    return null;
  }
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
  const { scene, assets } = await incoming.readProject((await given(file)).bytes, file.name);
  return addScene(scene, assets);
}

/** Gives a prop another file and keeps all that refers to it; says what could not be read. */
export async function replaceFile(prop: string, files: readonly File[]): Promise<void> {
  const one = await readOne(files);
  if (!one) return;
  const { asset, bounds, triangles, brought } = one.found;
  replaceProp(prop, { asset, bounds, triangles, brought, file: one.file.slice(-260) });
  toast.success(`The prop's file is now “${one.file}”.`);
}

/** Gives a prop a light version; says what could not be read. */
export async function lightVersionFor(id: string, files: readonly File[]): Promise<void> {
  const one = await readOne(files);
  if (!one) return;
  const { asset, triangles } = one.found;
  editProp(id, "Light version", (draft) => void (draft.light = { asset, triangles, file: one.file.slice(-260) }));
  toast.success(`“${one.file}” is the light version, with ${triangles.toLocaleString("en")} triangles.`);
}

/** Gives a surface another file; it stays where it stands, and everything on it follows. */
export async function replaceSurface(id: string, files: readonly File[]): Promise<void> {
  const one = await readOne(files);
  if (!one) return;
  editSurface(id, "Replace file of surface", (draft) => {
    // What stood in for the old file would not do for the new one.
    Object.assign(draft, surfaceFile(one.found, one.file), { standIn: null, standInFile: "" });
  });
  toast.success(`The surface's file is now “${one.file}”.`);
}

/** Gives a surface a lighter mesh for all that is reckoned; says what could not be read. */
export async function standInFor(id: string, files: readonly File[]): Promise<void> {
  const one = await readOne(files);
  if (!one) return;
  editSurface(id, "Stand-in of surface", (draft) => {
    draft.standIn = one.found.asset;
    draft.standInFile = one.file.slice(-260);
  });
  toast.success(`“${one.file}” stands in, with ${one.found.triangles.toLocaleString("en")} triangles.`);
}

/**
 * Gives a surface a simulation to replay; says what could not be read, or has another number of vertices than the surface.
 *
 * @param mover the one that replays it from now on; null for a new one
 * @param vertices of the surface's mesh; null where they are not known yet
 */
export async function replayFor(
  surface: Surface,
  mover: number | null,
  vertices: number | null,
  files: readonly File[],
): Promise<void> {
  try {
    const [main, ...others] = await Promise.all([...files].sort(cachesFirst).map(given));
    const found = await incoming.bringInCache(main, others, useSceneStore.getState().shown.time.framesPerSecond);
    if (vertices !== null && found.vertices !== vertices) {
      const [cached, own] = [found.vertices, vertices].map((n) => n.toLocaleString("en"));
      throw new InputError(
        `“${main.name}” moves ${cached} vertices, and “${surface.name}” has ${own}. Export both from the same mesh.`,
      );
    }
    await putAssets(new Map([[found.asset, found.bytes as Uint8Array<ArrayBuffer>]]));
    giveReplay(surface.id, mover, {
      asset: found.asset,
      file: main.name.slice(-260),
      vertices: found.vertices,
      rate: Number(found.rate.toPrecision(6)),
    });
    toast.success(`“${main.name}” has ${found.pictures.toLocaleString("en")} pictures.`);
  } catch (error) {
    complain(error, files[0].name);
  }
}

const isCache = ({ name }: File): boolean => CACHE_ENDINGS.some((ending) => name.toLowerCase().endsWith(`.${ending}`));
const cachesFirst = (a: File, b: File): number => Number(isCache(b)) - Number(isCache(a));

/** What a choice of files offers for a simulation. */
export const CACHE_FILES = [...CACHE_ENDINGS, ...COMPANION_ENDINGS].map((one) => `.${one}`).join(",");

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
      const { asset, triangles, bytes: kept } = await incoming.bringInFile({ name: "part.glb", bytes: part.bytes }, []);
      await putAssets(new Map([[asset, kept as Uint8Array<ArrayBuffer>]]));
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
    complain(error, surface.name);
  }
}

const surfaceFile = ({ asset, triangles }: BroughtIn, file: string) => ({ asset, triangles, file: file.slice(-260) });

/** What its file moves by itself moves at once. */
const surfaceFrom = (found: BroughtIn, file: string): Surface =>
  surfaceSchema.parse({
    id: newId(),
    name: nameFrom(file),
    ...surfaceFile(found, file),
    movers: found.brought.clips.length > 0 ? [{ kind: "file" }] : [],
  });

function propFrom({ asset, bounds, triangles, brought }: BroughtIn, file: string): Prop {
  // What its file left far from the origin is taken by its foot.
  const far = brought.mended.some(({ what }) => what === "far");
  const prepared = far ? { pivot: "bottom" as const } : {};
  const own = { id: newId(), name: nameFrom(file), asset, bounds, triangles, brought, prepared };
  return propSchema.parse({ ...own, file: file.slice(-260) });
}

/** Takes props into the basket as one change, each under a name of its own; the last is what lines are dressed with next. */
export function intoBasket(label: string, props: readonly Prop[]): void {
  useSceneStore.getState().change(label, (scene) => {
    for (const prop of props) {
      const name = freeName(
        prop.name,
        scene.props.map((other) => other.name),
      );
      scene.props.push({ ...prop, name } as Draft<Prop>);
    }
  });
  useSession.setState({ drawProp: props[props.length - 1].id });
}

function addProps(props: readonly Prop[]): void {
  intoBasket(props.length === 1 ? "Add prop" : "Add props", props);
  const last = props[props.length - 1];
  selectProp(last.id);
  toast.success(props.length === 1 ? `“${last.name}” is in the basket.` : `${props.length} props are in the basket.`);
}
