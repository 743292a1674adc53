"use client";
/** The left column when a line is selected: its kind, its parameters, its knots by numbers. */
import { ChevronDown } from "lucide-react";
import type { ReactNode } from "react";
import type { z } from "zod";
import {
  curveOf,
  hangingSchema,
  hasKnots,
  isFamily,
  isKnotted,
  LINE_KINDS,
  polylineSchema,
  type HangingRope,
  type Between,
  type KnottedLine,
  type Line,
  type LineKind,
} from "@/core/line";
import { describeChoice, describeParam, formatValue } from "@/core/schema";
import { useScene, useSceneStore } from "@/store";
import { Button, Choose, NumberField, Segmented, Toggle } from "../kit";
import {
  addFamily,
  deleteLine,
  dress,
  dressField,
  duplicateLine,
  editLine,
  guideLinesOf,
  holesOf,
  joinLines,
  lineOf,
  reverseLine,
  setLineKind,
  splitLine,
  suitingPairs,
  surfacesOf,
  useLaid,
  currentKnot,
  useSession,
  useEdit,
  drawnLine,
} from "../state";
import { usePropChoices } from "../basket";
import { ColumnHead } from "./ColumnHead";
import { DressingLinks } from "./DressingLinks";
import { SpreadHere } from "./SpreadOver";
import { FamilySection, LoosenFamily } from "./FamilySection";
import { KnotsSection } from "./KnotsSection";
import { LaidSection } from "./LaidSection";
import { Tide } from "../time";
import { complaintOf } from "./params";

const KINDS = Object.entries(LINE_KINDS).flatMap(([id, { label }]) =>
  id === "between" ? [] : { id: id as LineKind, label },
);

/** Numbers that all kinds have, which stand by themselves. */
const SHARED: ReadonlySet<string> = new Set(["ringRadius", "marks", "marksFrom"]);

/** The names of the numbers that a kind has for itself, in the order of its schema. */
const numbersOf = (kind: LineKind): string[] =>
  Object.entries(LINE_KINDS[kind].schema.shape).flatMap(([name, schema]) =>
    (schema as z.ZodType).meta()?.unit !== undefined && !SHARED.has(name) ? name : [],
  );

/** What a closed line encloses, as seen from above, square metres. */
function areaWithin(line: Line): number {
  const { points } = drawnLine(line);
  const twice = points.reduce((sum, [x, , z], i) => {
    const [nx, , nz] = points[(i + 1) % points.length];
    return sum + x * nz - nx * z;
  }, 0);
  return Math.abs(twice) / 2;
}

export function LineColumn({ line }: { line: Line }) {
  return isFamily(line) ? <FamilyColumn family={line} /> : <OneLine line={line} />;
}

/** A line that runs between pairs, as often as there are pairs. */
function FamilyColumn({ family }: { family: Between }) {
  return (
    <div className="grid gap-3 px-4 py-3.5">
      <Head line={family} />
      <FamilySection family={family} />
      <LineNumber line={family} name="marks" />
      <Dressable line={family}>
        <LoosenFamily family={family} />
      </Dressable>
      {family.pairs === "picked" && <KnotsSection line={family} />}
    </div>
  );
}

const Head = ({ line }: { line: Line }) => (
  <ColumnHead
    what="line"
    name={line.name}
    onRename={(name) => editLine(line.id, "Rename line", (draft) => void (draft.name = name))}
    onDelete={() => deleteLine(line.id)}
  />
);

/** What a line is dressed with, and what else is made of it. */
function Dressable({ line, children }: { line: Line; children?: ReactNode }) {
  const dressings = useScene((scene) => scene.dressings).filter((dressing) => guideLinesOf(dressing).includes(line.id));
  const choices = usePropChoices();
  return (
    <>
      <div className="flex flex-wrap gap-1.5">
        <Choose
          label="Dress with a prop: this line"
          choices={choices}
          empty="The basket is empty. Drop a mesh's file to add a prop."
          onChoose={(prop) => dress(line.id, prop)}
          className="h-8 rounded-lg border border-ink-9 bg-ink-9 px-2.5 font-medium text-paper hover:bg-ink-6"
        >
          Dress with…
        </Choose>
        <Button onClick={() => duplicateLine(line.id)}>Duplicate</Button>
        {children}
      </div>
      <DressingLinks lead="Dressed by" dressings={dressings} />
    </>
  );
}

function OneLine({ line }: { line: Exclude<Line, Between> }) {
  useLaid(({ tracks }) => tracks.get(line.id));
  const { curve } = drawnLine(line);
  const edges = line.laid?.kind === "edges";
  const size = formatValue(curve.length, "m");
  return (
    <div className="grid gap-3 px-4 py-3.5">
      <Head line={line} />
      {edges && <p className="font-mono text-xs text-ink-6">{size}</p>}
      {!edges && <OwnShape line={line} size={size} />}
      <LaidSection line={line} />
      {!line.laid && (line.ring || !curve.closed) && <LineSwitch line={line} name="ring" />}
      {line.ring && !line.laid && <LineNumber line={line} name="ringRadius" />}
      <Divided line={line} />
      <Dressable line={line}>
        {isKnotted(line) && <Changes line={line} />}
        <Button
          title="Lines from each of its divisions to the next, or to another line"
          onClick={() => addFamily(suitingPairs({ line: line.id, dressing: null }))}
        >
          Lines between…
        </Button>
      </Dressable>
      {curve.closed && (
        <SpreadHere
          label="Fill it as an area"
          onChoose={(prop) =>
            dressField(
              {
                areas: [line.id],
                holes: holesOf(line, useSceneStore.getState().shown),
                surfaces: surfacesOf(line, useSceneStore.getState().shown),
              },
              areaWithin(line),
              prop,
            )
          }
        />
      )}
      {!edges && <KnotsSection line={line} />}
    </div>
  );
}

/** The kind of a line and what belongs to it. */
function OwnShape({ line, size }: { line: Line; size: string }) {
  return (
    <>
      <div className="flex items-center gap-2">
        <Choose
          label={`Kind of line: ${LINE_KINDS[line.kind].label}`}
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
      {hasKnots(line) && line.kind !== "hanging" && (
        <Toggle
          label="Closed"
          help="The last knot is joined to the first."
          on={line.closed}
          onChange={(closed) =>
            editLine(line.id, closed ? "Close line" : "Open line", (draft) => {
              if ("closed" in draft) draft.closed = closed;
            })
          }
        />
      )}
    </>
  );
}

/** The parts that a line is divided into, which its marks show. */
function Divided({ line }: { line: Line }) {
  const { closed, knotAt } = drawnLine(line).curve;
  const per = describeChoice(polylineSchema.shape.marksPer);
  return (
    <>
      <LineNumber line={line} name="marks" />
      {line.marks > 0 && closed && (
        <>
          <LineNumber line={line} name="marksFrom" />
          {knotAt.length > 1 && (
            <Segmented
              label={per.label}
              help={per.help}
              value={line.marksPer}
              choices={per.choices as Record<Line["marksPer"], string>}
              onChange={(value) => editLine(line.id, per.label, (draft) => void (draft.marksPer = value))}
            />
          )}
        </>
      )}
    </>
  );
}

function LineSwitch({ line, name }: { line: Line; name: "ring" }) {
  const { label, help } = polylineSchema.shape[name].meta() as { label: string; help: string };
  return (
    <Toggle
      label={label}
      help={help}
      on={line[name]}
      onChange={(on) => editLine(line.id, label, (draft) => void (draft[name] = on))}
      mark={<Tide at={{ list: "lines", id: line.id, path: name }} label={label} />}
    />
  );
}

const MENU = "inline-flex h-8 items-center gap-1.5 rounded-lg border border-linen-3 bg-linen-0 px-2.5 hover:bg-linen-1";

/** What can be made of a line with knots: run the other way, cut, led on by another one. */
function Changes({ line }: { line: KnottedLine }) {
  const knot = useSession(currentKnot);
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
  const straight = curveOf({ ...line, by: "sag", sag: 0 }).length;
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
      standard={line.kind === "hanging" && !SHARED.has(name) ? undefined : (schema.parse(undefined) as number)}
      edit={edit}
      complaint={(value) => complaintOf(schema, value)}
      mark={<Tide at={{ list: "lines", id: line.id, path: name }} label={param.label} />}
    />
  );
}
