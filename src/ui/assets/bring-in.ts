/** Files that come in: props are added to the scene, project files opened as scenes of their own. */
import { toast } from "sonner";
import { fileJobs } from "@/engine/client";
import { InputError, freeName, newId, type Prop } from "@/core/scene";
import { addScene, putAssets, useSceneStore } from "@/store";
import { selectProp, useSession } from "../state/session";
import type { Draft } from "immer";

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

async function bytesOf(file: File): Promise<Uint8Array> {
  if (file.size > MAX_BYTES) throw new InputError(`“${file.name}” is larger than 512 MB.`);
  return new Uint8Array(await file.arrayBuffer());
}

const sentenceFor = (error: unknown, file: string): string =>
  error instanceof InputError
    ? error.message
    : `“${file}” could not be brought in: ${error instanceof Error ? error.message : error}`;

/** Adds each GLB as a prop and opens the last project file among them; says what could not be read. */
export async function bringIn(files: readonly File[], openScene: (id: string) => void): Promise<void> {
  const props: Prop[] = [];
  for (const file of files) {
    try {
      if (/\.(zip|clothesline)$/i.test(file.name)) openScene(await openProject(file));
      else props.push(await propFrom(file));
    } catch (error) {
      toast.error(sentenceFor(error, file.name), { duration: 12_000 });
    }
  }
  if (props.length > 0) addProps(props);
}

/** Stores a project file as a new scene; gives its id. */
export async function openProject(file: File): Promise<string> {
  const { scene, assets } = await fileJobs.readProject(await bytesOf(file), file.name);
  return addScene(scene, assets);
}

async function propFrom(file: File): Promise<Prop> {
  const bytes = await bytesOf(file);
  const { asset, bounds, triangles } = await fileJobs.inspectProp(bytes, file.name);
  await putAssets(new Map([[asset, bytes]]));
  return { id: newId(), name: nameFrom(file.name), asset, bounds, triangles, file: file.name };
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
