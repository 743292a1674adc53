"use client";
/** What can be said of selected pins by hand: how far off their surface, how large, at which texture coordinates. */
import { toast } from "sonner";
import type { Vec3 } from "@/core/math";
import { hexOf, type Dressing, type Key } from "@/core/place";
import { useScene } from "@/store";
import { useSurfaceModels, useSurfacesMeant } from "../assets";
import { Choose, ValueField } from "../kit";
import { Tied } from "./HeldBy";
import {
  dressingOf,
  holdHere,
  mirrorPins,
  type MirrorAxis,
  pinToUv,
  saidByAll,
  setSize,
  useEdit,
  writePegs,
} from "../state";

interface PinProps {
  dressing: Dressing;
  keys: ReadonlySet<Key>;
}

export function PinPanel({ dressing, keys }: PinProps) {
  const surfaces = useScene((scene) => scene.surfaces);
  const pegs = [...keys].flatMap((key) => dressing.pegs[hexOf(key)] ?? []);
  const names = [...new Set(pegs.map(({ on }) => surfaces.find(({ id }) => id === on)?.name ?? "nothing: its surface is gone"))]; // prettier-ignore
  const lift = useEdit<number>("Clearance of pin", (scene, value) => {
    const draft = dressingOf(scene, dressing.id);
    if (draft) writePegs(draft, keys, (peg) => void (value === 0 ? delete peg.lift : (peg.lift = value)));
  });
  const size = useEdit<number>("Size of pin", (scene, value) => {
    const draft = dressingOf(scene, dressing.id);
    if (draft) writePegs(draft, keys, (peg) => setSize(peg, value));
  });
  if (pegs.length === 0) return null;
  const tie = pegs.find(({ held }) => held)?.held;
  return (
    <>
      {tie && <Tied tie={tie} onLetGo={() => holdHere(dressing.id, keys, "Let pin go")} />}
      <p className="mb-2 text-[12.5px] text-ink-6">Pinned to {names.join(", ")}. Drag to slide, with Alt to copy.</p>
      <div className="mb-2 grid grid-cols-2 gap-x-3 gap-y-1.5 text-[12.5px] text-ink-6">
        <label className="flex items-center gap-2" title="Off the surface, besides what Fit says for all of them.">
          Off it
          <ValueField
            label="Off its surface"
            unit="m"
            value={saidByAll(dressing, keys, (peg) => peg.lift ?? 0)}
            edit={lift}
            complaint={(value) => (Math.abs(value) > 1e6 ? "that is too far off" : null)}
            className="w-full"
          />
        </label>
        <label className="flex items-center gap-2" title="How many times as large as its prop.">
          Size
          <ValueField
            label="Size of pin"
            unit="factor"
            value={saidByAll(dressing, keys, (peg) => peg.size ?? 1)}
            edit={size}
            complaint={(value) => (value > 0 && value <= 1e6 ? null : "a size is above zero")}
            className="w-full"
          />
        </label>
        {(["u", "v"] as const).map((which) => (
          <PinUv key={which} dressing={dressing} keys={keys} which={which} />
        ))}
      </div>
      <MirrorPins dressing={dressing} keys={keys} />
    </>
  );
}

const PLANES: readonly { id: MirrorAxis; label: string }[] = [
  { id: 0, label: "From left to right" },
  { id: 2, label: "From front to back" },
  { id: 1, label: "From top to bottom" },
];

/** Pins the same again on the other side of their surfaces. */
function MirrorPins({ dressing, keys }: PinProps) {
  const { surfaces: on } = dressing.where;
  const models = useSurfaceModels(useSurfacesMeant(({ id }) => on.includes(id)));
  const mirror = (axis: MirrorAxis) => {
    const middles = new Map(
      models.map(({ surface, model: { box } }): [string, Vec3] => [
        surface.id,
        [(box.min.x + box.max.x) / 2, (box.min.y + box.max.y) / 2, (box.min.z + box.max.z) / 2],
      ]),
    );
    if (mirrorPins(dressing.id, keys, axis, middles) === 0)
      toast.error(
        "There is nothing to mirror: what lies on the plane, or is held by texture coordinates alone, has no other side.",
      );
  };
  return (
    <div className="mb-2">
      <Choose
        label="Pin again mirrored"
        choices={PLANES.map(({ id, label }) => ({ id: String(id), label }))}
        onChoose={(id) => mirror(Number(id) as MirrorAxis)}
        className="h-7 rounded-lg border border-linen-3 bg-paper px-2 text-xs"
      >
        Mirror…
      </Choose>
    </div>
  );
}

function PinUv({ dressing, keys, which }: PinProps & { which: "u" | "v" }) {
  const axis = which === "u" ? 0 : 1;
  const edit = useEdit<number>("Pin by texture coordinates", (scene, value) => {
    const draft = dressingOf(scene, dressing.id);
    if (!draft) return;
    for (const key of keys) {
      const [u, v] = draft.pegs[hexOf(key)]?.uv ?? [0.5, 0.5];
      pinToUv(draft, [key], which === "u" ? [value, v] : [u, value]);
    }
  });
  return (
    <label className="flex items-center gap-2" title="Texture coordinates: typed, they say where it is pinned.">
      {which}
      <ValueField
        label={`Pinned at ${which}`}
        unit="number"
        value={saidByAll(dressing, keys, (peg) => peg.uv?.[axis] ?? NaN)}
        edit={edit}
        complaint={(value) => (Math.abs(value) > 1e6 ? "that is no texture coordinate" : null)}
        className="w-full"
      />
    </label>
  );
}
