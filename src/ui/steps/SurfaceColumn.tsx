"use client";
/** The left column when a surface is selected: where it stands, how it is turned and sized, what it is good for. */
import {
  angleParam,
  describeChoice,
  describeParam,
  lengthParam,
  plainParam,
  type ParamDescription,
} from "@/core/schema";
import { useRef } from "react";
import { MADE_KINDS } from "@/core/made";
import { laidSchema, type LaidOnEdges } from "@/core/line";
import { fromTurns, turnsOf } from "@/core/math";
import { fieldIdsOf } from "@/core/place";
import { type Surface } from "@/core/scene";
import { useScene } from "@/store";
import { MESH_FILES, partSurface, replaceSurface, standInFor, useSurfaceModel } from "../assets";
import { Button, Choose, FilesInput, NumberField, Toggle, ValueField } from "../kit";
import { deleteSurface, duplicateSurface, editSurface, surfaceOf, useEdit } from "../state";
import { startDrawingOn } from "../view";
import { ColumnHead } from "./ColumnHead";
import { DressingLinks } from "./DressingLinks";
import { complaintOf } from "./params";
import { MadeFields } from "./MadeFields";
import { fillInside, SpreadHere, spreadOver } from "./SpreadOver";

const { choices: EDGES } = describeChoice(laidSchema.options[1].shape.follow);

type Turn = "up" | "across" | "along";

const angle = (label: string, help: string) => angleParam({ label, help, default: 0, slider: [-Math.PI, Math.PI] });
const TURNS: Readonly<Record<Turn, ParamDescription>> = {
  up: describeParam(angle("Turn", "About the upright axis.")),
  across: describeParam(angle("Tip", "Forward or back.")),
  along: describeParam(angle("Roll", "To the side.")),
};
const SIZE = plainParam({
  label: "Size",
  help: "How many times as large as in its file.",
  default: 1,
  above: 0,
  slider: [0.1, 10],
});
const PLACE = lengthParam({ label: "Place", help: "", default: 0, slider: [-10, 10] });

export function SurfaceColumn({ surface }: { surface: Surface }) {
  const all = useScene((scene) => scene.dressings);
  const over = all.filter(({ where }) => fieldIdsOf(where).includes(surface.id));
  const dressings = all.filter(
    (dressing) =>
      !over.includes(dressing) &&
      dressing.fit.drop !== "off" &&
      (dressing.fit.onto.length > 0 ? dressing.fit.onto.includes(surface.id) : surface.ground),
  );
  const triangles = useSurfaceModel(surface)?.triangles ?? surface.triangles;
  const toggle = (name: "ground" | "solid" | "outline" | "hidden" | "locked", label: string) => (on: boolean) =>
    editSurface(surface.id, label, (draft) => void (draft[name] = on));
  return (
    <div className="grid gap-3 px-4 py-3.5">
      <ColumnHead
        what="surface"
        name={surface.name}
        onRename={(name) => editSurface(surface.id, "Rename surface", (draft) => void (draft.name = name))}
        onDelete={() => deleteSurface(surface.id)}
      />
      <p className="truncate font-mono text-xs text-ink-6" title={surface.file}>
        {[surface.made ? MADE_KINDS[surface.made.kind].label : surface.file, trianglesIn(triangles)]
          .filter((fact) => fact !== "")
          .join(" · ")}
      </p>
      <fieldset disabled={surface.locked} className="grid gap-1.5 disabled:opacity-50">
        <div className="grid grid-cols-[56px_1fr_1fr_1fr] items-center gap-1.5">
          <span className="text-[12.5px] text-ink-6">Place</span>
          {([0, 1, 2] as const).map((axis) => (
            <PlaceNumber key={axis} surface={surface} axis={axis} />
          ))}
        </div>
        {(["up", "across", "along"] as const).map((turn) => (
          <TurnNumber key={turn} surface={surface} turn={turn} />
        ))}
        <SizeNumber surface={surface} />
      </fieldset>
      {surface.made && <MadeFields surface={surface} made={surface.made} />}
      <div className="grid gap-1.5 border-t border-linen-2 pt-2">
        <Toggle
          label="Is ground"
          help="Lines are drawn on it, and props that are dropped stand on it."
          on={surface.ground}
          onChange={toggle("ground", "Ground")}
        />
        <Toggle
          label="Solid"
          help="It is a finding when a prop pokes through it; leave it off for water and the like."
          on={surface.solid}
          onChange={toggle("solid", "Solid")}
        />
        <Toggle
          label="As an outline"
          help="Only its edges are drawn, as of a space that things fill."
          on={surface.outline}
          onChange={toggle("outline", "Outline")}
        />
        <Toggle
          label="Hidden"
          help="It is not drawn; what stands on it stands there all the same."
          on={surface.hidden}
          onChange={toggle("hidden", "Hide surface")}
        />
        <Toggle
          label="Locked"
          help="It cannot be moved by hand."
          on={surface.locked}
          onChange={toggle("locked", "Lock surface")}
        />
      </div>
      <div className="flex flex-wrap gap-1.5">
        <SpreadHere label="Dress this surface" onChoose={(prop) => spreadOver(surface.id, prop)} />
        <SpreadHere label="Fill its inside" onChoose={(prop) => fillInside(surface.id, prop)} />
        <Button onClick={() => startDrawingOn(surface.id)}>Draw on it</Button>
        <Choose
          label="Take a line from its mesh"
          choices={Object.entries(EDGES).map(([id, label]) => ({ id, label }))}
          onChoose={(form) => startDrawingOn(surface.id, form as LaidOnEdges["follow"])}
          className="h-8 rounded-lg border border-linen-3 bg-linen-0 px-2.5 hover:bg-white"
        >
          Line from its mesh…
        </Choose>
        <Button onClick={() => duplicateSurface(surface.id)}>Duplicate</Button>
        {!surface.made && <FromFile surface={surface} />}
      </div>
      <DressingLinks lead="Dressed by" dressings={over} />
      <DressingLinks lead="Under" dressings={dressings} />
    </div>
  );
}

/** What can be done with a surface that came as a file. */
function FromFile({ surface }: { surface: Surface }) {
  const file = useRef<HTMLInputElement>(null);
  const standIn = useRef<HTMLInputElement>(null);
  const { id } = surface;
  return (
    <>
      <Button onClick={() => file.current?.click()}>Replace the file…</Button>
      <Button onClick={() => void partSurface(surface)} title="Each mesh of its file becomes a surface of its own.">
        Part into its meshes
      </Button>
      {surface.standIn === null ? (
        <Button
          onClick={() => standIn.current?.click()}
          title="A lighter mesh that props stand on and are measured by, while this one is drawn."
        >
          Stand-in…
        </Button>
      ) : (
        <Button
          title={surface.standInFile}
          onClick={() =>
            editSurface(id, "Stand-in of surface", (draft) => {
              draft.standIn = null;
              draft.standInFile = "";
            })
          }
        >
          Take the stand-in away
        </Button>
      )}
      <FilesInput
        input={file}
        accept={MESH_FILES}
        testId="replace-surface"
        onFiles={(files) => void replaceSurface(id, files)}
      />
      <FilesInput
        input={standIn}
        accept={MESH_FILES}
        testId="stand-in"
        onFiles={(files) => void standInFor(id, files)}
      />
    </>
  );
}

const trianglesIn = (count: number): string => (count > 0 ? `${count.toLocaleString("en")} triangles` : "");

function PlaceNumber({ surface, axis }: { surface: Surface; axis: 0 | 1 | 2 }) {
  const edit = useEdit<number>("Move surface", (scene, value) => {
    const draft = surfaceOf(scene, surface.id);
    if (draft) draft.position = draft.position.map((old, k) => (k === axis ? value : old)) as [number, number, number];
  });
  return (
    <ValueField
      label={`Place ${"xyz"[axis]}`}
      unit="m"
      value={surface.position[axis]}
      edit={edit}
      complaint={(value) => complaintOf(PLACE, value)}
    />
  );
}

function TurnNumber({ surface, turn }: { surface: Surface; turn: Turn }) {
  const edit = useEdit<number>("Turn surface", (scene, value) => {
    const draft = surfaceOf(scene, surface.id);
    if (!draft) return;
    const turns = { ...turnsOf(draft.rotation), [turn]: value };
    draft.rotation = [...fromTurns(turns.along, turns.across, turns.up)];
  });
  return (
    <NumberField
      param={TURNS[turn]}
      value={turnsOf(surface.rotation)[turn] + 0}
      standard={0}
      edit={edit}
      complaint={() => null}
    />
  );
}

function SizeNumber({ surface }: { surface: Surface }) {
  const edit = useEdit<number>("Size of surface", (scene, value) => {
    const draft = surfaceOf(scene, surface.id);
    if (draft) draft.scale = value;
  });
  return (
    <NumberField
      param={describeParam(SIZE)}
      value={surface.scale}
      standard={1}
      edit={edit}
      complaint={(value) => complaintOf(SIZE, value)}
    />
  );
}
