"use client";
/** The numbers of one mover, where its surface is held fast, how much it does where, and its pulls. */
import { X } from "lucide-react";
import { useRef } from "react";
import type { z } from "zod";
import {
  MOVER_KINDS,
  pullSchema,
  SIDES,
  type FileMotion,
  type Mover,
  type Pull,
  type Replay,
  type Side,
} from "@/core/movers";
import type { Surface } from "@/core/scene";
import { CACHE_FILES, replayFor, useSurfaceModel, useVertexCount } from "../assets";
import { Button, FilesInput, IconButton, ValueField } from "../kit";
import { editMover, holdSide, letPlaceGo, surfaceOf, takePullOff, useEdit, useSession } from "../state";
import { Tide } from "../time";
import { ClipChoice } from "./ClipChoice";
import { HowMuch, type MoverProps } from "./MoverLimits";
import { holderOf, PathChoice, PathNumber } from "./at-path";

type Numbered = { id: number };

const ofSurface = (surface: Surface) => ({ list: "surfaces" as const, thing: surface });

/** What each kind shows, in its order. */
const FIELDS: Readonly<Record<Mover["kind"], { numbers: readonly string[]; choices: readonly string[] }>> = {
  waves: { choices: ["along"], numbers: ["length", "height", "heading", "speed", "pointed"] },
  billow: { choices: [], numbers: ["depth", "breath", "every"] },
  bend: { choices: ["axis"], numbers: ["angle", "towards", "from", "to"] },
  twist: { choices: ["axis"], numbers: ["angle", "from", "to"] },
  pulls: { choices: [], numbers: [] },
  file: { choices: [], numbers: ["speed", "start", "times"] },
  replay: { choices: ["up"], numbers: ["rate", "start", "times", "unit"] },
};

export function MoverFields({ surface, mover }: MoverProps) {
  const { numbers, choices } = FIELDS[mover.kind];
  const { shape } = MOVER_KINDS[mover.kind].schema;
  const of = ofSurface(surface);
  const at = (...path: (string | number)[]) => ["movers", mover.id, ...path];
  return (
    <div className="grid gap-1.5">
      {mover.kind === "file" && <Clip surface={surface} mover={mover} />}
      {mover.kind === "replay" && <Replayed surface={surface} mover={mover} />}
      {choices.map((name) => (
        <PathChoice key={name} {...of} path={at(name)} schema={shape[name] as z.ZodType} />
      ))}
      {numbers.map((name) => (
        <PathNumber key={name} {...of} path={at(name)} schema={shape[name] as z.ZodType} />
      ))}
      {"held" in mover && <Held surface={surface} mover={mover} />}
      {mover.kind === "waves" && (mover.held.length > 0 || mover.places.length > 0) && (
        <PathNumber {...of} path={at("soft")} schema={shape.soft as z.ZodType} />
      )}
      {mover.kind === "pulls" && <Pulls surface={surface} mover={mover} />}
      <HowMuch surface={surface} mover={mover} />
    </div>
  );
}

/** Which of its file's clips is played. */
function Clip({ surface, mover }: MoverProps<FileMotion & Numbered>) {
  const clips = useSurfaceModel(surface)?.clips;
  return (
    <ClipChoice
      files={clips ? [clips] : []}
      clip={mover.clip}
      mark={<Tide at={{ list: "surfaces", id: surface.id, path: `movers/${mover.id}/clip` }} label="Clip" />}
      onChoose={(clip) =>
        editMover(surface.id, mover.id, "Clip", (draft) => {
          if (draft.kind === "file") draft.clip = clip;
        })
      }
    />
  );
}

/** What is replayed, and whether it fits. */
function Replayed({ surface, mover }: MoverProps<Replay & Numbered>) {
  const input = useRef<HTMLInputElement>(null);
  const vertices = useVertexCount(surface);
  return (
    <div className="grid gap-1.5">
      <div className="flex items-center justify-between gap-2">
        <span className="truncate text-[12.5px] text-ink-6" title={mover.file}>
          {mover.file || "Nothing is replayed yet."}
        </span>
        <Button className="shrink-0" onClick={() => input.current?.click()}>
          Another…
        </Button>
      </div>
      {vertices !== null && mover.vertices !== vertices && mover.asset !== null && (
        <p role="status" className="text-xs text-madder">
          It moves {mover.vertices.toLocaleString("en")} vertices, and the surface has {vertices.toLocaleString("en")}:
          it does nothing.
        </p>
      )}
      <FilesInput
        input={input}
        accept={CACHE_FILES}
        testId="another-replay"
        onFiles={(files) => void replayFor(surface, mover.id, vertices, files)}
      />
    </div>
  );
}

/** Where the surface is held fast: along sides, and at places that are picked in the view. */
function Held({ surface, mover }: MoverProps<Extract<Mover, { kind: "waves" | "billow" }>>) {
  const picking = useSession((session) => session.grip === "hold");
  return (
    <div className="grid gap-1.5">
      <div role="group" aria-label="Held fast along" className="flex flex-wrap items-center gap-1 text-xs">
        <span className="mr-1 text-[12.5px] text-ink-6" title="Along these sides it stays where it is.">
          Held fast
        </span>
        {Object.entries(SIDES).map(([side, label]) => {
          const on = mover.held.includes(side as Side);
          return (
            <button
              key={side}
              type="button"
              aria-pressed={on}
              onClick={() => holdSide(surface.id, mover.id, side as Side)}
              className={`h-6 rounded-md border px-1.5 ${on ? "border-sea bg-sea-soft text-sea" : "border-linen-3 bg-paper text-ink-6 hover:bg-linen-1"}`}
            >
              {label}
            </button>
          );
        })}
        <button
          type="button"
          aria-pressed={picking}
          onClick={() => useSession.setState({ grip: picking ? null : "hold", tool: "select", moving: null })}
          title="Click on the surface in the view where it is held fast as well; Escape when done."
          className={`h-6 rounded-md border border-dashed px-1.5 ${picking ? "border-sea bg-sea-soft text-sea" : "border-linen-4 bg-linen-0 hover:bg-paper"}`}
        >
          At places…
        </button>
      </div>
      {mover.places.length > 0 && (
        <ul className="grid gap-0.5 text-xs text-ink-6">
          {mover.places.map(({ id, at }) => (
            <li key={id} className="flex items-center justify-between gap-2">
              <span className="font-mono">{at.map((metres) => metres.toFixed(2)).join("  ")}</span>
              <IconButton
                label={`Let it go at ${at.join(", ")}`}
                className="size-6"
                onClick={() => letPlaceGo(surface.id, mover.id, id)}
              >
                <X size={12} />
              </IconButton>
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}

function Pulls({ surface, mover }: MoverProps<Extract<Mover, { kind: "pulls" }>>) {
  const pulling = useSession((session) => session.grip === "pull");
  const { shape } = pullSchema;
  const at = (id: number, name: string) => ["movers", mover.id, "pulls", id, name];
  return (
    <div className="grid gap-2">
      <Button
        aria-pressed={pulling}
        className={`w-fit ${pulling ? "border-sea! bg-sea-soft! text-sea" : ""}`}
        title="Take hold of the surface anywhere in the view and drag; a ring is a pull that is there already."
        onClick={() => useSession.setState({ grip: pulling ? null : "pull", tool: "select", moving: null })}
      >
        {pulling ? "Done pulling" : "Pull by hand"}
      </Button>
      {mover.pulls.length === 0 && (
        <p className="text-xs text-ink-5">Nothing is pulled yet. Take hold of the surface in the view and drag.</p>
      )}
      {(mover.pulls as Pull[]).map((pull, i) => (
        <fieldset key={pull.id} aria-label={`Pull ${i + 1}`} className="grid gap-1.5 border-l-2 border-linen-3 pl-2">
          <div className="group/tide grid grid-cols-[52px_1fr_1fr_1fr_24px] items-center gap-1">
            <span className="flex items-center gap-1 text-[12.5px] text-ink-6">
              {i + 1}
              <Tide
                at={{ list: "surfaces", id: surface.id, path: at(pull.id, "by").join("/") }}
                label={`Pull ${i + 1}`}
              />
            </span>
            {([0, 1, 2] as const).map((axis) => (
              <PullBy key={axis} surface={surface} mover={mover.id} pull={pull} number={i + 1} axis={axis} />
            ))}
            <IconButton
              label={`Take pull ${i + 1} off`}
              className="size-6"
              onClick={() => takePullOff(surface.id, mover.id, pull.id)}
            >
              <X size={12} />
            </IconButton>
          </div>
          <PathNumber {...ofSurface(surface)} path={at(pull.id, "reach")} schema={shape.reach} />
          <PathNumber {...ofSurface(surface)} path={at(pull.id, "soft")} schema={shape.soft} />
        </fieldset>
      ))}
    </div>
  );
}

function PullBy({
  surface,
  mover,
  pull,
  number,
  axis,
}: {
  surface: Surface;
  mover: number;
  pull: Pull;
  number: number;
  axis: 0 | 1 | 2;
}) {
  const edit = useEdit<number>("Pull", (scene, value) => {
    const holder = holderOf(surfaceOf(scene, surface.id), ["movers", mover, "pulls", pull.id, "by"]);
    if (holder) holder.by = (holder.by as number[]).map((old, k) => (k === axis ? value : old));
  });
  return (
    <ValueField
      bare
      label={`Pull ${number} ${"xyz"[axis]}`}
      unit="m"
      value={pull.by[axis]}
      edit={edit}
      complaint={(value) => (Number.isFinite(value) ? null : "a pull goes somewhere")}
    />
  );
}
