"use client";
/** What a made surface is made of: its numbers, its switches and its lines. */
import { describeChoice, describeParam } from "@/core/schema";
import type { z } from "zod";
import { MADE_KINDS, revolveSchema, type Band, type Loft, type Made, type Revolve } from "@/core/made";
import { type Surface } from "@/core/scene";
import { useScene } from "@/store";
import { NumberField, Segmented, Toggle, ValueField } from "../kit";
import { editMade, surfaceOf, selectLine, useEdit } from "../state";
import { GuideList } from "./cards/GuideList";
import { Tide } from "../time";
import { ChosenLine } from "./ChosenLine";
import { PartFields, ShellFields, TubeCourse, TubeFields } from "./SolidFields";
import { complaintOf } from "./params";

/** The numbers and switches of each kind, in their order. */
const FIELDS: Readonly<Record<Made["kind"], { numbers: readonly string[]; switches: readonly string[] }>> = {
  box: { numbers: ["width", "height", "depth"], switches: [] },
  bumps: { numbers: ["width", "depth", "height", "size", "rough", "seed"], switches: [] },
  revolve: { numbers: ["turn", "pieces"], switches: ["flip"] },
  band: {
    numbers: ["breadth", "thickness", "edges", "turn", "travel", "speed", "onceIn"],
    switches: ["flip"],
  },
  loft: { numbers: ["along", "between"], switches: ["rounded", "closed", "flip"] },
  tube: { numbers: ["radius", "thickness", "sides", "turn"], switches: [] },
  shell: { numbers: ["thickness"], switches: [] },
  solid: { numbers: [], switches: [] },
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
  const { numbers, switches } = FIELDS[made.kind];
  return (
    <div className="grid gap-1.5 border-t border-linen-2 pt-2">
      {made.kind === "loft" && <LoftLines surface={surface} made={made} />}
      {made.kind === "band" && (
        <ChosenLine
          label="Along"
          chosen={made.line}
          onChoose={(id) => editMade<Band>(surface.id, "Line of the band", (draft) => void (draft.line = id))}
        />
      )}
      {made.kind === "revolve" && <RevolveLine surface={surface} made={made} />}
      {made.kind === "tube" && <TubeFields surface={surface} made={made} />}
      {made.kind === "shell" && <ShellFields surface={surface} made={made} />}
      {made.kind === "solid" && <PartFields surface={surface} made={made} />}
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

function LoftLines({ surface, made }: MadeProps<Loft>) {
  const lines = useScene((scene) => scene.lines);
  const there = made.lines.filter((id) => lines.some((line) => line.id === id)).length;
  return (
    <>
      {there < 2 && <p className="text-xs text-ochre-dark">It needs two lines at least to be laid through.</p>}
      <GuideList
        noun="line"
        from="surface"
        chosen={made.lines}
        things={lines}
        empty="There is no other line in the scene. Draw one."
        onOpen={selectLine}
        onAdd={(id) => editMade<Loft>(surface.id, "Lay through a line", (draft) => void draft.lines.push(id))}
        onRemove={(id) =>
          editMade<Loft>(surface.id, "Lay through a line no more", (draft) => {
            draft.lines = draft.lines.filter((other) => other !== id);
          })
        }
      />
    </>
  );
}

function RevolveLine({ surface, made }: MadeProps<Revolve>) {
  const axis = describeChoice(revolveSchema.shape.axis);
  return (
    <>
      <ChosenLine
        label="Line"
        chosen={made.line}
        onChoose={(id) => editMade<Revolve>(surface.id, "Line to revolve", (draft) => void (draft.line = id))}
      />
      <div className="grid grid-cols-[84px_1fr] items-center gap-2">
        <span className="text-[12.5px] text-ink-6" title={axis.help}>
          {axis.label}
        </span>
        <Segmented
          label={axis.label}
          help={axis.help}
          value={made.axis as string}
          choices={axis.choices}
          onChange={(value) =>
            editMade<Revolve>(surface.id, "Axis", (draft) => void (draft.axis = value as Revolve["axis"]))
          }
        />
      </div>
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
