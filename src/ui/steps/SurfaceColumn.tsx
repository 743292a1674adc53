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
import { useRef, useState } from "react";
import { isSolid, MADE_KINDS } from "@/core/made";
import { laidSchema, type LaidOnEdges } from "@/core/line";
import { fromTurns, turnsOf } from "@/core/math";
import { fieldIdsOf } from "@/core/place";
import { type Surface } from "@/core/scene";
import { useScene, useSceneStore } from "@/store";
import { MESH_FILES, partSurface, replaceSurface, standInFor, useSurfaceModel } from "../assets";
import { Button, Choose, type Choice, FilesInput, NumberField, Toggle, ValueField } from "../kit";
import { usePropChoices } from "../basket";
import { deleteSurface, duplicateSurface, editSurface, holdSurface, surfaceOf, useEdit, useSession } from "../state";
import { startDrawingOn } from "../view";
import { ColumnHead } from "./ColumnHead";
import { DressingLinks } from "./DressingLinks";
import { Tide } from "../time";
import { complaintOf } from "./params";
import { MadeFields } from "./MadeFields";
import { HeldBy } from "./HeldBy";
import { LayingFields } from "./LayingFields";
import { SolidSection } from "./SolidSection";
import { MoversSection } from "./MoversSection";
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
  // What it is made of is what one comes back to it for.
  const solid = surface.made && isSolid(surface.made) ? surface.made : null;
  const moving = useSession((session) => session.moving === surface.id);
  const triangles = useSurfaceModel(surface)?.triangles ?? surface.triangles;
  const within = useSceneStore(({ opened }) => opened.length > 0);
  const toggle =
    (name: "part" | "ground" | "solid" | "outline" | "hidden" | "locked", label: string) => (on: boolean) =>
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
      <div className="flex flex-wrap gap-1.5">
        <SpreadHere label="Dress this surface" main onChoose={(prop) => spreadOver(surface.id, prop)} />
        <Button
          aria-pressed={moving}
          disabled={surface.locked}
          className={moving ? "border-sea! bg-sea-soft! text-sea" : ""}
          title="The hand moves it wherever it is taken, and so do the arrow keys. Its round handle moves it at any time."
          onClick={() => useSession.setState({ moving: moving ? null : surface.id, tool: "select" })}
        >
          Move
        </Button>
        <More surface={surface} />
      </div>
      {solid && <MadeFields surface={surface} made={solid} />}
      <SolidSection surface={surface} />
      <MoversSection surface={surface} />
      <fieldset disabled={surface.locked} className="grid gap-1.5 border-t border-linen-2 pt-2 disabled:opacity-50">
        <div className="group/tide grid grid-cols-[56px_1fr_1fr_1fr] items-center gap-1.5">
          <span className="flex items-center gap-1 text-[12.5px] text-ink-6">
            Place
            <Tide at={{ list: "surfaces", id: surface.id, path: "position" }} label="Place" />
          </span>
          {([0, 1, 2] as const).map((axis) => (
            <PlaceNumber key={axis} surface={surface} axis={axis} />
          ))}
        </div>
        {(["up", "across", "along"] as const).map((turn) => (
          <TurnNumber key={turn} surface={surface} turn={turn} />
        ))}
        <SizeNumber surface={surface} />
        <HeldBy tie={surface.held} but={surface.id} onHold={(holder) => holdSurface(surface.id, holder)} />
      </fieldset>
      {surface.made && !solid && <MadeFields surface={surface} made={surface.made} />}
      <LayingFields surface={surface} />
      <div className="grid gap-1.5 border-t border-linen-2 pt-2">
        {within && (
          <Toggle
            label="Part of it"
            help="It is seen wherever the assembly is used; else it only carries what stands on it."
            on={surface.part}
            onChange={toggle("part", "Part of the assembly")}
          />
        )}
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
      <DressingLinks lead="Dressed by" dressings={over} />
      <DressingLinks lead="Under" dressings={dressings} />
    </div>
  );
}

/** What else can be done with a surface, in groups. */
function More({ surface }: { surface: Surface }) {
  const file = useRef<HTMLInputElement>(null);
  const standIn = useRef<HTMLInputElement>(null);
  const props = usePropChoices();
  const [filling, setFilling] = useState(false);
  const { id } = surface;
  const acts: Readonly<Record<string, () => void>> = {
    draw: () => startDrawingOn(id),
    fill: () => setFilling(true),
    copy: () => duplicateSurface(id),
    replace: () => file.current?.click(),
    part: () => void partSurface(surface),
    standIn: () => standIn.current?.click(),
    noStandIn: () =>
      editSurface(id, "Stand-in of surface", (draft) => {
        draft.standIn = null;
        draft.standInFile = "";
      }),
  };
  const choices: Choice[] = [
    { id: "fill", label: "Fill its inside…" },
    { id: "copy", label: "Duplicate" },
    { id: "draw", label: "Draw a line on it", group: "Lines" },
    ...Object.entries(EDGES).map(([edge, label]) => ({
      id: `edge ${edge}`,
      label: `Line from its mesh: ${lower(label)}`,
    })),
  ];
  if (!surface.made) {
    choices.push(
      { id: "replace", label: "Replace the file…", group: "Its file" },
      { id: "part", label: "Part into its meshes" },
      surface.standIn === null
        ? { id: "standIn", label: "Stand-in for reckoning…" }
        : { id: "noStandIn", label: "Take the stand-in away" },
    );
  }
  if (filling) {
    return (
      <Choose
        label="Fill its inside"
        choices={props}
        empty="The basket is empty. Drop a mesh's file anywhere on the screen first."
        onChoose={(prop) => {
          setFilling(false);
          fillInside(id, prop);
        }}
        className="h-8 rounded-lg border border-sea bg-sea-soft px-2.5 text-sea"
      >
        Fill it with…
      </Choose>
    );
  }
  return (
    <>
      <Choose
        label="More for this surface"
        choices={choices}
        onChoose={(act) =>
          act.startsWith("edge ") ? startDrawingOn(id, act.slice(5) as LaidOnEdges["follow"]) : acts[act]()
        }
        className="h-8 rounded-lg border border-linen-3 bg-linen-0 px-2.5 hover:bg-linen-1"
      >
        More…
      </Choose>
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

const lower = (text: string): string => text[0].toLowerCase() + text.slice(1);

const trianglesIn = (count: number): string => (count > 0 ? `${count.toLocaleString("en")} triangles` : "");

function PlaceNumber({ surface, axis }: { surface: Surface; axis: 0 | 1 | 2 }) {
  const edit = useEdit<number>("Move surface", (scene, value) => {
    const draft = surfaceOf(scene, surface.id);
    if (draft) draft.position = draft.position.map((old, k) => (k === axis ? value : old)) as [number, number, number];
  });
  return (
    <ValueField
      bare
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
      mark={<Tide at={{ list: "surfaces", id: surface.id, path: "rotation" }} label={TURNS[turn].label} />}
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
      mark={<Tide at={{ list: "surfaces", id: surface.id, path: "scale" }} label="Size" />}
    />
  );
}
