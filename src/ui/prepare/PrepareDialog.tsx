"use client";
/** Setting a prop up once, for all that uses it: pivot, front and up, real size, footprint; and what its file brought. */
import { describeChoice, describeParam } from "@/core/schema";
import { useRef, useState, type ComponentProps, type ReactNode } from "react";
import { sizeOf } from "@/core/mesh";
import { preparationSchema, preparedBounds, turnedByQuarter, type Preparation, type Prop } from "@/core/scene";
import { useScene } from "@/store";
import { MESH_FILES, replaceFile, broughtFacts, mendedSentences } from "../assets";
import { Button, FilesInput, Modal, NumberField, Segmented, Toggle, ValueField } from "../kit";
import { addSnap, editProp, editSnap, useSession, useEdit } from "../state";
import { complaintOf } from "../steps";
import { PrepareView } from "./PrepareView";
import { SnapPoints } from "./SnapPoints";
import type { Draft } from "immer";

const shape = preparationSchema.shape;

export function PrepareDialog() {
  const focus = useSession((session) => session.focus);
  const prop = useScene((scene) => scene.props.find(({ id }) => focus.kind === "prop" && id === focus.id));
  const close = () => useSession.setState({ dialog: null });
  const [snap, setSnap] = useState<number | null>(null);
  const [adding, setAdding] = useState(false);
  if (!prop) return null;
  const picked: ComponentProps<typeof PrepareView>["onPick"] = ({ position, direction, what }) => {
    if (adding) {
      const id = addSnap(prop.id, { name: what === "centre of a hole" ? "hole 1" : "snap 1", position, direction });
      setSnap(id);
      setAdding(false);
    } else if (snap !== null)
      editSnap(prop.id, snap, "Move snap point", (draft) => {
        draft.position = [...position];
        draft.direction = [...direction];
      });
    else prepare(prop, "Pick pivot", (prepared) => void (prepared.point = [...position]));
  };
  const picks = adding || snap !== null || prop.prepared.pivot === "point";
  return (
    <Modal title={`Set up ${prop.name}`} onClose={close} width="w-[900px]">
      <div className="grid grid-cols-[1fr_330px] gap-5">
        <div className="grid gap-2">
          <div className="h-[430px] overflow-hidden rounded-[10px] bg-linear-to-b from-mat-0 to-mat-1">
            <PrepareView prop={prop} chosen={snap} onPick={picks ? picked : undefined} />
          </div>
          <p className="text-xs text-ink-6">
            The arrow with the F points where the prop&apos;s front looks; the cross is its pivot; the frame on the
            ground its footprint.
          </p>
        </div>
        <Settings prop={prop}>
          <SnapPoints prop={prop} chosen={snap} onChoose={setSnap} adding={adding} onAdding={setAdding} />
        </Settings>
      </div>
      <div className="mt-4 flex justify-end">
        <Button look="main" onClick={close}>
          Done
        </Button>
      </div>
    </Modal>
  );
}

const prepare = (prop: Prop, label: string, edit: (prepared: Draft<Preparation>) => void): void =>
  editProp(prop.id, label, (draft) => edit(draft.prepared));

interface OfProp {
  prop: Prop;
}

function Settings({ prop, children }: OfProp & { children: ReactNode }) {
  const pivot = describeChoice(shape.pivot);
  const { prepared } = prop;
  const turn = (about: Parameters<typeof turnedByQuarter>[1]) =>
    prepare(prop, "Turn prop", (draft) => void Object.assign(draft, turnedByQuarter(prepared, about)));
  return (
    <div className="grid max-h-[490px] content-start gap-3 overflow-y-auto pr-1">
      <section className="grid gap-1.5">
        <h3 className="text-xs font-semibold">{pivot.label}</h3>
        <Segmented
          label={pivot.label}
          help={pivot.help}
          value={prepared.pivot}
          choices={pivot.choices as Record<Preparation["pivot"], string>}
          onChange={(value) => prepare(prop, "Pivot", (draft) => void (draft.pivot = value))}
        />
        {prepared.pivot === "point" && (
          <>
            <p className="text-xs text-ink-6">
              Click on the prop to pick its pivot, or type where it is in the file; arrow keys nudge it.
            </p>
            <div className="grid grid-cols-3 gap-1.5">
              {([0, 1, 2] as const).map((axis) => (
                <PivotNumber key={axis} prop={prop} axis={axis} />
              ))}
            </div>
          </>
        )}
      </section>
      <section className="grid gap-1.5">
        <h3 className="text-xs font-semibold">Front and up</h3>
        <p className="text-xs text-ink-6">Turn it in quarters until it stands as it should, its front at the arrow.</p>
        <div className="flex gap-1.5">
          <Button className="h-7! text-xs" onClick={() => turn("up")}>
            Turn about
          </Button>
          <Button className="h-7! text-xs" onClick={() => turn("left")}>
            Tip forward
          </Button>
          <Button className="h-7! text-xs" onClick={() => turn("front")}>
            Tip aside
          </Button>
        </div>
      </section>
      <Size prop={prop} />
      <Footprint prop={prop} />
      {children}
      <FileFacts prop={prop} />
    </div>
  );
}

/** One coordinate of a picked pivot, in the file's own directions. */
function PivotNumber({ prop, axis }: OfProp & { axis: 0 | 1 | 2 }) {
  const edit = useEdit<number>("Pick pivot", (scene, value) => {
    const held = scene.props.find(({ id }) => id === prop.id)?.prepared;
    if (held) held.point = held.point.map((old, k) => (k === axis ? value : old)) as [number, number, number];
  });
  return (
    <label className="grid grid-cols-[14px_1fr] items-center text-xs text-ink-6">
      {"xyz"[axis]}
      <ValueField
        label={`Pivot ${"xyz"[axis]}`}
        unit="m"
        value={prop.prepared.point[axis]}
        edit={edit}
        complaint={(value) => complaintOf(shape.point.unwrap().unwrap().def.items[axis], value)}
      />
    </label>
  );
}

function Size({ prop }: OfProp) {
  const param = describeParam(shape.size);
  const edit = useEdit<number>("Size of prop", (scene, size) => {
    const held = scene.props.find(({ id }) => id === prop.id);
    if (held) held.prepared.size = size;
  });
  const size = sizeOf(preparedBounds(prop));
  return (
    <section className="grid gap-1.5">
      <h3 className="text-xs font-semibold">Real size</h3>
      <NumberField
        param={param}
        value={prop.prepared.size}
        standard={1}
        edit={edit}
        complaint={(value) => complaintOf(shape.size, value)}
      />
      <div className="grid grid-cols-3 gap-2">
        {(["Breadth", "Height", "Depth"] as const).map((name, axis) => (
          <label key={name} className="grid gap-0.5 text-xs text-ink-6">
            {name}
            <ValueField
              label={name}
              unit="m"
              value={Math.round(size[axis] * 1e5) / 1e5}
              edit={{
                ...edit,
                set: (metres, mark) => edit.set((prop.prepared.size * metres) / size[axis], mark),
                drag: () => undefined,
              }}
              complaint={(metres) =>
                metres > 0 && size[axis] > 0 ? null : size[axis] > 0 ? "a size lies above zero" : "it is flat this way"
              }
            />
          </label>
        ))}
      </div>
    </section>
  );
}

function Footprint({ prop }: OfProp) {
  const { footprint } = prop.prepared;
  const [breadth, , depth] = sizeOf(preparedBounds(prop));
  const edit = useEdit<readonly [number, number]>("Footprint", (scene, value) => {
    const held = scene.props.find(({ id }) => id === prop.id);
    if (held) held.prepared.footprint = [...value];
  });
  const measured: [number, number] = [Math.max(0.001, breadth), Math.max(0.001, depth)];
  return (
    <section className="grid gap-1.5">
      <Toggle
        label="A footprint of its own"
        help="Breadth and depth that count where props are spaced and kept clear, if they differ from the prop's own."
        on={footprint !== null}
        onChange={(on) => prepare(prop, "Footprint", (draft) => void (draft.footprint = on ? measured : null))}
      />
      {footprint && (
        <div className="grid grid-cols-2 gap-2">
          {(["Footprint breadth", "Footprint depth"] as const).map((label, k) => (
            <label key={label} className="grid gap-0.5 text-xs text-ink-6">
              {label}
              <ValueField
                label={label}
                unit="m"
                value={footprint[k]}
                edit={{
                  ...edit,
                  set: (value, mark) => edit.set(k === 0 ? [value, footprint[1]] : [footprint[0], value], mark),
                  drag: () => undefined,
                }}
                complaint={(value) => complaintOf(shape.footprint, [value, value])}
              />
            </label>
          ))}
        </div>
      )}
    </section>
  );
}

function FileFacts({ prop }: OfProp) {
  const input = useRef<HTMLInputElement>(null);
  const mended = mendedSentences(prop.brought);
  return (
    <section className="grid gap-1.5">
      <h3 className="flex items-center text-xs font-semibold">
        <span className="grow">What the file brought</span>
        <Button className="h-7! text-xs font-normal" onClick={() => input.current?.click()}>
          Replace the file…
        </Button>
      </h3>
      <p className="truncate font-mono text-xs text-ink-6" title={prop.file}>
        {prop.file || "–"}
      </p>
      <p className="text-xs text-ink-6">
        {prop.triangles.toLocaleString("en")} triangles · {broughtFacts(prop.brought)}
      </p>
      {mended.length > 0 && (
        <ul className="grid max-h-24 gap-1 overflow-y-auto rounded-lg bg-ochre-soft px-2.5 py-2 text-xs text-ochre-dark">
          {mended.map((sentence) => (
            <li key={sentence}>{sentence}</li>
          ))}
        </ul>
      )}
      <FilesInput
        input={input}
        accept={MESH_FILES}
        testId="replace-file"
        onFiles={(files) => void replaceFile(prop.id, files)}
      />
    </section>
  );
}
