"use client";
/** How much a mover does where: within limits along u and v, by height, slope and facing, by distance, and by pictures. */
import { X } from "lucide-react";
import { Fragment, useRef } from "react";
import { z } from "zod";
import type { Mover } from "@/core/movers";
import { GAP_LIMITS, imageMaskSchema, type Limits } from "@/core/place";
import type { Surface } from "@/core/scene";
import { nextNumber } from "@/core/schema";
import { useScene } from "@/store";
import { boxOf, maskPicture } from "../assets";
import { Button, Choose, FilesInput, Fold, IconButton, ValueField } from "../kit";
import { editMover, surfaceOf, useEdit } from "../state";
import { holderOf, PathChoice, PathNumber, PathRange, PathSwitch } from "./at-path";

export interface MoverProps<M extends Mover = Mover> {
  surface: Surface;
  mover: M;
}

const LIMITS = z.object(GAP_LIMITS);
const SHOWN: readonly {
  on: keyof Limits;
  ranges: readonly (keyof Limits)[];
  numbers: readonly (keyof Limits)[];
  by?: keyof Limits;
}[] = [
  { on: "uOn", by: "uBy", ranges: ["u"], numbers: ["uSoft"] },
  { on: "vOn", by: "vBy", ranges: ["v"], numbers: ["vSoft"] },
  { on: "heightOn", ranges: ["height"], numbers: ["heightSoft"] },
  { on: "slopeOn", ranges: ["slope"], numbers: ["slopeSoft"] },
  { on: "facingOn", ranges: [], numbers: ["facing", "facingWithin"] },
];

/** How much the mover does where: everywhere alike, or within limits. */
export function HowMuch({ surface, mover }: MoverProps) {
  const { limits } = mover;
  const schema = (name: keyof Limits) => GAP_LIMITS[name] as z.ZodType;
  const at = (name: keyof Limits) => ({
    list: "surfaces" as const,
    thing: surface,
    path: ["movers", mover.id, "limits", name],
    schema: schema(name),
  });
  const count = limits
    ? SHOWN.filter(({ on }) => limits[on]).length + limits.distances.length + limits.images.length
    : 0;
  return (
    <Fold
      label="How much where"
      help="Everywhere alike, or only within limits, which fade softly: so that a hem flutters and a seam stays."
      summary={count === 0 ? "everywhere" : String(count)}
    >
      <div className="grid gap-1.5">
        {!limits ? (
          <Button
            className="w-fit"
            onClick={() =>
              editMover(surface.id, mover.id, "How much where", (draft) => {
                draft.limits = { ...LIMITS.parse({}), uOn: true, uSoft: 0.2 } as typeof draft.limits;
              })
            }
          >
            Within limits
          </Button>
        ) : (
          <>
            {SHOWN.map(({ on, by, ranges, numbers }) => (
              <Fragment key={on}>
                <PathSwitch {...at(on)} />
                {limits[on] && (
                  <>
                    {by && <PathChoice {...at(by)} />}
                    {ranges.map((name) => (
                      <PathRange key={name} {...at(name)} />
                    ))}
                    {numbers.map((name) => (
                      <PathNumber key={name} {...at(name)} />
                    ))}
                  </>
                )}
              </Fragment>
            ))}
            <Distances surface={surface} mover={mover} limits={limits} />
            <Pictures surface={surface} mover={mover} limits={limits} />
            <Button
              className="w-fit"
              onClick={() => editMover(surface.id, mover.id, "Everywhere alike", (draft) => void (draft.limits = null))}
            >
              Everywhere alike
            </Button>
          </>
        )}
      </div>
    </Fold>
  );
}

type LimitsProps = MoverProps & { limits: NonNullable<MoverProps["mover"]["limits"]> };

/** Lines and surfaces by whose distance it does more or less. */
function Distances({ surface, mover, limits }: LimitsProps) {
  const lines = useScene((scene) => scene.lines);
  const surfaces = useScene((scene) => scene.surfaces);
  const things = [...lines, ...surfaces.filter(({ id }) => id !== surface.id)];
  const free = things.filter(({ id }) => !limits.distances.some(({ to }) => to === id));
  const edit = (label: string, change: (distances: LimitsProps["limits"]["distances"]) => void) =>
    editMover(surface.id, mover.id, label, (draft) => {
      if (draft.limits) change(draft.limits.distances as LimitsProps["limits"]["distances"]);
    });
  return (
    <div role="group" aria-label="By distance" className="grid gap-1 text-xs text-ink-6">
      {limits.distances.map(({ id, to }) => {
        const name = things.find((one) => one.id === to)?.name ?? "something that is gone";
        return (
          <div key={id} className="grid grid-cols-[1fr_66px_66px_24px] items-center gap-1">
            <span className="truncate" title={`Nothing at the first distance from ${name}, all at the second.`}>
              {name}
            </span>
            {(["none", "full"] as const).map((end) => (
              <DistanceEnd key={end} {...{ surface, mover, limits, end, name }} id={id!} />
            ))}
            <IconButton
              label={`Mind the distance to ${name} no more`}
              className="size-6"
              onClick={() =>
                edit("Mind a distance no more", (distances) => {
                  distances.splice(
                    distances.findIndex((one) => one.id === id),
                    1,
                  );
                })
              }
            >
              <X size={12} />
            </IconButton>
          </div>
        );
      })}
      <Choose
        label="More with the distance from"
        choices={free.map(({ id, name }) => ({ id, label: name }))}
        empty="There is nothing else in the scene to be far from."
        onChoose={(to) =>
          edit("Mind a distance", (distances) => {
            distances.push({ id: nextNumber(distances), to, within: false, none: 0, full: 1 });
          })
        }
        className="w-fit rounded-md border border-dashed border-linen-4 bg-linen-0 px-2 py-0.5 hover:bg-paper"
      >
        By the distance from…
      </Choose>
    </div>
  );
}

function DistanceEnd({
  surface,
  mover,
  limits,
  id,
  end,
  name,
}: LimitsProps & { id: number; end: "none" | "full"; name: string }) {
  const edit = useEdit<number>("Distance", (scene, value) => {
    const holder = holderOf(surfaceOf(scene, surface.id), ["movers", mover.id, "limits", "distances", id, end]);
    if (holder) holder[end] = value;
  });
  return (
    <ValueField
      bare
      label={`${end === "none" ? "Nothing at" : "All from"}, from ${name}`}
      unit="m"
      value={limits.distances.find((one) => one.id === id)?.[end] ?? 0}
      edit={edit}
      complaint={(value) => (value >= 0 && Number.isFinite(value) ? null : "a distance is 0 or more")}
    />
  );
}

/** Pictures over the surface: nothing where they are dark, all where they are bright. */
function Pictures({ surface, mover, limits }: LimitsProps) {
  const input = useRef<HTMLInputElement>(null);
  const { shape } = imageMaskSchema;
  const at = (id: number, name: string) => ({
    list: "surfaces" as const,
    thing: surface,
    path: ["movers", mover.id, "limits", "images", id, name],
  });
  const add = async ([file]: readonly File[]) => {
    const asset = file && (await maskPicture(file));
    if (!asset) return;
    const [wide, , deep] = boxOf(surface);
    const [x, , z] = surface.position;
    const over = { least: [x - wide / 2, z - deep / 2], most: [x + wide / 2, z + deep / 2] };
    const mask = imageMaskSchema.parse({ asset, name: file.name, ...(wide > 0 && deep > 0 && over) });
    editMover(surface.id, mover.id, "Add a picture", ({ limits: own }) => {
      if (own)
        own.images.push({ ...mask, id: nextNumber(own.images as { id: number }[]) } as (typeof own.images)[number]);
    });
  };
  return (
    <div role="group" aria-label="By pictures" className="grid gap-1.5 text-xs text-ink-6">
      {limits.images.map(({ id, name }) => (
        <div key={id} className="grid gap-1.5 rounded-lg bg-linen-1 p-2">
          <p className="flex items-center">
            <span className="grow truncate" title={name}>
              {name || "A picture"}
            </span>
            <IconButton
              label={`Take ${name || "the picture"} away`}
              className="size-6"
              onClick={() =>
                editMover(surface.id, mover.id, "Take a picture away", ({ limits: own }) => {
                  if (own) own.images = own.images.filter((one) => one.id !== id);
                })
              }
            >
              <X size={12} />
            </IconButton>
          </p>
          <PathChoice {...at(id!, "project")} schema={shape.project} />
          <PathRange {...at(id!, "levels")} schema={shape.levels} />
          <PathSwitch {...at(id!, "invert")} schema={shape.invert} />
        </div>
      ))}
      <button
        type="button"
        className="w-fit rounded-md border border-dashed border-linen-4 bg-linen-0 px-2 py-0.5 hover:bg-paper"
        onClick={() => input.current?.click()}
      >
        By a picture…
      </button>
      <FilesInput
        input={input}
        accept=".png,.jpg,.jpeg,.webp"
        testId="mover-picture"
        onFiles={(files) => void add(files)}
      />
    </div>
  );
}
