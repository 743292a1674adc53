"use client";
/** What floats over the view: tools, saved views, how props are shown, honest counts, and what the pointer is on. */
import { Ellipsis, Plus } from "lucide-react";
import { useMemo, useState } from "react";
import { hasKnots, LINE_KINDS } from "@/core/line";
import { freeName, newId } from "@/core/scene";
import { useScene, useSceneStore } from "@/store";
import { useModels } from "../assets/models";
import { Choose, IconButton, NameField, Segmented } from "../kit";
import { useResults } from "../state/results";
import { useSession } from "../state/session";
import { cameraNow } from "./CameraRig";
import { startDrawing, stopDrawing, useDraw } from "./draw-state";
import { HoverBubble } from "./HoverBubble";
import { isShown } from "./placed";

const FLOAT = "absolute rounded-[10px] border border-linen-2 bg-[#fffdf8f5] p-[3px] shadow-float";

export function Overlay() {
  return (
    <>
      <Tools />
      <Views />
      <Shown />
      <Counts />
      <Hint />
      <HoverBubble />
    </>
  );
}

function Tools() {
  const tool = useSession((session) => session.tool);
  return (
    <div className={`${FLOAT} left-3 top-3`}>
      <Segmented
        tone="float"
        label="Tool"
        value={tool}
        choices={{ select: "Select", draw: "Draw line" }}
        onChange={(next) => (next === "draw" ? startDrawing() : stopDrawing())}
      />
    </div>
  );
}

function Views() {
  const views = useScene((scene) => scene.views);
  const [renaming, setRenaming] = useState<string | null>(null);
  const change = useSceneStore((store) => store.change);
  const save = () =>
    change("Save view", (scene) => {
      const name = freeName(
        "View 1",
        scene.views.map((view) => view.name),
      );
      scene.views.push({ id: newId(), name, position: [...cameraNow.position], target: [...cameraNow.target] });
    });
  const act = (action: string) => {
    const [kind, id] = action.split(":");
    if (kind === "rename") setRenaming(id);
    else if (kind === "update") {
      change("Update view", (scene) => {
        const view = scene.views.find((v) => v.id === id);
        if (view) Object.assign(view, { position: [...cameraNow.position], target: [...cameraNow.target] });
      });
    } else change("Delete view", (scene) => void (scene.views = scene.views.filter((view) => view.id !== id)));
  };
  return (
    <div
      className={`${FLOAT} right-3 top-3 flex max-w-[60%] items-center gap-0.5 overflow-x-auto`}
      role="group"
      aria-label="Saved views"
    >
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
      <IconButton label="Save this view" onClick={save} className="size-6.5">
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
          className="grid size-6.5 place-items-center rounded-[7px] text-ink-6 hover:bg-linen-1"
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
        value={display}
        choices={{ full: "Full", boxes: "Boxes" }}
        onChange={(next) => useSession.setState({ display: next })}
      />
    </div>
  );
}

/** All placements and their triangles; nothing is left out of either. */
function Counts() {
  const results = useResults((state) => state.byDressing);
  const props = useScene((scene) => scene.props);
  const models = useModels((state) => state.models);
  const { count, triangles } = useMemo(() => {
    const each = new Map(props.map((prop) => [prop.id, prop.triangles]));
    let count = 0;
    let triangles = 0;
    for (const { placements } of results.values()) {
      for (let i = 0; i < placements.count; i++) {
        if (!isShown(placements, i)) continue;
        count++;
        triangles += each.get(placements.props[placements.prop[i]]) ?? 0;
      }
    }
    return { count, triangles };
  }, [results, props]);
  const loading = [...models.values()].filter((model) => model === "loading").length;
  const failed = props.filter((prop) => models.get(prop.asset) === "failed").length;
  return (
    <div
      className={`${FLOAT} bottom-3 right-3 px-3 py-1.5 font-mono text-xs`}
      role="status"
      data-testid="counts"
      data-ready={loading === 0}
    >
      {loading > 0 ? `loading ${loading} · ` : ""}
      {failed > 0 ? `${failed} cannot be drawn, shown as boxes · ` : ""}
      {count.toLocaleString("en")} {count === 1 ? "prop" : "props"} · {short(triangles)} triangles
    </div>
  );
}

const short = (n: number): string =>
  n < 10_000 ? n.toLocaleString("en") : n < 1e6 ? `${Math.round(n / 1000)} k` : `${(n / 1e6).toFixed(1)} M`;

/** What can be drawn: a line through knots, or a shape about its middle. */
const FORMS = [
  { id: "free", label: "Free line" },
  ...(["circle", "ellipse", "arc", "rectangle", "coil"] as const).map((id) => ({ id, label: LINE_KINDS[id].label })),
];

/** What can be done with the tool or the selection at hand. */
function Hint() {
  const tool = useSession((session) => session.tool);
  const focus = useSession((session) => session.focus);
  const knots = useDraw((draw) => draw.knots.length);
  const form = useDraw((draw) => draw.form);
  const lines = useScene((scene) => scene.lines);
  const props = useScene((scene) => scene.props);
  const drawProp = useSession((session) => session.drawProp);
  if (tool === "draw") {
    const dressed = props.find((prop) => prop.id === drawProp);
    return (
      <div
        className={`${FLOAT} left-1/2 top-14 flex -translate-x-1/2 items-center gap-3 whitespace-nowrap px-3 py-1.5 text-xs text-ink-6`}
      >
        <Choose
          label="What to draw"
          choices={FORMS}
          onChoose={(id) => useDraw.setState({ form: id as typeof form })}
          className="rounded-md border border-linen-3 bg-white px-2 py-0.5 text-ink-9"
        >
          {FORMS.find(({ id }) => id === form)?.label}
        </Choose>
        {form !== "free"
          ? "Click where its middle shall be"
          : knots === 0
            ? "Click on the ground to set the first knot"
            : "Click: next knot · first knot: close · Enter: done · Backspace: take back"}
        <span className="flex items-center gap-1 border-l border-linen-3 pl-3">
          Dress with
          <Choose
            label="Prop to dress the line with"
            choices={[...props.map((prop) => ({ id: prop.id, label: prop.name })), { id: "", label: "Nothing yet" }]}
            onChoose={(id) => useSession.setState({ drawProp: id || null })}
            className="rounded-md border border-linen-3 bg-white px-2 py-0.5 text-ink-9"
          >
            {dressed?.name ?? "nothing yet"}
          </Choose>
        </span>
      </div>
    );
  }
  if (focus.kind !== "line") return null;
  const shape = lines.some((line) => line.id === focus.id && !hasKnots(line));
  return (
    <div className={`${FLOAT} bottom-14 left-1/2 -translate-x-1/2 whitespace-nowrap px-3 py-1.5 text-xs text-ink-6`}>
      {shape
        ? "Drag the ring to move the line on the level · Shift: up and down · Alt: on the ground"
        : "Drag a knot on the level · Shift: up and down · Alt: on the ground · + inserts · Delete removes"}
    </div>
  );
}
