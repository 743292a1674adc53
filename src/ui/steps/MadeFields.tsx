"use client";
/** What a made surface is made of: its numbers, its switches and its lines. */
import { isFamily } from "@/core/line";
import { describeChoice, describeParam } from "@/core/schema";
import type { z } from "zod";
import { MADE_KINDS, type Band, type Loft, type Made, type Revolve, type Tube } from "@/core/made";
import { type Surface } from "@/core/scene";
import { useScene } from "@/store";
import { NumberField, Segmented, Toggle, ValueField } from "../kit";
import { editMade, surfaceOf, selectLine, useEdit } from "../state";
import { GuideList } from "./cards/GuideList";
import { Tide } from "../time";
import { ChosenLine } from "./ChosenLine";
import { PartFields, MadeOf, TubeCourse } from "./SolidFields";
import { complaintOf } from "./params";

/** The choices, numbers and switches of each kind, in their order. */
interface Fields {
  choices?: readonly string[];
  numbers: readonly string[];
  switches: readonly string[];
}

const FIELDS: Readonly<Record<Made["kind"], Fields>> = {
  box: { numbers: ["width", "height", "depth"], switches: [] },
  bumps: { numbers: ["width", "depth", "height", "size", "rough", "seed"], switches: [] },
  revolve: { numbers: ["turn", "pieces"], switches: ["flip"] },
  band: {
    numbers: ["breadth", "thickness", "edges", "turn", "travel", "speed", "onceIn"],
    switches: ["flip"],
  },
  loft: { numbers: ["along", "between"], switches: ["rounded", "closed", "flip"] },
  tube: { choices: ["section", "ends"], numbers: ["radius", "thickness", "sides", "turn"], switches: [] },
  shell: { choices: ["side"], numbers: ["thickness"], switches: [] },
  solid: { numbers: [], switches: [] },
  smoothed: { numbers: ["rounds", "keep"], switches: [] },
};

/** Numbers that are for nothing as things are. */
function isIdle(made: Made, name: string): boolean {
  if (made.kind !== "tube") return false;
  return (name === "thickness" && made.section !== "flat") || (name === "sides" && made.section !== "round");
}

interface MadeProps<T extends Made = Made> {
  surface: Surface;
  made: T;
}

export function MadeFields({ surface, made }: MadeProps) {
  const { choices = [], numbers, switches } = FIELDS[made.kind];
  return (
    <div className="grid gap-1.5 border-t border-linen-2 pt-2">
      {made.kind === "loft" && (
        <MadeLines
          surface={surface}
          made={made}
          fewest={2}
          needs="It needs two lines at least to be laid through."
          adding="Lay through a line"
          removing="Lay through a line no more"
        />
      )}
      {made.kind === "band" && (
        <ChosenLine
          label="Along"
          chosen={made.line}
          onChoose={(id) => editMade<Band>(surface.id, "Line of the band", (draft) => void (draft.line = id))}
        />
      )}
      {made.kind === "revolve" && <RevolveLine surface={surface} made={made} />}
      {made.kind === "tube" && (
        <MadeLines
          surface={surface}
          made={made}
          fewest={1}
          needs="It needs a line that becomes a tube."
          adding="Line becomes a tube"
          removing="Line is no tube any more"
        />
      )}
      {"of" in made && <MadeOf surface={surface} made={made} />}
      {made.kind === "solid" && <PartFields surface={surface} made={made} />}
      {choices.map((name) => (
        <MadeChoice key={name} surface={surface} made={made} name={name} />
      ))}
      {made.kind === "tube" && made.section === "line" && (
        <ChosenLine
          label="Shaped as"
          chosen={made.outline}
          onChoose={(id) => editMade<Tube>(surface.id, "Section", (draft) => void (draft.outline = id))}
        />
      )}
      {numbers.map(
        (name) => !isIdle(made, name) && <MadeNumber key={name} surface={surface} made={made} name={name} />,
      )}
      {made.kind === "tube" && <TubeCourse surface={surface} made={made} />}
      {switches.map((name) => (
        <MadeSwitch key={name} surface={surface} made={made} name={name} />
      ))}
    </div>
  );
}

const schemaOf = (made: Made, name: string): z.ZodType => MADE_KINDS[made.kind].schema.shape[name] as z.ZodType;

function MadeNumber({ surface, made, name }: MadeProps & { name: string }) {
  const schema = schemaOf(made, name);
  const param = describeParam(schema);
  const edit = useEdit<number>(param.label, (scene, value) => {
    const draft = surfaceOf(scene, surface.id)?.made;
    if (draft) (draft as unknown as Record<string, unknown>)[name] = value;
  });
  return (
    <NumberField
      param={param}
      value={(made as unknown as Record<string, number>)[name]}
      standard={schema.parse(undefined) as number}
      edit={edit}
      complaint={(value) => complaintOf(schema, value)}
      mark={<Tide at={{ list: "surfaces", id: surface.id, path: `made/${name}` }} label={param.label} />}
    />
  );
}

function MadeSwitch({ surface, made, name }: MadeProps & { name: string }) {
  const { label, help } = schemaOf(made, name).meta() as { label: string; help: string };
  return (
    <Toggle
      label={label}
      help={help}
      on={(made as unknown as Record<string, boolean>)[name]}
      onChange={(on) =>
        editMade(surface.id, label, (draft) => void ((draft as unknown as Record<string, unknown>)[name] = on))
      }
      mark={<Tide at={{ list: "surfaces", id: surface.id, path: `made/${name}` }} label={label} />}
    />
  );
}

function MadeChoice({ surface, made, name }: MadeProps & { name: string }) {
  const { label, help, choices } = describeChoice(schemaOf(made, name) as Parameters<typeof describeChoice>[0]);
  return (
    <div className="grid grid-cols-[84px_1fr] items-center gap-2">
      <span className="text-[12.5px] text-ink-6" title={help}>
        {label}
      </span>
      <Segmented
        label={label}
        help={help}
        value={(made as unknown as Record<string, string>)[name]}
        choices={choices}
        onChange={(value) =>
          editMade(surface.id, label, (draft) => void ((draft as unknown as Record<string, unknown>)[name] = value))
        }
      />
    </div>
  );
}

interface MadeLinesProps extends MadeProps<Loft | Tube> {
  /** How many lines it needs, and how that is said. */
  fewest: number;
  needs: string;
  adding: string;
  removing: string;
}

/** The lines that a surface is made of, in their order. */
function MadeLines({ surface, made, fewest, needs, adding, removing }: MadeLinesProps) {
  const all = useScene((scene) => scene.lines);
  // Only tubes are made of families, each of its members.
  const lines = made.kind === "tube" ? all : all.filter((line) => !isFamily(line));
  const there = made.lines.filter((id) => lines.some((line) => line.id === id)).length;
  return (
    <>
      {there < fewest && <p className="text-xs text-ochre-dark">{needs}</p>}
      <GuideList
        noun="line"
        from={made.kind === "tube" ? "tube" : "surface"}
        chosen={made.lines}
        things={lines}
        empty="There is no other line in the scene. Draw one."
        onOpen={selectLine}
        onAdd={(id) => editMade<Loft | Tube>(surface.id, adding, (draft) => void draft.lines.push(id))}
        onRemove={(id) =>
          editMade<Loft | Tube>(surface.id, removing, (draft) => {
            draft.lines = draft.lines.filter((other) => other !== id);
          })
        }
      />
    </>
  );
}

function RevolveLine({ surface, made }: MadeProps<Revolve>) {
  return (
    <>
      <ChosenLine
        label="Line"
        chosen={made.line}
        onChoose={(id) => editMade<Revolve>(surface.id, "Line to revolve", (draft) => void (draft.line = id))}
      />
      <MadeChoice surface={surface} made={made} name="axis" />
      {made.axis === "line" ? (
        <ChosenLine
          label="Axis line"
          chosen={made.axisLine}
          onChoose={(id) => editMade<Revolve>(surface.id, "Axis", (draft) => void (draft.axisLine = id))}
        />
      ) : (
        <div className="grid grid-cols-[84px_1fr_1fr_1fr] items-center gap-1.5">
          <span className="text-[12.5px] text-ink-6">Through</span>
          {([0, 1, 2] as const).map((k) => (
            <ThroughNumber key={k} surface={surface} made={made} axis={k} />
          ))}
        </div>
      )}
    </>
  );
}

function ThroughNumber({ surface, made, axis }: MadeProps<Revolve> & { axis: 0 | 1 | 2 }) {
  const edit = useEdit<number>("Axis", (scene, value) => {
    const draft = surfaceOf(scene, surface.id)?.made;
    if (draft?.kind === "revolve")
      draft.through = draft.through.map((old, k) => (k === axis ? value : old)) as [number, number, number];
  });
  return (
    <ValueField
      bare
      label={`Through ${"xyz"[axis]}`}
      unit="m"
      value={made.through[axis]}
      edit={edit}
      complaint={() => null}
    />
  );
}
