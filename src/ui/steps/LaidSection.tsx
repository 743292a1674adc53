"use client";
/** Of a line: whether it lies on surfaces, or follows the edges of one. */
import type { z } from "zod";
import { laidSchema, type Laid, type LaidOnEdges, type LaidOnSurface, type Line } from "@/core/line";
import { describeChoice, describeParam } from "@/core/schema";
import { useScene } from "@/store";
import { Button, Choose, NumberField, Segmented, Toggle, ValueField } from "../kit";
import { editLine, lineOf, makeKnots, makeRows, useLaid, selectSurface, useEdit } from "../state";
import { GuideList } from "./cards/GuideList";
import { complaintOf } from "./params";

const [ONTO, ALONG] = laidSchema.options;
/** How many rows of texture coordinates can be made at once. */
const ROWS = [2, 3, 4, 6, 8, 12, 16, 24];

interface LaidProps<T extends Laid = Laid> {
  line: Line;
  laid: T;
}

export function LaidSection({ line }: { line: Line }) {
  const { laid } = line;
  const known = useLaid(({ tracks }) => tracks.has(line.id));
  return (
    <div className="grid gap-1.5 border-t border-linen-2 pt-2">
      {laid?.kind === "edges" ? (
        <OnEdges line={line} laid={laid} />
      ) : (
        <>
          <Segmented
            label="Where it lies"
            help="By its knots alone, or laid onto surfaces, where it stays when they or it are changed."
            value={laid ? "laid" : "free"}
            choices={{ free: "By its knots", laid: "On a surface" }}
            onChange={(value) =>
              editLine(line.id, value === "laid" ? "Lay line" : "Lift line", (draft) => {
                const laid = value === "laid" ? laidSchema.parse({ kind: "surface" }) : null;
                draft.laid = laid as typeof draft.laid;
              })
            }
          />
          {laid && <OnSurface line={line} laid={laid} />}
        </>
      )}
      {laid && !known && <p className="text-xs text-ochre-dark">There is nothing here for it to lie on.</p>}
    </div>
  );
}

/** Changes what is said of how the line is laid. */
const write = <T extends Laid>(line: Line, label: string, edit: (laid: T) => void): void =>
  editLine(line.id, label, (draft) => {
    if (draft.laid) edit(draft.laid as T);
  });

function LaidChoice<T extends Laid>({ line, laid, name, schema, columns }: LaidProps<T> & ChoiceOf<T>) {
  const { label, help, choices } = describeChoice(schema);
  return (
    <Segmented
      label={label}
      help={help}
      value={laid[name] as string}
      choices={choices}
      columns={columns}
      onChange={(value) => write<T>(line, label, (draft) => void ((draft[name] as string) = value))}
    />
  );
}

interface ChoiceOf<T extends Laid> {
  name: Extract<keyof T, string>;
  schema: z.ZodType;
  columns?: number;
}

function OnSurface({ line, laid }: LaidProps<LaidOnSurface>) {
  const surfaces = useScene((scene) => scene.surfaces);
  return (
    <>
      <LaidChoice line={line} laid={laid} name="way" schema={ONTO.shape.way} />
      {laid.way === "axis" && (
        <div className="grid grid-cols-[84px_1fr_1fr_1fr] items-center gap-1.5">
          <span className="text-[12.5px] text-ink-6">Direction</span>
          {([0, 1, 2] as const).map((axis) => (
            <AxisNumber key={axis} line={line} laid={laid} axis={axis} />
          ))}
        </div>
      )}
      <LaidChoice line={line} laid={laid} name="how" schema={ONTO.shape.how} />
      {laid.on.length === 0 && <p className="text-xs text-ink-6">On all that is ground, unless surfaces are named.</p>}
      <GuideList
        noun="surface"
        from="line"
        chosen={laid.on}
        things={surfaces}
        empty="There is no other surface in this scene."
        onOpen={selectSurface}
        onAdd={(id) => write<LaidOnSurface>(line, "Lay line", (draft) => void draft.on.push(id))}
        onRemove={(id) =>
          write<LaidOnSurface>(line, "Lay line", (draft) => {
            draft.on = draft.on.filter((other) => other !== id);
          })
        }
      />
    </>
  );
}

function AxisNumber({ line, laid, axis }: LaidProps<LaidOnSurface> & { axis: 0 | 1 | 2 }) {
  const edit = useEdit<number>("Lay line", (scene, value) => {
    const draft = lineOf(scene, line.id)?.laid;
    if (draft?.kind === "surface")
      draft.axis = draft.axis.map((old, k) => (k === axis ? value : old)) as [number, number, number];
  });
  return (
    <ValueField
      bare
      label={`Direction ${"xyz"[axis]}`}
      unit="m"
      value={laid.axis[axis]}
      edit={edit}
      complaint={() => null}
    />
  );
}

function OnEdges({ line, laid }: LaidProps<LaidOnEdges>) {
  const surface = useScene((scene) => scene.surfaces.find(({ id }) => id === laid.on));
  const row = laid.follow === "u" || laid.follow === "v";
  const reverse = ALONG.shape.reverse.meta() as { label: string; help: string };
  return (
    <>
      <p className="text-xs text-ink-6">
        From the mesh of{" "}
        <button type="button" className="text-sea underline" onClick={() => selectSurface(laid.on)}>
          {surface?.name ?? "a surface that is gone"}
        </button>
        ; it follows that wherever it goes.
      </p>
      <LaidChoice line={line} laid={laid} name="follow" schema={ALONG.shape.follow} columns={3} />
      {laid.follow === "sharp" && <EdgeNumber line={line} laid={laid} name="bend" />}
      {row && <EdgeNumber line={line} laid={laid} name="value" />}
      <Toggle
        label={reverse.label}
        help={reverse.help}
        on={laid.reverse}
        onChange={(on) => write<LaidOnEdges>(line, reverse.label, (draft) => void (draft.reverse = on))}
      />
      <div className="flex flex-wrap gap-1.5">
        <Button onClick={() => makeKnots(line.id)}>Make knots of it</Button>
        {row && (
          <Choose
            label="Make rows"
            choices={ROWS.map((n) => ({ id: String(n), label: `${n} rows, evenly` }))}
            onChoose={(n) => makeRows(line.id, Number(n))}
            className="h-8 rounded-lg border border-linen-3 bg-linen-0 px-2.5 hover:bg-linen-1"
          >
            Make rows…
          </Choose>
        )}
      </div>
    </>
  );
}

function EdgeNumber({ line, laid, name }: LaidProps<LaidOnEdges> & { name: "bend" | "value" }) {
  const schema = ALONG.shape[name];
  const param = describeParam(schema);
  const edit = useEdit<number>(param.label, (scene, value) => {
    const draft = lineOf(scene, line.id)?.laid;
    if (draft?.kind === "edges") draft[name] = value;
  });
  return (
    <NumberField
      param={param}
      value={laid[name]}
      standard={schema.parse(undefined)}
      edit={edit}
      complaint={(value) => complaintOf(schema, value)}
    />
  );
}
