"use client";
/** A surface's movers: tags on a short cord, in the artist's order; the numbers of the one that is chosen lie below. */
import { rectSortingStrategy, useSortable } from "@dnd-kit/sortable";
import { CSS } from "@dnd-kit/utilities";
import { ChevronDown } from "lucide-react";
import { useRef, useState } from "react";
import { MOVER_KINDS, type Mover, type MoverKind } from "@/core/movers";
import type { Surface } from "@/core/scene";
import { useScene } from "@/store";
import { boxOf, CACHE_FILES, replayFor, useSurfaceModel, useVertexCount } from "../assets";
import { Choose, FilesInput, NameField, Sorted } from "../kit";
import {
  addMover,
  copyMover,
  deleteMover,
  duplicateMover,
  editMover,
  moveMover,
  moverName,
  useSession,
} from "../state";
import { MoverFields } from "./MoverFields";

export function MoversSection({ surface }: { surface: Surface }) {
  const movers = surface.movers as Mover[];
  const chosen = useSession((session) => session.mover);
  const shown = movers.find(({ id }) => id === chosen);
  const replayed = useRef<HTMLInputElement>(null);
  const vertices = useVertexCount(surface);
  const clips = useSurfaceModel(surface)?.clips ?? [];
  const kinds = Object.entries(MOVER_KINDS).filter(([kind]) => kind !== "file" || clips.length > 0);
  return (
    <section aria-label="Movers" className="grid gap-2 border-t border-linen-2 pt-2">
      <div className="relative">
        <svg className="pointer-events-none absolute inset-x-0 top-0 h-3 w-full" viewBox="0 0 280 12" aria-hidden>
          <path d="M0 3 Q140 9 280 2" fill="none" stroke="#8f7650" strokeWidth="1.4" />
        </svg>
        <div className="flex flex-wrap items-start gap-x-2.5 gap-y-3 px-1 pt-2">
          <Sorted
            id="movers"
            ids={movers.map(({ id }) => id + 1)}
            strategy={rectSortingStrategy}
            onMove={(moved, to) => moveMover(surface.id, moved - 1, to - 1)}
          >
            {movers.map((mover) => (
              <MoverTag key={mover.id} surface={surface} mover={mover} chosen={mover === shown} />
            ))}
          </Sorted>
          <Choose
            label="+ Let it move…"
            choices={kinds.map(([id, { label, help }]) => ({ id, label, title: help }))}
            onChoose={(kind) =>
              kind === "replay"
                ? replayed.current?.click()
                : addMover(surface.id, kind as MoverKind, Math.max(...boxOf(surface)))
            }
            className={`${TAG} border-dashed border-linen-4 bg-linen-0 hover:bg-linen-1`}
          >
            + Let it move…
          </Choose>
          <FilesInput
            input={replayed}
            accept={CACHE_FILES}
            testId="replay"
            onFiles={(files) => void replayFor(surface, null, vertices, files)}
          />
        </div>
      </div>
      {shown && <MoverFields key={shown.id} surface={surface} mover={shown} />}
    </section>
  );
}

const TAG =
  "relative flex h-7 max-w-full items-center gap-1.5 whitespace-nowrap rounded-b-[8px] rounded-t-[3px] border px-2.5 text-[12px]";

function MoverTag({ surface, mover, chosen }: { surface: Surface; mover: Mover; chosen: boolean }) {
  const [renaming, setRenaming] = useState(false);
  const [copying, setCopying] = useState(false);
  const others = useScene((scene) => scene.surfaces).filter(({ id }) => id !== surface.id);
  const { attributes, listeners, setNodeRef, transform, transition } = useSortable({
    id: mover.id + 1,
    disabled: renaming,
  });
  const name = moverName(mover);
  const acts: Readonly<Record<string, () => void>> = {
    rename: () => setRenaming(true),
    turn: () =>
      editMover(surface.id, mover.id, mover.on ? "Switch off" : "Switch on", (draft) => void (draft.on = !draft.on)),
    duplicate: () => duplicateMover(surface.id, mover.id),
    copy: () => setCopying(true),
    off: () => deleteMover(surface.id, mover.id),
  };
  return (
    <div
      ref={setNodeRef}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      className={`${TAG} ${chosen ? "border-sea bg-sea-soft font-medium text-sea" : "border-linen-3 bg-paper text-ink-6 hover:bg-linen-1"} ${mover.on ? "" : "line-through opacity-60"}`}
    >
      <span aria-hidden className="absolute -top-1.5 left-1/2 -ml-[2px] h-2.5 w-1 rounded-sm bg-wood" />
      {renaming ? (
        <NameField
          label="Name of the mover"
          value={name}
          onChange={(next) => editMover(surface.id, mover.id, "Rename mover", (draft) => void (draft.name = next))}
          onDone={() => setRenaming(false)}
          className="w-24 text-ink-9"
        />
      ) : (
        <button
          type="button"
          {...attributes}
          {...listeners}
          aria-pressed={chosen}
          aria-roledescription="mover"
          title={mover.on ? MOVER_KINDS[mover.kind].help : "Switched off"}
          onClick={() => useSession.setState({ mover: chosen ? null : mover.id, grip: null })}
          className="h-full touch-none truncate"
        >
          {name}
          {!mover.on && <span className="sr-only">, switched off</span>}
        </button>
      )}
      {chosen && !renaming && (
        <Choose
          label={copying ? `Surface that gets ${name} too` : `More for ${name}`}
          choices={
            copying
              ? others.map((other) => ({ id: `to:${other.id}`, label: other.name }))
              : [
                  { id: "turn", label: mover.on ? "Switch off" : "Switch on" },
                  { id: "rename", label: "Rename" },
                  { id: "duplicate", label: "Duplicate" },
                  ...(others.length > 0 ? [{ id: "copy", label: "Copy to another surface…" }] : []),
                  { id: "off", label: "Take off", danger: true },
                ]
          }
          onChoose={(act) => {
            if (!act.startsWith("to:")) return acts[act]();
            setCopying(false);
            copyMover(surface.id, mover.id, act.slice(3));
          }}
          className="-mr-1.5 grid h-5 min-w-5 place-items-center rounded px-0.5 hover:bg-linen-2"
        >
          {copying ? "to…" : <ChevronDown size={12} />}
        </Choose>
      )}
    </div>
  );
}
