"use client";
/** What can be done in the view with the tool or the selection at hand, how far something has been moved, and the box being drawn. */
import { hasKnots, isFamily, laidSchema, LINE_KINDS } from "@/core/line";
import { ALONG_EDGES } from "@/core/lay";
import { kindOf, fieldIdsOf, sowsLess, type Dressing } from "@/core/place";
import { describeChoice } from "@/core/schema";
import { useScene } from "@/store";
import { Choose } from "../kit";
import { useSession, useUsableProps, type Focus } from "../state";
import { useBrush, useMoverPainted } from "./brush";
import { BY_KNOTS, CLOSED_FORMS, EDGE_FORMS, useDraw } from "./draw-state";
import { FLOAT } from "./float";
import { AXES, useMove } from "./move-state";
import { takesSowing, useSower } from "./sowing";

const { choices: EDGES } = describeChoice(laidSchema.options[1].shape.follow);

/** The look of a hint: as wide as its words, if there is room for them. */
const HINT = `${FLOAT} bottom-14 left-1/2 w-max @max-[520px]:bottom-28 max-w-[calc(100%-24px)] -translate-x-1/2 px-3 py-1.5 text-center text-xs text-ink-6`;

/** The same at the top, for a tool that has something to be chosen. */
const TOP_HINT = `${FLOAT} left-1/2 top-14 flex w-max max-w-[calc(100%-24px)] -translate-x-1/2 flex-wrap items-center gap-x-3 gap-y-1 px-3 py-1.5 text-xs text-ink-6`;

/** What can be drawn: a line through knots, a shape about its middle, or what the mesh of a surface has. */
const FORMS = [
  { id: "free", label: "Free line" },
  { id: "hanging", label: LINE_KINDS.hanging.label },
  { id: "between", label: "Pairs of places" },
  ...(["circle", "ellipse", "arc", "rectangle", "coil"] as const).map((id) => ({ id, label: LINE_KINDS[id].label })),
  ...Object.entries(EDGES).map(([id, label]) => ({
    id,
    label: `On a surface: ${label[0].toLowerCase()}${label.slice(1)}`,
  })),
];

/** How far something has been moved, or what is typed to set it. */
function Distance() {
  const { distance, typing, typed, axis, caught, others, letGo } = useMove();
  return (
    <span className="font-mono text-ink-9" data-testid="moved">
      {typing === null
        ? distance !== null && `${distance.toFixed(3)} m`
        : typing === "place"
          ? `at ${typed}_`
          : `${typed}_ m`}
      {axis && <span className="font-sans"> {AXES[axis].words}</span>}
      {caught && typing === null && <span className="font-sans text-madder"> on {caught.what}</span>}
      {others > 1 && typing === null && <span className="font-sans"> · wheel: {others - 1} more here</span>}
      {letGo && <span className="font-sans"> · let go</span>}
    </span>
  );
}

/** Where the cursor is that keys move. */
function Cursor() {
  const cursor = useDraw((draw) => (draw.byKeys ? draw.cursor : null));
  if (!cursor) return null;
  return (
    <span className="font-mono text-ink-9" data-testid="cursor">
      {cursor.map((value) => value.toFixed(2)).join(" · ")}
    </span>
  );
}

/** The keys that keep what moves on an axis. */
const AXIS_KEYS = Object.values(AXES)
  .map(({ key, words }) => `${key.toUpperCase()}: ${words}`)
  .join(" · ");

function Moving() {
  const letGo = useMove((move) => move.letGo);
  return (
    <div className={`${HINT} flex flex-wrap gap-x-3`} role="status">
      <Distance />
      <span>
        M and a number: just so far · {AXIS_KEYS} · Q: {letGo ? "catch again" : "let go"} · Esc: back
      </span>
    </div>
  );
}

/** A box being drawn to select. */
export function Marquee() {
  const box = useMove((move) => move.box);
  if (!box) return null;
  return (
    <div
      className="pointer-events-none fixed z-20 rounded border border-sea bg-sea/10"
      style={{
        left: Math.min(box.x, box.toX),
        top: Math.min(box.y, box.toY),
        width: Math.abs(box.toX - box.x),
        height: Math.abs(box.toY - box.y),
      }}
    />
  );
}

const surfaceIn = (focus: Focus): string | null => (focus.kind === "surface" ? focus.id : null);

const hasFields = (where: Dressing["where"]): boolean => fieldIdsOf(where).length > 0;

function Painting() {
  const puts = useBrush((brush) => brush.puts);
  const moving = useMoverPainted() !== null;
  const does = moving
    ? puts
      ? "let it move there"
      : "hold it still there"
    : puts
      ? "let things stand"
      : "take things away";
  return <div className={HINT}>Drag over the surface to {does} · beside it the camera turns · Esc: done</div>;
}

/** The prop that a tool puts down, to be chosen. */
function PickedProp({ verb }: { verb: "Sow" | "Pin" }) {
  const props = useUsableProps();
  const mixes = useScene((scene) => scene.mixes);
  const prop = useSession((session) => session.drawProp);
  const picked = [...props, ...mixes].find(({ id }) => id === prop);
  return (
    <span className="flex items-center gap-1">
      {verb}
      <Choose
        label={`Prop to ${verb.toLowerCase()}: ${picked?.name ?? "none yet"}`}
        choices={[...props, ...mixes].map(({ id, name }) => ({ id, label: name }))}
        onChoose={(id) => useSession.setState({ drawProp: id })}
        className="rounded-md border border-linen-3 bg-paper px-2 py-0.5 text-ink-9"
      >
        {picked?.name ?? "none yet"}
      </Choose>
    </span>
  );
}

/** What is sown, and what the hand does. */
function Sowing() {
  const selected = useSession((session) => session.dressing);
  const into = useScene((scene) => scene.dressings.find((one) => one.id === selected && takesSowing(one)));
  const { gathers, radius, distance } = useSower();
  const less = !gathers && into && sowsLess({ radius, distance: distance ?? into.spacing.distance });
  return (
    <div className={TOP_HINT}>
      {into ? (
        <span className="max-w-56 truncate">
          {gathers ? "Gather from" : "Sow into"} <b className="font-medium text-ink-9">{into.name}</b>
        </span>
      ) : (
        <PickedProp verb="Sow" />
      )}
      <span className="font-mono text-ink-9" data-testid="hand">
        {(2 * radius).toFixed(2)} m wide
      </span>
      {less && <span className="text-ochre-dark">too dense for a hand as wide: it sows fewer</span>}
      Drag: {gathers ? "gather" : "sow · Alt and drag: gather"} · wheel: wider · or by arrow keys and Enter · Esc: done
    </div>
  );
}

/** Which prop is pinned by a click, and what else can be done with pins. */
function Pinning() {
  const { onto, caught } = useMove();
  const surface = useScene((scene) => scene.surfaces).find(({ id }) => id === onto);
  return (
    <div className={TOP_HINT}>
      <PickedProp verb="Pin" />
      <span data-testid="pin-onto" className={surface ? "font-medium text-sea" : "text-ink-5"}>
        {surface ? `onto ${surface.name}${caught ? `, ${caught.what}` : ""}` : "onto nothing here"}
      </span>
      Click: one more · drag: slide it · Alt and drag: a copy · Q: let go · Esc: done
      <Cursor />
    </div>
  );
}

/** What can be done by hand with what is spread over a surface, or fills a volume. */
function OverSurface({ inside }: { inside: boolean }) {
  const some = useSession(({ keys }) => keys.size > 0);
  return (
    <div className={HINT}>
      {some
        ? `${inside ? "Drag what is selected on its level, with Shift up or down" : "Drag what is selected over the surface"} · Delete: leave blank · Alt and click: one more`
        : `Click a prop to select it · Alt and click ${inside ? "beside them" : "on the surface"}: one more`}
    </div>
  );
}

/** What can be done with the tool or the selection at hand. */
export function Hint() {
  const tool = useSession((session) => session.tool);
  const focus = useSession((session) => session.focus);
  const knots = useDraw((draw) => draw.knots.length);
  const form = useDraw((draw) => draw.form);
  const seam = useDraw((draw) => draw.seam);
  const byKeys = useDraw((draw) => draw.byKeys);
  const typing = useMove((move) => move.typing);
  const lines = useScene((scene) => scene.lines);
  const props = useUsableProps();
  const mixes = useScene((scene) => scene.mixes);
  const drawn = useDraw((draw) => draw.outline?.list);
  const outline = drawn && (drawn === "areas" ? "area" : "hole");
  const drawProp = useSession((session) => session.drawProp);
  const selected = useSession((session) => session.dressing);
  const spread = useScene((scene) => scene.dressings.some(({ id, where }) => id === selected && hasFields(where)));
  const inside = useScene((scene) =>
    scene.dressings.some(({ id, where }) => id === selected && !kindOf(where).onSurfaces),
  );
  const patch = useScene((scene) =>
    scene.dressings.some(({ id, where }) => id === selected && kindOf(where).handled && where.surfaces.length > 0),
  );
  const laid = useDraw((draw) => draw.laid);
  const moving = useMove((move) => move.distance);
  const caught = useMove((move) => move.caught !== null);
  const box = useScene((scene) =>
    scene.surfaces.some(({ id, made }) => made?.kind === "box" && id === surfaceIn(focus)),
  );
  const grip = useSession((session) => session.grip);
  const moves = useSession((session) => session.moving !== null);
  const locked = useScene((scene) => scene.surfaces.some(({ id, locked }) => locked && id === surfaceIn(focus)));
  if (tool === "draw") {
    const dressed = [...props, ...mixes].find((prop) => prop.id === drawProp);
    return (
      <div className={TOP_HINT}>
        <Choose
          label={`What to draw: ${FORMS.find(({ id }) => id === form)?.label}`}
          choices={FORMS.filter(({ id }) => (!outline || CLOSED_FORMS.has(id)) && (!seam || ALONG_EDGES.has(id)))}
          onChoose={(id) => useDraw.setState({ form: id as typeof form })}
          className="rounded-md border border-linen-3 bg-paper px-2 py-0.5 text-ink-9"
        >
          {FORMS.find(({ id }) => id === form)?.label}
        </Choose>
        {!BY_KNOTS.has(form)
          ? EDGE_FORMS.has(form)
            ? seam
              ? "Click near the edge at which it shall be cut open · Esc: done"
              : "Click on a surface, near the edge that is meant"
            : "Click where its middle shall be"
          : byKeys
            ? `Enter: knot${knots > 0 ? `, again: ${outline ? "close" : "done"}` : ""} · arrow keys · 3; −2: a place · M: how far`
            : knots === 0 && form === "between"
              ? "Click on a snap point, a knot or a mark, or on the ground, for where the first line begins"
              : knots === 0
                ? `Click on the ground, or press an arrow key, for the first ${outline ? `corner of the ${outline}` : "knot"}`
                : form === "between"
                  ? `Click: ${knots % 2 === 1 ? "to where it goes" : "the next pair"} · Enter: done · Backspace: take back · Q: let go`
                  : `Click: next knot · first knot${outline ? " or Enter: close" : ": close · Enter: done"} · Backspace: take back · M: how far`}
        <Cursor />
        {(moving !== null || typing !== null || caught) && <Distance />}
        {!outline && !EDGE_FORMS.has(form) && (
          <label
            className="flex items-center gap-1.5"
            title="All of the line lies on the ground, and goes on lying there whichever of the two is changed."
          >
            <input
              type="checkbox"
              checked={laid}
              onChange={(event) => useDraw.setState({ laid: event.target.checked })}
              className="accent-sea"
            />
            Stays on the ground
          </label>
        )}
        {!outline && !seam && (
          <span className="flex items-center gap-1 border-l border-linen-3 pl-3">
            Dress with
            <Choose
              label={`Prop to dress the line with: ${dressed?.name ?? "nothing yet"}`}
              choices={[
                ...[...props, ...mixes].map(({ id, name }) => ({ id, label: name })),
                { id: "", label: "Nothing yet" },
              ]}
              onChoose={(id) => useSession.setState({ drawProp: id || null })}
              className="rounded-md border border-linen-3 bg-paper px-2 py-0.5 text-ink-9"
            >
              {dressed?.name ?? "nothing yet"}
            </Choose>
          </span>
        )}
      </div>
    );
  }
  if (moving !== null) return <Moving />;
  if (tool === "pin") return <Pinning />;
  if (tool === "paint") return <Painting />;
  if (tool === "sow") return <Sowing />;
  if (focus.kind === "surface" && grip) {
    return (
      <div className={HINT}>
        {grip === "pull"
          ? "Take hold of the surface and drag to pull it · Shift: up and down · E N U: along an axis · Esc: done"
          : "Click on the surface where it is held fast · Esc: done"}
      </div>
    );
  }
  if (focus.kind === "surface") {
    return (
      <div className={HINT}>
        {locked
          ? "This surface is locked: unlock it on the left to move it"
          : moves
            ? `Drag ${box ? "the box" : "the surface"}, or press the arrow keys, to move it · Shift: up and down · Esc: done`
            : `${box ? "Pull its sides by their dots, or" : "Drag"} its round handle to move it · anywhere else the view turns`}
      </div>
    );
  }
  if (focus.kind === "dressing" && patch)
    return <div className={HINT}>Drag its ring to slide all of it over the surface · click a prop to select it</div>;
  if (focus.kind === "dressing" && spread) return <OverSurface inside={inside} />;
  if (focus.kind !== "line") return null;
  const family = lines.find((line) => line.id === focus.id);
  if (isFamily(family))
    return (
      <div className={HINT}>
        {family.pairs === "picked"
          ? "Drag the rings that its lines go between · they stay tied to what they are caught on"
          : "Its lines go along with what they lie between · what they go between is said on the left"}
      </div>
    );
  const shape = lines.some((line) => line.id === focus.id && !hasKnots(line));
  const edges = lines.some((line) => line.id === focus.id && line.laid?.kind === "edges");
  return (
    <div className={HINT}>
      {shape
        ? "Drag the ring or the line · Shift: up and down · Alt: on the ground · E N U: along an axis"
        : edges
          ? "It follows the mesh and goes where its surface goes · a closed one starts where its ring is dragged to"
          : "Drag a knot or the line · Shift: up and down · Alt: on the ground · E N U: along an axis · click the line: new knot"}
    </div>
  );
}
