"use client";
/** The scene's surfaces: what there is, what is ground, what is hidden or locked; and the way to bring more. */
import { Eye, EyeOff, Lock } from "lucide-react";
import { useRef } from "react";
import { MADE_KINDS, type MadeKind } from "@/core/made";
import type { Surface } from "@/core/scene";
import { useScene } from "@/store";
import { MESH_FILES } from "../assets";
import { Button, Choose, FilesInput, IconButton } from "../kit";
import { editSurface, makeSurface, selectSurface, useSession } from "../state";
import { cameraNow } from "../view";

export function SurfaceList({ onFiles }: { onFiles: (files: File[]) => void }) {
  const surfaces = useScene((scene) => scene.surfaces);
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <ul aria-label="Surfaces" className="-mx-1.5 grid min-h-0 content-start gap-0.5 overflow-y-auto py-1">
        {surfaces.map((surface) => (
          <SurfaceItem key={surface.id} surface={surface} />
        ))}
      </ul>
      {surfaces.length === 0 && (
        <p className="py-3 text-xs leading-relaxed text-ink-6">
          A surface is what props stand on: bring a mesh (GLB, glTF, OBJ, STL, PLY), or make one here; spread props over
          it, fill its inside, or drop them onto it under Fit.
        </p>
      )}
      <div className="mt-2 grid shrink-0 gap-1.5">
        <Button look="dashed" onClick={() => input.current?.click()}>
          Add surfaces…
        </Button>
        <Choose
          label="Make a surface"
          choices={Object.entries(MADE_KINDS).map(([id, { label }]) => ({ id, label }))}
          onChoose={(kind) => makeSurface(kind as MadeKind, cameraNow.target)}
          className="h-8 rounded-lg border border-dashed border-linen-4 bg-linen-0 px-2.5 hover:bg-paper"
        >
          Make a surface…
        </Choose>
      </div>
      <FilesInput input={input} accept={MESH_FILES} testId="surface-files" onFiles={onFiles} />
    </>
  );
}

function SurfaceItem({ surface }: { surface: Surface }) {
  const { id, name, ground, outline, hidden, locked } = surface;
  const chosen = useSession(({ focus }) => focus.kind === "surface" && focus.id === id);
  return (
    <li className={`flex items-center rounded-[9px] hover:bg-linen-1 ${chosen ? "bg-sea-soft" : ""}`}>
      <button type="button" onClick={() => selectSurface(id)} className="min-w-0 grow px-1.5 py-1 text-left">
        <span className="flex items-center gap-1.5">
          <span className={`truncate ${hidden ? "text-ink-5" : ""}`} title={name}>
            {name}
          </span>
          {locked && <Lock size={11} className="shrink-0 text-ink-5" aria-label="locked" />}
        </span>
        <span className="block text-[11px] text-ink-6">{outline ? "space" : ground ? "ground" : "scenery"}</span>
      </button>
      <IconButton
        label={`${hidden ? "Show" : "Hide"} ${name}`}
        className="size-7!"
        onClick={() =>
          editSurface(id, hidden ? "Show surface" : "Hide surface", (draft) => void (draft.hidden = !hidden))
        }
      >
        {hidden ? <EyeOff size={13} /> : <Eye size={13} />}
      </IconButton>
    </li>
  );
}
