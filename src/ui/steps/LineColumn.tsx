"use client";
/** The left column when a line is selected: its kind, its parameters, its knots by numbers. */
import { ArrowLeft, ChevronDown, Plus, Trash2 } from "lucide-react";
import type { z } from "zod";
import {
  hangingSchema,
  hasKnots,
  knotSchema,
  LINE_KINDS,
  type HangingRope,
  type KnottedLine,
  type Line,
  type LineKind,
  type Polyline,
} from "@/core/line";
import { describeChoice, describeParam, formatValue } from "@/core/scene";
import { useScene } from "@/store";
import { Button, Choose, IconButton, NameField, NumberField, Segmented, Toggle, ValueField } from "../kit";
import {
  deleteKnot,
  deleteLine,
  dress,
  duplicateLine,
  editLine,
  insertKnotBeside,
  joinLines,
  lineOf,
  reverseLine,
  setLineKind,
  splitLine,
} from "../state/edits";
import { selectLine, selectNothing, useSession } from "../state/session";
import { useEdit } from "../state/useEdit";
import { drawnLine } from "../view/guides";
import { PropPicture } from "../basket/PropPicture";
import { DressingLinks } from "./DressingLinks";
import { complaintOf } from "./params";

const KINDS = Object.entries(LINE_KINDS).map(([id, { label }]) => ({ id: id as LineKind, label }));

/** The names of a kind's numbers, in the order of its schema. */
const numbersOf = (kind: LineKind): string[] =>
  Object.entries(LINE_KINDS[kind].schema.shape).flatMap(([name, schema]) =>
    (schema as z.ZodType).meta()?.unit !== undefined ? name : [],
  );

export function LineColumn({ line }: { line: Line }) {
  const dressings = useScene((scene) => scene.dressings).filter((dressing) => dressing.where.lines.includes(line.id));
  const props = useScene((scene) => scene.props);
  const { curve } = drawnLine(line);
  const size = formatValue(curve.length, "m");
  return (
    <div className="grid gap-3 px-4 py-3.5">
      <div className="flex items-center gap-1">
        <IconButton label="Back to the dressing" className="-ml-2" onClick={selectNothing}>
          <ArrowLeft size={15} />
        </IconButton>
        <NameField
          label="Name of the line"
          value={line.name}
          onChange={(name) => editLine(line.id, "Rename line", (draft) => void (draft.name = name))}
          className="grow text-[15px] font-semibold"
        />
        <IconButton label="Delete line" onClick={() => deleteLine(line.id)}>
          <Trash2 size={14} />
        </IconButton>
      </div>
      <div className="flex items-center gap-2">
        <Choose
          label="Kind of line"
          choices={KINDS}
          onChoose={(kind) => setLineKind(line.id, kind as LineKind)}
          className={MENU}
        >
          {LINE_KINDS[line.kind].label}
          <ChevronDown size={13} />
        </Choose>
        <p className="font-mono text-xs text-ink-6">{hasKnots(line) ? `${size} · ${line.knots.length} knots` : size}</p>
      </div>
      {line.kind === "hanging" ? (
        <HangingFields line={line} />
      ) : (
        numbersOf(line.kind).map((name) => <LineNumber key={name} line={line} name={name} />)
      )}
      {(line.kind === "polyline" || line.kind === "smooth") && (
        <Toggle
          label="Closed"
          help="The last knot is joined to the first."
          on={line.closed}
          onChange={(closed) =>
            editLine(line.id, closed ? "Close line" : "Open line", (draft) => {
              if (draft.kind === "polyline" || draft.kind === "smooth") draft.closed = closed;
            })
          }
        />
      )}
      <div className="flex flex-wrap gap-1.5">
        <Choose
          label="Dress this line"
          choices={props.map((prop) => ({
            id: prop.id,
            label: prop.name,
            picture: <PropPicture prop={prop} size={22} />,
          }))}
          empty="The basket is empty. Drop a GLB file to add a prop."
          onChoose={(prop) => dress(line.id, prop)}
          className="h-8 rounded-lg border border-ink-9 bg-ink-9 px-2.5 font-medium text-white hover:bg-ink-6"
        >
          Dress with…
        </Choose>
        <Button onClick={() => duplicateLine(line.id)}>Duplicate</Button>
        {hasKnots(line) && <Changes line={line} />}
      </div>
      <DressingLinks lead="Dressed by" dressings={dressings} />
      <Knots line={line} />
    </div>
  );
}

const MENU = "inline-flex h-8 items-center gap-1.5 rounded-lg border border-linen-3 bg-linen-0 px-2.5 hover:bg-linen-1";

/** What can be made of a line with knots: run the other way, cut, led on by another one. */
function Changes({ line }: { line: KnottedLine }) {
  const knot = useSession((session) => session.knot);
  const lines = useScene((scene) => scene.lines);
  const closed = line.kind !== "hanging" && line.closed;
  const splits = knot !== null && (closed || (knot > 0 && knot < line.knots.length - 1));
  const others = closed
    ? []
    : lines.filter((other) => other.id !== line.id && hasKnots(other) && (other.kind === "hanging" || !other.closed));
  const change = (id: string) => {
    if (id === "reverse") reverseLine(line.id);
    else if (id === "split" && knot !== null) splitLine(line.id, knot);
    else joinLines(line.id, id);
  };
  return (
    <Choose
      label="Change the line"
      choices={[
        { id: "reverse", label: "Run it the other way" },
        {
          id: "split",
          label: knot === null ? "Split at a knot (select one)" : `${closed ? "Open" : "Split"} at knot ${knot + 1}`,
          disabled: !splits,
        },
        ...others.map(({ id, name }) => ({ id, label: `Join with ${name}` })),
      ]}
      onChoose={change}
      className={MENU}
    >
      Change
      <ChevronDown size={13} />
    </Choose>
  );
}

function HangingFields({ line }: { line: HangingRope }) {
  const by = describeChoice(hangingSchema.shape.by);
  const { curve } = drawnLine(line);
  const straight = drawnLine({ ...line, by: "sag", sag: 0 }).curve.length;
  const taut = line.by === "length" && line.length <= straight;
  return (
    <>
      <Segmented
        label={by.label}
        help={by.help}
        value={line.by}
        choices={by.choices as Record<"sag" | "length", string>}
        onChange={(value) =>
          editLine(line.id, by.label, (draft) => {
            if (draft.kind !== "hanging") return;
            // What is seen stays: the new description starts from the present shape.
            if (value === "length") draft.length = curve.length;
            draft.by = value;
          })
        }
      />
      <LineNumber line={line} name={line.by} />
      {taut && <p className="text-xs text-ochre-dark">Taut: the knots are {formatValue(straight, "m")} apart.</p>}
    </>
  );
}

function LineNumber({ line, name }: { line: Line; name: string }) {
  const schema = LINE_KINDS[line.kind].schema.shape[name] as z.ZodType;
  const param = describeParam(schema);
  const edit = useEdit<number>(param.label, (scene, value) => {
    const draft = lineOf(scene, line.id);
    if (draft) (draft as Record<string, unknown>)[name] = value;
  });
  return (
    <NumberField
      param={param}
      value={(line as unknown as Record<string, number>)[name]}
      standard={line.kind === "hanging" ? undefined : (schema.parse(undefined) as number)}
      edit={edit}
      complaint={(value) => complaintOf(schema, value)}
    />
  );
}

/** More knots than this are not listed one by one. */
const MAX_LISTED = 60;

function Knots({ line }: { line: Line }) {
  const selected = useSession((session) => session.knot);
  return (
    <section aria-label="Knots">
      <h3 className="mb-1.5 flex items-center gap-2 text-xs font-semibold">
        {hasKnots(line) ? "Knots" : "Middle"}
        <span className="grow font-mono font-normal text-ink-5">x · y · z</span>
        {hasKnots(line) && (
          <IconButton
            label={`Insert a knot after knot ${(selected ?? 0) + 1}`}
            className="size-6.5"
            onClick={() => insertKnotBeside(line.id, selected ?? 0)}
          >
            <Plus size={14} />
          </IconButton>
        )}
      </h3>
      <ul className="grid gap-1">
        {line.knots.slice(0, MAX_LISTED).map((knot, i) => (
          <li
            key={i}
            onFocus={() => selectLine(line.id, i)}
            className={`grid grid-cols-[20px_1fr_1fr_1fr_26px] items-center gap-1 rounded-lg px-1 py-0.5 ${selected === i ? "bg-ochre-soft" : ""}`}
          >
            <button
              type="button"
              className="font-mono text-[11px] text-ink-5"
              onClick={() => selectLine(line.id, i)}
              aria-label={`Select knot ${i + 1}`}
            >
              {i + 1}
            </button>
            {([0, 1, 2] as const).map((axis) => (
              <KnotNumber key={axis} line={line} knot={i} axis={axis} value={knot.position[axis]} />
            ))}
            {hasKnots(line) && (
              <IconButton
                label={`Delete knot ${i + 1}`}
                className="size-6.5"
                disabled={line.knots.length <= 2}
                onClick={() => deleteKnot(line.id, i)}
              >
                <Trash2 size={12} />
              </IconButton>
            )}
            {line.kind === "polyline" && selected === i && <CornerRadius line={line} knot={i} />}
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

/** The radius of one corner, where it differs from the line's. */
function CornerRadius({ line, knot }: { line: Polyline; knot: number }) {
  const own = line.knots[knot].radius;
  const edit = useEdit<number>("Corner radius", (scene, value) => {
    const held = lineOf(scene, line.id)?.knots[knot];
    if (held) held.radius = value;
  });
  return (
    <div className="col-span-full flex items-center gap-2 pb-0.5 pl-6 text-xs text-ink-6">
      Corner
      <ValueField
        label={`Corner radius at knot ${knot + 1}`}
        unit="m"
        value={own ?? line.cornerRadius}
        edit={edit}
        complaint={(value) => complaintOf(knotSchema.shape.radius, value)}
        className="w-20"
      />
      {own === undefined ? (
        "as the line's"
      ) : (
        <Button
          look="quiet"
          className="h-6.5! text-xs"
          onClick={() => editLine(line.id, "Corner as the line's", (draft) => void delete draft.knots[knot].radius)}
        >
          As the line&apos;s
        </Button>
      )}
    </div>
  );
}

function KnotNumber({ line, knot, axis, value }: { line: Line; knot: number; axis: 0 | 1 | 2; value: number }) {
  const edit = useEdit<number>("Move knot", (scene, next) => {
    const held = lineOf(scene, line.id)?.knots[knot];
    if (held) held.position = held.position.map((old, k) => (k === axis ? next : old)) as [number, number, number];
  });
  return (
    <ValueField label={`Knot ${knot + 1} ${"xyz"[axis]}`} unit="m" value={value} edit={edit} complaint={() => null} />
  );
}
