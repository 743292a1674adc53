"use client";
/** The knots of a line by numbers, and what can be set for those that are selected: corners, handles, roll, tags. */
import { Plus, Trash2 } from "lucide-react";
import {
  handlesOf,
  hasKnots,
  hasPlaces,
  isFamily,
  knotSchema,
  type BezierLine,
  type Knot,
  type Line,
} from "@/core/line";
import { add } from "@/core/math";
import { Button, IconButton, NameField, Segmented, Toggle, ValueField } from "../kit";
import {
  deleteKnots,
  holdKnots,
  editKnots,
  insertKnotBeside,
  lineOf,
  setJoin,
  writeHandle,
  type Side,
  currentKnot,
  selectLine,
  useSession,
  useEdit,
  tagColour,
  tagsOf,
} from "../state";
import { Tide } from "../time";
import { HeldBy, KnotTies } from "./HeldBy";
import { complaintOf } from "./params";

/** More knots than this are not listed one by one. */
const MAX_LISTED = 60;

export function KnotsSection({ line }: { line: Line }) {
  const selected = useSession((session) => session.knots);
  const current = useSession(currentKnot);
  return (
    <section aria-label="Knots">
      <h2 className="mb-1.5 flex items-center gap-2 text-xs font-semibold">
        {hasKnots(line) ? "Knots" : isFamily(line) ? "Places, two by two" : "Middle"}
        <span className="grow font-mono font-normal text-ink-5">x · y · z, metres</span>
        {hasKnots(line) && (
          <IconButton
            label={`Insert a knot after knot ${(current ?? 0) + 1}`}
            className="size-6.5"
            onClick={() => insertKnotBeside(line.id, current ?? 0)}
          >
            <Plus size={14} />
          </IconButton>
        )}
      </h2>
      {selected.length > 0 && hasPlaces(line) && <SelectedKnots line={line} knots={selected} />}
      {!hasPlaces(line) && (
        <div className="mb-2">
          <HeldBy tie={line.knots[0].held ?? null} but={line.id} onHold={(holder) => holdKnots(line.id, [0], holder)} />
        </div>
      )}
      <div className="mb-2">
        <KnotTies line={line} />
      </div>
      <ul className="grid gap-1">
        {line.knots.slice(0, MAX_LISTED).map((knot, i) => (
          <li
            key={i}
            onFocus={(event) => {
              if (event.target instanceof HTMLInputElement) selectLine(line.id, i);
            }}
            className={`group/tide grid grid-cols-[24px_18px_1fr_1fr_1fr_26px] items-center gap-1 rounded-lg px-0.5 py-0.5 ${selected.includes(i) ? "bg-ochre-soft" : ""}`}
          >
            <button
              type="button"
              className="font-mono text-[11px] text-ink-5"
              onClick={(event) => selectLine(line.id, i, event.shiftKey)}
              aria-label={`Select knot ${i + 1}`}
              aria-pressed={selected.includes(i)}
              title="Select this knot; with Shift, one more"
            >
              {i + 1}
            </button>
            <Tide
              at={{ list: "lines", id: line.id, path: `knots/${knot.id}/position` }}
              label={`the place of knot ${i + 1}`}
            />
            {([0, 1, 2] as const).map((axis) => (
              <KnotNumber key={axis} line={line} knot={i} axis={axis} value={knot.position[axis]} />
            ))}
            {hasPlaces(line) && (
              <IconButton
                label={isFamily(line) ? `Delete the pair of knot ${i + 1}` : `Delete knot ${i + 1}`}
                className="size-6.5"
                disabled={!isFamily(line) && line.knots.length <= 2}
                onClick={() => deleteKnots(line.id, [i])}
              >
                <Trash2 size={12} />
              </IconButton>
            )}
          </li>
        ))}
      </ul>
      {line.knots.length > MAX_LISTED && (
        <p className="mt-1 text-xs text-ink-6">
          The first {MAX_LISTED} of {line.knots.length} knots are listed; all can be moved in the view.
        </p>
      )}
    </section>
  );
}

interface OfKnots {
  line: Line;
  knots: readonly number[];
}

const ROW = "flex min-h-6.5 items-center justify-between gap-2 text-[12.5px] text-ink-6";

/** What can be set for the selected knots, all alike; shown is what the one chosen last has. */
function SelectedKnots({ line, knots }: OfKnots) {
  const last = knots[knots.length - 1];
  const knot = line.knots[last];
  if (!knot) return null;
  return (
    <div className="mb-2 grid gap-1.5 rounded-[10px] bg-linen-1 px-2.5 py-2">
      <p className="text-xs font-semibold">
        {knots.length === 1 ? `Knot ${last + 1}` : `${knots.length} knots`}
        {knots.length > 1 && <span className="font-normal text-ink-6"> · set alike</span>}
      </p>
      {line.kind === "polyline" && <CornerRadius {...{ line, knots, own: knot.radius, standard: line.cornerRadius }} />}
      {line.kind === "smooth" && (
        <Toggle
          label="Corner"
          help="The line turns here at once instead of gently."
          on={knot.corner === true}
          onChange={(on) =>
            editKnots(line.id, knots, "Corner", (held) => {
              if (on) held.corner = true;
              else delete held.corner;
            })
          }
        />
      )}
      {line.kind === "bezier" && <Joins line={line} knots={knots} />}
      <HeldBy tie={knot.held ?? null} but={line.id} onHold={(holder) => holdKnots(line.id, knots, holder)} />
      {hasKnots(line) && <Roll line={line} knots={knots} value={knot.roll ?? 0} />}
      {hasKnots(line) && (
        <div className={ROW}>
          <span title="A word for the span from here to the next knot; What can choose props by it">
            Tag of the span
          </span>
          <span className="flex items-center gap-1.5">
            {knot.tag !== undefined && (
              <i className="size-2.5 rounded-full" style={{ background: tagColour(line, knot.tag) }} />
            )}
            <NameField
              key={`${last} ${knot.tag ?? ""}`}
              label={`Tag of the span after knot ${last + 1}`}
              value={knot.tag ?? ""}
              empty
              placeholder="none"
              suggestions={tagsOf(line)}
              onChange={(tag) =>
                editKnots(line.id, knots, "Tag a span", (held) => {
                  if (tag === "") delete held.tag;
                  else held.tag = tag.slice(0, 40);
                })
              }
              className="h-6.5 w-28 rounded-[7px]! border-linen-3! bg-paper! px-1.5! text-xs"
            />
          </span>
        </div>
      )}
    </div>
  );
}

function Roll({ line, knots, value }: OfKnots & { value: number }) {
  const edit = useEdit<number>("Roll", (scene, roll) => {
    const held = lineOf(scene, line.id);
    for (const k of knots) if (held?.knots[k]) held.knots[k].roll = roll;
  });
  const rolled = knots.some((k) => line.knots[k]?.roll !== undefined);
  return (
    <div className={ROW}>
      <span title="Turns the line's frame here about its direction; in between it goes from one knot's roll to the next">
        Roll
      </span>
      <span className="flex items-center gap-1">
        {rolled && (
          <Button
            look="quiet"
            className="h-6.5! text-xs"
            onClick={() => editKnots(line.id, knots, "No roll", (held) => void delete held.roll)}
          >
            None
          </Button>
        )}
        <ValueField
          label="Roll"
          unit="rad"
          value={value}
          edit={edit}
          complaint={(v) => complaintOf(knotSchema.shape.roll, v)}
          className="w-20"
        />
      </span>
    </div>
  );
}

/** The radius of corners, where it differs from the line's. */
function CornerRadius({ line, knots, own, standard }: OfKnots & { own: number | undefined; standard: number }) {
  const edit = useEdit<number>("Corner radius", (scene, value) => {
    const held = lineOf(scene, line.id);
    for (const k of knots) if (held?.knots[k]) held.knots[k].radius = value;
  });
  return (
    <div className={ROW}>
      Corner radius
      <span className="flex items-center gap-1">
        {own !== undefined && (
          <Button
            look="quiet"
            className="h-6.5! text-xs"
            onClick={() => editKnots(line.id, knots, "Corner as the line's", (held) => void delete held.radius)}
          >
            As the line&apos;s
          </Button>
        )}
        <ValueField
          label="Corner radius"
          unit="m"
          value={own ?? standard}
          edit={edit}
          complaint={(value) => complaintOf(knotSchema.shape.radius, value)}
          className="w-20"
        />
      </span>
    </div>
  );
}

const JOINS: Readonly<Record<NonNullable<Knot["join"]>, string>> = { smooth: "Smooth", corner: "Corner", free: "Free" };

/** How a Bézier knot joins its spans, and its handles by numbers. */
function Joins({ line, knots }: { line: BezierLine; knots: readonly number[] }) {
  const last = knots[knots.length - 1];
  const { join = "smooth", before, after } = line.knots[last];
  return (
    <>
      <Segmented
        label="How the knot joins"
        help="Smooth: both handles on one line. Corner: none. Free: each for itself."
        value={join}
        choices={JOINS}
        onChange={(next) => setJoin(line.id, knots, next)}
      />
      {join !== "corner" &&
        (["before", "after"] as const).map((side) => <Handle key={side} line={line} knot={last} side={side} />)}
      {(before || after) && join !== "corner" && (
        <Button
          look="quiet"
          className="h-6.5! w-fit text-xs"
          onClick={() =>
            editKnots(line.id, knots, "Handles by themselves", (held) => {
              delete held.before;
              delete held.after;
            })
          }
        >
          Let the handles find themselves
        </Button>
      )}
    </>
  );
}

function Handle({ line, knot, side }: { line: BezierLine; knot: number; side: Side }) {
  const handle = handlesOf(line.knots, line.closed, knot)[side];
  return (
    <div className="grid grid-cols-[32px_1fr_1fr_1fr] items-center gap-1 text-xs text-ink-6">
      {side === "before" ? "Back" : "On"}
      {([0, 1, 2] as const).map((axis) => (
        <HandleNumber key={axis} {...{ line, knot, side, axis, handle }} />
      ))}
    </div>
  );
}

function HandleNumber({
  line,
  knot,
  side,
  axis,
  handle,
}: {
  line: BezierLine;
  knot: number;
  side: Side;
  axis: 0 | 1 | 2;
  handle: readonly number[];
}) {
  const edit = useEdit<number>("Move handle", (scene, next) => {
    const held = lineOf(scene, line.id);
    const moved = handle.map((value, k) => (k === axis ? next : value)) as [number, number, number];
    if (held) writeHandle(held, knot, side, add(line.knots[knot].position, moved));
  });
  const label = `Handle ${side === "before" ? "back" : "on"} ${"xyz"[axis]}`;
  return <ValueField bare label={label} unit="m" value={handle[axis]} edit={edit} complaint={() => null} />;
}

function KnotNumber({ line, knot, axis, value }: { line: Line; knot: number; axis: 0 | 1 | 2; value: number }) {
  const edit = useEdit<number>("Move knot", (scene, next) => {
    const held = lineOf(scene, line.id)?.knots[knot];
    if (held) held.position = held.position.map((old, k) => (k === axis ? next : old)) as [number, number, number];
  });
  return (
    <ValueField
      bare
      label={`Knot ${knot + 1} ${"xyz"[axis]}`}
      unit="m"
      value={value}
      edit={edit}
      complaint={() => null}
    />
  );
}
