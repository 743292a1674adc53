"use client";
/** The export dialog: which form, what of it, and in plain words what will be in the file. */
import { Radio, RadioGroup } from "@headlessui/react";
import { useState } from "react";
import { toast } from "sonner";
import type { FormatName } from "@/core/files";
import { isMoving, type Scene } from "@/core/scene";
import { formatValue } from "@/core/schema";
import { fileJobs } from "@/engine/client";
import { assetsFor, useSceneStore } from "@/store";
import { asFileName, download, Button, Modal, Segmented, Toggle } from "../kit";
import { useResults, useSession } from "../state";
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
  const close = () => useSession.setState({ dialog: null });
  const one = scene.dressings.find((dressing) => dressing.id === chosen);
  const only = extent === "one" && one && form !== "project" ? one.name : undefined;

  const write = async () => {
    setBusy(true);
    try {
      const assets = await assetsFor(scene);
      const bytes =
        form === "project"
          ? await fileJobs.writeProject(scene, assets)
          : await fileJobs.writePlacements(scene, assets, form, { dressing: only, compressed, moment });
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
      {form !== "project" && isMoving(scene) && (
        <p className="mt-3 text-xs text-ink-6">As it is at {formatValue(moment, "s")}, where the time bar stands.</p>
      )}
      {(form === "glb" || form === "glb-plain") && (
        <div className="mt-3">
          <Toggle
            label="Compressed"
            help="Meshes take a fraction of the room: rounded to a sixteen-thousandth of their size and packed by meshopt. Needs a program that reads EXT_meshopt_compression."
            on={compressed}
            onChange={setCompressed}
          />
        </div>
      )}
      <Contents scene={only !== undefined && one ? { ...scene, dressings: [one] } : scene} form={form} />
      <div className="mt-4 flex justify-end gap-2">
        <Button onClick={close}>Cancel</Button>
        <Button look="main" onClick={() => void write()} disabled={busy} data-testid="write-file">
          {busy ? "Writing…" : "Write file"}
        </Button>
      </div>
    </Modal>
  );
}

/** What will be in the file. */
function Contents({ scene, form }: { scene: Scene; form: Form }) {
  const results = useResults((state) => state.byDressing);
  const triangles = new Map(scene.props.map((prop) => [prop.id, prop.triangles]));
  let placed = 0;
  let drawn = 0;
  const used = new Set<string>();
  for (const { id } of scene.dressings) {
    const placements = results.get(id)?.placements;
    if (!placements) continue;
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
  const words =
    form === "project"
      ? `${n(scene.dressings.length, "dressing")}, ${n(scene.lines.length, "line")}, ${n(scene.props.length, "prop")} and ${n(scene.surfaces.length, "surface")} with their files, ${n(scene.views.length, "view")}.`
      : form === "csv"
        ? `${n(placed, "row")}, one for each placement of ${n(scene.dressings.length, "dressing")}. Blanks are left out.`
        : `${n(placed, "placement")} of ${n(used.size, "prop")} in ${n(scene.dressings.length, "dressing")}, about ${n(drawn, "triangle")} when drawn. Lines and surfaces are left out, blanks too.`;
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

const size = (bytes: number): string =>
  bytes < 1e6 ? `${Math.max(1, Math.round(bytes / 1000))} kB` : `${(bytes / 1e6).toFixed(1)} MB`;
