"use client";
/** The snap points of a prop: set by clicks on it, typed, named, mirrored, copied to other props. */
import { Copy, FlipHorizontal2, Plus, Trash2 } from "lucide-react";
import { toast } from "sonner";
import { snapPointsOf, type OwnSnapPoint, type Prop } from "@/core/scene";
import { useScene } from "@/store";
import { Button, Choose, IconButton, NameField, Toggle, ValueField } from "../kit";
import { addSnap, copySnaps, deleteSnap, editSnap, mirrorSnap, renameSnap, snapComplaint, useEdit } from "../state";

interface SnapPointsProps {
  prop: Prop;
  /** The number of the one that is set by clicks; null for none. */
  chosen: number | null;
  onChoose: (id: number | null) => void;
  /** Whether a click sets a new one. */
  adding: boolean;
  onAdding: (on: boolean) => void;
}

export function SnapPoints({ prop, chosen, onChoose, adding, onAdding }: SnapPointsProps) {
  const { snaps } = prop.prepared;
  const others = useScene((scene) => scene.props).filter(({ id }) => id !== prop.id);
  const byThemselves = snapPointsOf(prop).flatMap(({ name, own }) => (own ? [] : name));
  const offered = prop.brought.empties.filter(({ name }) => !snaps.some((snap) => snap.name === name));
  return (
    <section className="grid gap-1.5" aria-label="Snap points">
      <h3 className="flex items-center gap-1 text-xs font-semibold">
        <span className="grow">Snap points</span>
        {snaps.length > 0 && others.length > 0 && (
          <Choose
            label="Copy its snap points to"
            choices={[
              { id: "", label: "All other props" },
              ...others.map(({ id, name }) => ({ id, label: name, group: "To one of them" })),
            ]}
            onChoose={(id) => {
              copySnaps(prop, id === "" ? others.map((one) => one.id) : [id]);
              toast(id === "" ? "Copied to all props that had none of these names." : "Copied.");
            }}
            className="grid size-6.5 place-items-center rounded-[7px] text-ink-6 hover:bg-linen-1"
          >
            <Copy size={13} />
          </Choose>
        )}
        <Button
          className="h-7! text-xs font-normal"
          aria-pressed={adding}
          onClick={() => {
            onAdding(!adding);
            onChoose(null);
          }}
        >
          <Plus size={13} /> {adding ? "Click on the prop" : "Add"}
        </Button>
      </h3>
      <p className="text-xs text-ink-6">
        {adding
          ? "It is caught by corners, middles of edges, centres of faces and of holes."
          : snaps.length === 0
            ? "Places that other things catch on: a hook, a hole, an end."
            : "Choose one to move it by a click, or type where it is in the file."}
      </p>
      <ul className="grid gap-1">
        {snaps.map((snap) => (
          <Snap
            key={snap.id}
            prop={prop}
            snap={snap}
            chosen={chosen === snap.id}
            onChoose={() => {
              onChoose(chosen === snap.id ? null : snap.id);
              onAdding(false);
            }}
          />
        ))}
      </ul>
      {offered.length > 0 && (
        <Choose
          label="Take a snap point from the file"
          choices={offered.map(({ name }, i) => ({ id: String(i), label: name }))}
          onChoose={(i) => addSnap(prop.id, offered[Number(i)])}
          className="h-7 w-fit rounded-lg border border-dashed border-linen-4 px-2 text-xs hover:bg-paper"
        >
          From the file: {offered.length === 1 ? offered[0].name : `${offered.length} places`}
        </Choose>
      )}
      <p className="text-xs text-ink-5">By themselves: {byThemselves.join(", ")}.</p>
    </section>
  );
}

interface OfSnap {
  prop: Prop;
  snap: OwnSnapPoint;
}

function Snap({ prop, snap, chosen, onChoose }: OfSnap & { chosen: boolean; onChoose: () => void }) {
  return (
    <li className={`grid gap-1 rounded-lg px-1.5 py-1 ${chosen ? "bg-ochre-soft" : "bg-paper"}`}>
      <div className="flex items-center gap-1">
        <button
          type="button"
          aria-pressed={chosen}
          aria-label={`Set ${snap.name} by a click`}
          title="Set it by a click on the prop"
          onClick={onChoose}
          className="grid size-6 shrink-0 place-items-center"
        >
          <i className={`size-3 rounded-full border-[3px] border-ochre ${chosen ? "bg-ink-9" : "bg-paper"}`} />
        </button>
        <NameField
          key={snap.name}
          label={`Name of the snap point ${snap.name}`}
          value={snap.name}
          onChange={(name) => {
            if (!renameSnap(prop.id, snap.id, name)) toast.error(`“${name}” is another snap point's name.`);
          }}
          className="min-w-0 grow text-xs"
        />
        <IconButton
          label={`Mirror ${snap.name} to the other side`}
          className="size-6"
          onClick={() => mirrorSnap(prop, snap.id)}
        >
          <FlipHorizontal2 size={13} />
        </IconButton>
        <IconButton label={`Delete ${snap.name}`} className="size-6" onClick={() => deleteSnap(prop.id, snap.id)}>
          <Trash2 size={12} />
        </IconButton>
      </div>
      {chosen && (
        <>
          <Triple prop={prop} snap={snap} name="position" label="At" unit="m" />
          <Triple prop={prop} snap={snap} name="direction" label="Points" unit="number" />
          <Toggle
            label="Turns freely"
            help="What hangs there turns freely about its direction; otherwise in quarter turns."
            on={snap.free}
            onChange={(on) => editSnap(prop.id, snap.id, "Turns freely", (draft) => void (draft.free = on))}
          />
        </>
      )}
    </li>
  );
}

/** Three numbers in the file's own directions. */
function Triple({
  prop,
  snap,
  name,
  label,
  unit,
}: OfSnap & { name: "position" | "direction"; label: string; unit: "m" | "number" }) {
  return (
    <div className="grid grid-cols-[42px_1fr_1fr_1fr] items-center gap-1 text-xs text-ink-6">
      {label}
      {([0, 1, 2] as const).map((axis) => (
        <Coordinate key={axis} {...{ prop, snap, name, unit, axis }} />
      ))}
    </div>
  );
}

function Coordinate({
  prop,
  snap,
  name,
  unit,
  axis,
}: OfSnap & { name: "position" | "direction"; unit: "m" | "number"; axis: 0 | 1 | 2 }) {
  const changed = (value: number): [number, number, number] =>
    snap[name].map((old, k) => (k === axis ? value : old)) as [number, number, number];
  const edit = useEdit<number>("Move snap point", (scene, value) => {
    const held = scene.props.find(({ id }) => id === prop.id)?.prepared.snaps.find(({ id }) => id === snap.id);
    if (held) held[name] = changed(value);
  });
  return (
    <ValueField
      bare
      label={`${snap.name} ${name === "position" ? "at" : "points"} ${"xyz"[axis]}`}
      unit={unit}
      value={snap[name][axis]}
      edit={edit}
      complaint={(value) => snapComplaint({ [name]: changed(value) })}
    />
  );
}
