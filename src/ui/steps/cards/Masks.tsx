"use client";
/** Masks: pictures over the surface, and the colours of its mesh. */
import { Plus, X } from "lucide-react";
import { useRef } from "react";
import type { z } from "zod";
import { colourMaskSchema, imageMaskSchema, type ImageMask, type Limits } from "@/core/place";
import { describeChoice, describeParam, nextNumber } from "@/core/schema";
import { maskPicture } from "../../assets";
import { FilesInput, Fold, IconButton, RangeField, Segmented, Toggle, ValueField } from "../../kit";
import { useEdit } from "../../state";
import { ADD, complaintOf } from "../params";
import type { Limited } from "./limited";
import type { Draft } from "immer";

/** What pictures and colours have in common, wherever it is kept. */
type Mask = ImageMask | Limits["colours"];

interface MaskProps<T extends Mask> {
  of: Limited;
  mask: T;
  /** Finds it among the limits. */
  at: (limits: Draft<Limits>) => T | undefined;
  schema: z.ZodObject;
}

interface MasksProps {
  of: Limited;
  /** The part of the ground over which a picture is laid at first. */
  over: { least: readonly [number, number]; most: readonly [number, number] } | null;
  help: string;
  testId: string;
}

export function Masks({ of, over, help, testId }: MasksProps) {
  const { images, colours } = of.limits;
  const input = useRef<HTMLInputElement>(null);
  const count = images.length + (colours.on ? 1 : 0);
  const add = async ([file]: readonly File[]) => {
    const asset = file && (await maskPicture(file));
    if (!asset) return;
    const mask = imageMaskSchema.parse({ asset, name: file.name, ...(over && { least: over.least, most: over.most }) });
    of.change("Add a mask", (limits) => void limits.images.push({ ...mask, id: nextNumber(limits.images) }));
  };
  return (
    <Fold label="Masks" help={help} summary={count > 0 ? String(count) : ""}>
      {images.map((mask, i) => (
        <div key={mask.id} className="grid gap-1.5 rounded-lg bg-paper p-2">
          <p className="flex items-center text-[12.5px]">
            <span className="grow truncate" title={mask.name}>
              {mask.name || "A picture"}
            </span>
            <IconButton
              label={`Take ${mask.name || "the picture"} away`}
              className="size-6.5"
              onClick={() => of.change("Take a mask away", (limits) => void limits.images.splice(i, 1))}
            >
              <X size={13} />
            </IconButton>
          </p>
          <MaskChoice of={of} mask={mask} at={imageAt(i)} schema={imageMaskSchema} name="project" />
          {mask.project === "above" && <Rectangle of={of} mask={mask} index={i} />}
          <Shaped of={of} mask={mask} at={imageAt(i)} schema={imageMaskSchema} />
        </div>
      ))}
      <button type="button" className={`${ADD} w-fit`} onClick={() => input.current?.click()}>
        <Plus size={13} /> Add a picture…
      </button>
      <FilesInput input={input} accept=".png,.jpg,.jpeg,.webp" testId={testId} onFiles={(files) => void add(files)} />
      <MaskSwitch of={of} mask={colours} at={coloursOf} schema={colourMaskSchema} name="on" />
      {colours.on && (
        <>
          <MaskChoice of={of} mask={colours} at={coloursOf} schema={colourMaskSchema} name="channel" />
          <Shaped of={of} mask={colours} at={coloursOf} schema={colourMaskSchema} />
        </>
      )}
    </Fold>
  );
}

const imageAt =
  (index: number) =>
  ({ images }: Draft<Limits>): ImageMask | undefined =>
    images[index] as ImageMask | undefined;
const coloursOf = ({ colours }: Draft<Limits>) => colours as Limits["colours"];

const Shaped = <T extends Mask>(props: MaskProps<T>) => (
  <>
    <Levels {...props} />
    <MaskSwitch {...props} name="invert" />
  </>
);

/** Writes one value of a mask, as one change. */
const write = <T extends Mask>({ of, at }: MaskProps<T>, label: string, name: string, value: unknown): void =>
  of.change(label, (limits) => {
    const mask = at(limits);
    if (mask) (mask as unknown as Record<string, unknown>)[name] = value;
  });

function MaskSwitch<T extends Mask>(props: MaskProps<T> & { name: string }) {
  const { mask, schema, name } = props;
  const { label, help } = (schema.shape[name] as z.ZodType).meta() as { label: string; help: string };
  return (
    <Toggle
      label={label}
      help={help}
      on={(mask as unknown as Record<string, boolean>)[name]}
      onChange={(on) => write(props, label, name, on)}
    />
  );
}

function MaskChoice<T extends Mask>(props: MaskProps<T> & { name: string }) {
  const { mask, schema, name } = props;
  const { label, help, choices } = describeChoice(schema.shape[name] as z.ZodType);
  return (
    <Segmented
      label={label}
      help={help}
      value={(mask as unknown as Record<string, string>)[name]}
      choices={choices}
      onChange={(value) => write(props, label, name, value)}
    />
  );
}

function Levels<T extends Mask>({ of, mask, at, schema }: MaskProps<T>) {
  const levels = schema.shape.levels as z.ZodType;
  const param = describeParam(levels);
  const edit = useEdit<readonly [number, number]>(param.label, (scene, value) => {
    const draft = of.find(scene);
    const found = draft && at(draft);
    if (found) found.levels = [...value];
  });
  return (
    <RangeField param={param} value={mask.levels} edit={edit} complaint={(value) => complaintOf(levels, [...value])} />
  );
}

interface RectangleProps {
  of: Limited;
  mask: ImageMask;
  index: number;
}

/** The part of the ground that a picture lies over. */
const Rectangle = (props: RectangleProps) =>
  (
    [
      ["North-west", "least"],
      ["South-east", "most"],
    ] as const
  ).map(([label, corner]) => (
    <div key={corner} className="grid grid-cols-[84px_1fr_1fr] items-center gap-1.5">
      <span className="text-[12.5px] text-ink-6">{label}</span>
      <CornerNumber {...props} label={label} corner={corner} axis={0} />
      <CornerNumber {...props} label={label} corner={corner} axis={1} />
    </div>
  ));

interface CornerProps extends RectangleProps {
  label: string;
  corner: "least" | "most";
  axis: 0 | 1;
}

function CornerNumber({ of, mask, index, label, corner, axis }: CornerProps) {
  const edit = useEdit<number>("Place of a mask", (scene, value) => {
    const draft = of.find(scene)?.images[index];
    if (draft) draft[corner][axis] = value;
  });
  const other = mask[corner === "least" ? "most" : "least"][axis];
  return (
    <ValueField
      label={`${label} ${"xz"[axis]}`}
      unit="m"
      value={mask[corner][axis]}
      edit={edit}
      complaint={(value) =>
        (corner === "least" ? value < other : value > other) ? null : "the north-west corner comes before the other one"
      }
    />
  );
}
