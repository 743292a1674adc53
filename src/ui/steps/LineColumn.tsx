"use client";
/** The left column when a line is selected: its kind, its parameters, its knots by numbers. */
import { ArrowLeft, Plus, Trash2 } from "lucide-react";
import type { z } from "zod";
import { hangingSchema, LINE_KINDS, type HangingRope, type Line, type LineKind } from "@/core/line";
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
  lineOf,
  setLineKind,
} from "../state/edits";
import { selectLine, selectNothing, useSession } from "../state/session";
import { useEdit } from "../state/useEdit";
import { drawnLine } from "../view/guides";
import { PropPicture } from "../basket/PropPicture";
import { DressingLinks } from "./DressingLinks";
import { complaintOf } from "./params";

const KINDS = Object.fromEntries(Object.entries(LINE_KINDS).map(([kind, { label }]) => [kind, label])) as Record<
  LineKind,
  string
>;

export function LineColumn({ line }: { line: Line }) {
  const dressings = useScene((scene) => scene.dressings).filter((dressing) => dressing.where.lines.includes(line.id));
  const props = useScene((scene) => scene.props);
  const { curve } = drawnLine(line);
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
      <p className="font-mono text-xs text-ink-6">
        {formatValue(curve.length, "m")} · {line.knots.length} knots
      </p>
      <Segmented
        label="Kind of line"
        value={line.kind}
        choices={KINDS}
        onChange={(kind) => setLineKind(line.id, kind)}
      />
      {line.kind === "hanging" ? (
        <HangingFields line={line} />
      ) : (
        <Toggle
          label="Closed"
          help="The last knot is joined to the first."
          on={line.closed}
          onChange={(closed) =>
            editLine(
              line.id,
              closed ? "Close line" : "Open line",
              (draft) => draft.kind !== "hanging" && (draft.closed = closed),
            )
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
      </div>
      <DressingLinks lead="Dressed by" dressings={dressings} />
      <Knots line={line} />
    </div>
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
      <LineNumber line={line} name={line.by} schema={hangingSchema.shape[line.by]} />
      {taut && <p className="text-xs text-ochre-dark">Taut: the knots are {formatValue(straight, "m")} apart.</p>}
    </>
  );
}

function LineNumber({ line, name, schema }: { line: HangingRope; name: "sag" | "length"; schema: z.ZodType }) {
  const param = describeParam(schema);
  const edit = useEdit<number>(param.label, (scene, value) => {
    const draft = lineOf(scene, line.id);
    if (draft?.kind === "hanging") draft[name] = value;
  });
  return <NumberField param={param} value={line[name]} edit={edit} complaint={(value) => complaintOf(schema, value)} />;
}

/** More knots than this are not listed one by one. */
const MAX_LISTED = 60;

function Knots({ line }: { line: Line }) {
  const selected = useSession((session) => session.knot);
  return (
    <section aria-label="Knots">
      <h3 className="mb-1.5 flex items-center gap-2 text-xs font-semibold">
        Knots <span className="grow font-mono font-normal text-ink-5">x · y · z</span>
        <IconButton
          label={`Insert a knot after knot ${(selected ?? 0) + 1}`}
          className="size-6.5"
          onClick={() => insertKnotBeside(line.id, selected ?? 0)}
        >
          <Plus size={14} />
        </IconButton>
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
            <IconButton
              label={`Delete knot ${i + 1}`}
              className="size-6.5"
              disabled={line.knots.length <= 2}
              onClick={() => deleteKnot(line.id, i)}
            >
              <Trash2 size={12} />
            </IconButton>
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

function KnotNumber({ line, knot, axis, value }: { line: Line; knot: number; axis: 0 | 1 | 2; value: number }) {
  const edit = useEdit<number>("Move knot", (scene, next) => {
    const held = lineOf(scene, line.id)?.knots[knot];
    if (held) held.position = held.position.map((old, k) => (k === axis ? next : old)) as [number, number, number];
  });
  return (
    <ValueField label={`Knot ${knot + 1} ${"xyz"[axis]}`} unit="m" value={value} edit={edit} complaint={() => null} />
  );
}
