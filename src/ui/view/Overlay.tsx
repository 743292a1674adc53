"use client";
/** What floats over the view: tools, saved views, how props are shown, honest counts, and what the pointer is on. */
import { kindOf } from "@/core/place";
import { Ellipsis, Plus } from "lucide-react";
import { useState } from "react";
import { useScene, useSceneStore } from "@/store";
import { modelOf, useModels } from "../assets";
import { saveView, updateView, useDrawnAsSolids, useResults, useSession } from "../state";
import { Choose, IconButton, NameField, Segmented } from "../kit";
import { cameraNow } from "./CameraRig";
import { startPainting, stopPainting } from "./brush";
import { startPinning, stopPinning } from "./pinning";
import { startSowing, stopSowing } from "./sowing";
import { startDrawing, stopDrawing } from "./draw-state";
import { Catching } from "./Catching";
import { FLOAT, FLOATING } from "./float";
import { Hint, Marquee } from "./Hint";
import { HoverBubble } from "./HoverBubble";
import { useBudget } from "./useBudget";
import { Placing } from "./Placing";

export function Overlay() {
  return (
    <>
      <div className="pointer-events-none absolute inset-x-3 top-3 flex items-start justify-between gap-2 *:pointer-events-auto @max-[520px]:flex-wrap">
        <Tools />
        <Views />
      </div>
      <Shown />
      <Counts />
      <Hint />
      <HoverBubble />
      <Marquee />
      <Placing />
    </>
  );
}

function Tools() {
  const tool = useSession((session) => session.tool);
  const selected = useSession((session) => session.dressing);
  const spread = useScene((scene) =>
    scene.dressings.some(({ id, where }) => id === selected && kindOf(where).onSurfaces && where.surfaces.length > 0),
  );
  const paints = spread || tool === "paint";
  const pins = useScene(({ surfaces, props }) => surfaces.length > 0 && props.length > 0);
  return (
    <div className={`${FLOATING} flex shrink-0`}>
      <Segmented
        tone="float"
        label="Tool"
        value={tool as string}
        choices={{
          select: "Select",
          draw: "Draw line",
          ...(pins && { pin: "Pin" }),
          ...(pins && { sow: "Sow" }),
          ...(paints && { paint: "Paint" }),
        }}
        onChange={(next) => {
          stopSowing();
          if (next === "paint") return startPainting();
          stopPainting();
          stopPinning();
          if (next === "sow") return startSowing();
          if (next === "draw") return startDrawing();
          stopDrawing();
          if (next === "pin") startPinning();
        }}
      />
      <Catching />
    </div>
  );
}

function Views() {
  const views = useScene((scene) => scene.views);
  const [renaming, setRenaming] = useState<string | null>(null);
  const change = useSceneStore((store) => store.change);
  const act = (action: string) => {
    const [kind, id] = action.split(":");
    if (kind === "rename") setRenaming(id);
    else if (kind === "update") updateView(id, cameraNow);
    else change("Delete view", (scene) => void (scene.views = scene.views.filter((view) => view.id !== id)));
  };
  return (
    <div className={`${FLOATING} flex min-w-0 items-center gap-0.5`} role="group" aria-label="Saved views">
      <div className="flex min-w-0 items-center gap-0.5 overflow-x-auto [scrollbar-width:thin]">
        {views.map((view) =>
          renaming === view.id ? (
            <NameField
              key={view.id}
              label="Name of the view"
              value={view.name}
              onChange={(name) =>
                change("Rename view", (scene) => void (scene.views.find((v) => v.id === view.id)!.name = name))
              }
              onDone={() => setRenaming(null)}
              className="mx-1 w-24 text-xs"
            />
          ) : (
            <button
              key={view.id}
              type="button"
              onClick={() => useSession.setState({ cameraWish: { kind: "view", id: view.id } })}
              className="whitespace-nowrap rounded-[7px] px-2.5 py-1 text-xs text-ink-6 hover:bg-sea-soft hover:text-sea"
            >
              {view.name}
            </button>
          ),
        )}
      </div>
      <IconButton label="Save this view" onClick={() => saveView(cameraNow)} className="size-6.5 shrink-0">
        <Plus size={14} />
      </IconButton>
      {views.length > 0 && (
        <Choose
          label="Change saved views"
          choices={views.flatMap((view) => [
            { id: `update:${view.id}`, label: `Set “${view.name}” to what is seen now` },
            { id: `rename:${view.id}`, label: `Rename “${view.name}”` },
            { id: `delete:${view.id}`, label: `Delete “${view.name}”`, danger: true },
          ])}
          onChoose={act}
          className="grid size-6.5 shrink-0 place-items-center rounded-[7px] text-ink-6 hover:bg-linen-1"
        >
          <Ellipsis size={14} />
        </Choose>
      )}
    </div>
  );
}

function Shown() {
  const display = useSession((session) => session.display);
  return (
    <div className={`${FLOAT} bottom-3 left-3`}>
      <Segmented
        tone="float"
        label="How props are shown"
        help="Auto: in full where they are large on screen, farther off as their light versions or boxes, farthest as points."
        value={display}
        choices={{ full: "Full", auto: "Auto", boxes: "Boxes", points: "Points" }}
        onChange={(next) => useSession.setState({ display: next })}
      />
    </div>
  );
}

/** All placements and their triangles; nothing is left out of either. */
function Counts() {
  const props = useScene((scene) => scene.props);
  const models = useModels((state) => state.models);
  const { count, triangles, full, light, boxes } = useBudget();
  const display = useSession((session) => session.display);
  const loading = [...models.values()].filter((model) => model === "loading").length;
  const computed = useSceneStore((store) => store.computed);
  const placed = useResults((state) => state.scene !== null);
  const isNow = useResults(({ scene }) => scene === computed);
  const asSolids = useDrawnAsSolids();
  const within = useResults(({ byDressing }) =>
    [...asSolids].reduce((sum, id) => {
      const placed = byDressing.get(id)?.placements;
      return placed ? sum + placed.count - placed.blanks : sum;
    }, 0),
  );
  const failed = props.filter((prop) => models.get(modelOf(prop)) === "failed").length;
  return (
    <div
      className={`${FLOAT} bottom-3 right-3 @max-[520px]:bottom-14 px-3 py-1.5 text-right font-mono text-xs`}
      role="status"
      data-testid="counts"
      data-ready={loading === 0 && isNow}
    >
      {loading > 0 ? `loading ${loading} · ` : ""}
      {failed > 0 ? `${failed} cannot be drawn, shown as boxes · ` : ""}
      {placed
        ? `${count.toLocaleString("en")} ${count === 1 ? "prop" : "props"} · ${short(triangles)} triangles`
        : "placing…"}
      {within > 0 && (
        <span title="A solid that is made of them is drawn instead; select their dressing to see them.">
          <br />
          {`${within.toLocaleString("en")} of them as part of a solid`}
        </span>
      )}
      {display === "boxes" && full + light + boxes < count && (
        <span className="text-ochre-dark" title={WHY_FEWER}>
          <br />
          {`showing ${(full + light + boxes).toLocaleString("en")} of ${count.toLocaleString("en")} as boxes, the rest as points`}
        </span>
      )}
      {(display === "full" || display === "auto") && full < count && (
        <span className="text-ochre-dark" title={WHY_FEWER}>
          <br />
          {`showing ${full.toLocaleString("en")} of ${count.toLocaleString("en")} in full, `}
          {light > 0 && `${light.toLocaleString("en")} lightly, `}
          {`${boxes.toLocaleString("en")} as boxes`}
          {full + light + boxes < count && `, ${(count - full - light - boxes).toLocaleString("en")} as points`}
        </span>
      )}
    </div>
  );
}

const WHY_FEWER = "So many this machine draws smoothly. Exports and counts always mean all of them.";

const short = (n: number): string =>
  n < 10_000 ? n.toLocaleString("en") : n < 1e6 ? `${Math.round(n / 1000)} k` : `${(n / 1e6).toFixed(1)} M`;
