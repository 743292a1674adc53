"use client";
/** The export dialog: which form, what of it, and in plain words what will be in the file. */
import { Radio, RadioGroup } from "@headlessui/react";
import { useState } from "react";
import { toast } from "sonner";
import type { FormatName } from "@/core/files";
import { frameCount, isMoving, type Scene } from "@/core/scene";
import { formatValue } from "@/core/schema";
import { fileJobs } from "@/engine/file-clients";
import { animationBytes } from "@/engine/reckoned";
import { assetsFor, useSceneStore } from "@/store";
import { useDrawnProps } from "../assets";
import { asFileName, download, Button, Modal, Segmented, Toggle } from "../kit";
import { drawnLine, useMoved, useResults, useRunningLines, useSession, useSolids, wholeOf } from "../state";
import { isShown } from "../view";

type Form = FormatName | "project";

const FORMS: readonly { id: Exclude<Form, "json">; label: string; help: string }[] = [
  {
    id: "glb",
    label: "GLB, instanced",
    help: "Each prop once, with a list of its places. Smallest; needs a program that reads EXT_mesh_gpu_instancing.",
  },
  {
    id: "glb-plain",
    label: "GLB, plain nodes",
    help: "Each placement a node of its own, sharing the prop's mesh. Any program that reads glTF opens it.",
  },
  {
    id: "csv",
    label: "CSV table",
    help: "One row a placement: position, rotation, size, in metres and world coordinates.",
  },
  { id: "project", label: "Project file", help: "The whole scene with all its files, to open again here or hand on." },
];

const ENDINGS: Readonly<Record<Form, string>> = {
  glb: ".glb",
  "glb-plain": ".glb",
  csv: ".csv",
  json: ".json",
  project: ".zip",
};

const fileName = (name: string, form: Form): string => asFileName(name) + ENDINGS[form];

/** Writes the scene on the table as a project file. */
export async function downloadProject(): Promise<void> {
  const { scene } = useSceneStore.getState().history;
  try {
    const bytes = await fileJobs.writeProject(scene, await assetsFor(scene));
    download(bytes, fileName(scene.name, "project"));
  } catch (error) {
    complain(error);
  }
}

const complain = (error: unknown) =>
  toast.error(error instanceof Error ? error.message : String(error), { duration: 12_000 });

export function ExportDialog() {
  const scene = useSceneStore((store) => store.history.scene);
  const moment = useSceneStore((store) => store.moment);
  const chosen = useSession((session) => session.dressing);
  const [form, setForm] = useState<Form>("glb");
  const [extent, setExtent] = useState<"all" | "one">("all");
  const [compressed, setCompressed] = useState(false);
  const [busy, setBusy] = useState(false);
  const [surfaces, setSurfaces] = useState(false);
  const [lines, setLines] = useState(false);
  const [snaps, setSnaps] = useState(true);
  const [nested, setNested] = useState(false);
  const hasAssemblies = scene.props.some(({ assembly }) => assembly !== null);
  const hasSnaps = scene.props.some(({ prepared }) => prepared.snaps.length > 0);
  const [wished, setWished] = useState<"still" | "animated">("still");
  const [every, setEvery] = useState(1);
  const glb = form === "glb" || form === "glb-plain";
  const moves = isMoving(scene);
  const animates = glb && moves && wished === "animated";
  const bytes = useReckoned(scene, animates ? Math.ceil(frameCount(scene.time) / every) : 0, surfaces, lines);
  const close = () => useSession.setState({ dialog: null });
  const one = scene.dressings.find((dressing) => dressing.id === chosen);
  const only = extent === "one" && one && form !== "project" ? one.name : undefined;

  const write = async () => {
    setBusy(true);
    try {
      const assets = await assetsFor(scene);
      const { solved } = useSolids.getState();
      const chosen = { dressing: only, compressed, surfaces, lines, snaps, nested, solved: solved() };
      const bytes =
        form === "project"
          ? await fileJobs.writeProject(scene, assets)
          : animates
            ? await fileJobs.writeAnimation(scene, assets, form, [0, frameCount(scene.time) - 1], { ...chosen, every })
            : await fileJobs.writePlacements(scene, assets, form, { ...chosen, moment });
      const name = fileName(
        extent === "one" && one && form !== "project" ? `${scene.name} ${one.name}` : scene.name,
        form,
      );
      download(bytes, name);
      toast.success(`“${name}” is written (${size(bytes.length)}).`);
      close();
    } catch (error) {
      complain(error);
    } finally {
      setBusy(false);
    }
  };

  return (
    <Modal title="Export" onClose={close}>
      <RadioGroup value={form} onChange={setForm} aria-label="Form" className="grid gap-1.5">
        {FORMS.map(({ id, label, help }) => (
          <Radio
            key={id}
            value={id}
            className="cursor-pointer rounded-[9px] border border-linen-2 px-3 py-2 hover:bg-linen-1 data-checked:border-sea data-checked:bg-sea-soft data-focus:outline-2 data-focus:outline-sea"
          >
            <span className="block font-medium">{label}</span>
            <span className="block text-xs text-ink-6">{help}</span>
          </Radio>
        ))}
      </RadioGroup>
      {form !== "project" && one && scene.dressings.length > 1 && (
        <div className="mt-3">
          <Segmented
            label="Which dressings"
            value={extent}
            choices={{ all: "All dressings", one: `Only ${one.name}` }}
            onChange={setExtent}
          />
        </div>
      )}
      {glb && moves && (
        <div className="mt-3">
          <Segmented
            label="Which moments"
            value={wished}
            choices={{ still: "At this moment", animated: "Animated, all of it" }}
            onChange={setWished}
          />
        </div>
      )}
      {form !== "project" && moves && !animates && (
        <p className="mt-3 text-xs text-ink-6">As it is at {formatValue(moment, "s")}, where the time bar stands.</p>
      )}
      {animates && (
        <div className="mt-3 grid gap-1.5">
          <Segmented
            label="Which frames"
            value={String(every)}
            choices={{ "1": "Every frame", "2": "Every 2nd", "4": "Every 4th", "8": "Every 8th" }}
            onChange={(next) => setEvery(Number(next))}
          />
          <p className={`text-xs ${bytes > MUCH ? "text-ochre-dark" : "text-ink-6"}`} data-testid="reckoned">
            {bytes > MUCH
              ? `That may come to ${size(bytes)}. Fewer frames, no surfaces, or one moment take less.`
              : `Up to about ${size(bytes)}, before it is thinned out.`}
          </p>
        </div>
      )}
      {glb && (
        <div className="mt-3 grid gap-1">
          <Toggle
            label="With surfaces"
            help="Those that are not hidden, as they stand; what moves over time moves in an animated file."
            on={surfaces}
            onChange={setSurfaces}
          />
          <Toggle
            label="With lines"
            help="As lines. In an animation they go along with what moves them."
            on={lines}
            onChange={setLines}
          />
          {hasAssemblies && form === "glb-plain" && !animates && (
            <Toggle
              label="Assemblies as nodes"
              help="Each use of an assembly is a node with all that is in it below, however deep; if not, everything stands side by side."
              on={nested}
              onChange={setNested}
            />
          )}
          {hasSnaps && (
            <Toggle
              label="With snap points"
              help="Those that were set up on props, as nodes without a mesh under their names; up is where they point."
              on={snaps}
              onChange={setSnaps}
            />
          )}
          <Toggle
            label="Compressed"
            help="Meshes take a fraction of the room: rounded to a sixteen-thousandth of their size and packed by meshopt. Needs a program that reads EXT_meshopt_compression."
            on={compressed}
            onChange={setCompressed}
          />
        </div>
      )}
      <Contents
        scene={only !== undefined && one ? { ...scene, dressings: [one] } : scene}
        form={form}
        besides={[lines ? "lines" : "", surfaces ? "surfaces" : ""].filter(Boolean)}
      />
      <div className="mt-4 flex justify-end gap-2">
        <Button onClick={close}>Cancel</Button>
        <Button look="main" onClick={() => void write()} disabled={busy} data-testid="write-file">
          {busy ? "Writing…" : animates && bytes > MUCH ? "Write it all the same" : "Write file"}
        </Button>
      </div>
    </Modal>
  );
}

/** More than this is asked about first, bytes. */
const MUCH = 100e6;

/** About how large an animation of so many frames becomes at most, bytes. */
function useReckoned(scene: Scene, frames: number, surfaces: boolean, lines: boolean): number {
  const rest = useMoved((state) => state.rest);
  const running = useRunningLines();
  const results = useResults((state) => state.byDressing);
  if (frames === 0) return 0;
  const seen = scene.surfaces.filter(({ hidden, outline }) => surfaces && !hidden && !outline);
  const vertices = seen.reduce((sum, { id }) => sum + (rest.get(id)?.position.length ?? 0) / 3, 0);
  const points = lines ? running.reduce((sum, line) => sum + drawnLine(line).points.length, 0) : 0;
  const placed = scene.dressings.reduce((sum, { id }) => {
    const result = results.get(id);
    return sum + (result ? wholeOf(result).count : 0);
  }, 0);
  return animationBytes(vertices, points, placed, frames);
}

/** What will be in the file. */
function Contents({ scene, form, besides }: { scene: Scene; form: Form; besides: readonly string[] }) {
  const results = useResults((state) => state.byDressing);
  const triangles = new Map(useDrawnProps().map((prop) => [prop.id, prop.triangles]));
  let placed = 0;
  let drawn = 0;
  const used = new Set<string>();
  for (const { id } of scene.dressings) {
    const result = results.get(id);
    if (!result) continue;
    const placements = wholeOf(result);
    for (let i = 0; i < placements.count; i++) {
      if (!isShown(placements, i)) continue;
      const prop = placements.props[placements.prop[i]];
      used.add(prop);
      placed++;
      drawn += triangles.get(prop) ?? 0;
    }
  }
  const n = (count: number, one: string, many = `${one}s`) =>
    `${count.toLocaleString("en")} ${count === 1 ? one : many}`;
  // While an assembly is open, only what is in it is placed.
  const known = scene.dressings.every(({ id }) => results.has(id));
  const words = !known
    ? `All ${n(scene.dressings.length, "dressing")} of the scene, not only what is open or placed yet.`
    : form === "project"
      ? `${n(scene.dressings.length, "dressing")}, ${n(scene.lines.length, "line")}, ${n(scene.props.length, "prop")} and ${n(scene.surfaces.length, "surface")} with their files, ${n(scene.views.length, "view")}.`
      : form === "csv"
        ? `${n(placed, "row")}, one for each placement of ${n(scene.dressings.length, "dressing")}. Blanks are left out.`
        : `${n(placed, "placement")} of ${n(used.size, "prop")} in ${n(scene.dressings.length, "dressing")}, about ${n(drawn, "triangle")} when drawn. ${leftOut(besides)}`;
  return (
    <p
      className="mt-3 rounded-[9px] bg-linen-1 px-3 py-2 text-xs leading-relaxed text-ink-6"
      data-testid="export-contents"
    >
      <b className="font-semibold text-ink-9">In the file: </b>
      {words}
    </p>
  );
}

/** What of the scene is in the file besides dressings, and what is not. */
function leftOut(besides: readonly string[]): string {
  const out = ["lines", "surfaces"].filter((what) => !besides.includes(what));
  const left = out.length > 0 ? `${out.join(" and ")} are left out, blanks too.` : "blanks are left out.";
  const more = besides.length > 0 ? `${besides.join(" and ")} as well; ` : "";
  return `${more === "" ? left[0].toUpperCase() + left.slice(1) : more[0].toUpperCase() + more.slice(1) + left}`;
}

const size = (bytes: number): string =>
  bytes < 1e6 ? `${Math.max(1, Math.round(bytes / 1000))} kB` : `${(bytes / 1e6).toFixed(1)} MB`;
