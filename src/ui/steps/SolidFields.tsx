"use client";
/** What tubes, shells, solids and smoothed copies are made of. */
import { ArrowDown, ArrowUp, X } from "lucide-react";
import { describeChoice } from "@/core/schema";
import { howParam, tubeSchema, type Shell, type Smoothed, type Solid, type Tube } from "@/core/made";
import type { Surface } from "@/core/scene";
import { useScene } from "@/store";
import { Choose, IconButton } from "../kit";
import { remakeOf, selectDressing, selectSurface, surfaceOf, useEdit } from "../state";
import { CurveField } from "./CurveField";
import type { Point } from "./curve-points";
import { ADD } from "./params";

interface FieldProps<T> {
  surface: Surface;
  made: T;
}

/** How thick a tube is along its lines. */
export function TubeCourse({ surface, made }: FieldProps<Tube>) {
  const schema = tubeSchema.shape.course;
  const { label, help } = schema.meta() as { label: string; help: string };
  const edit = useEdit<readonly Point[]>(label, (scene, next) => {
    const draft = surfaceOf(scene, surface.id)?.made;
    if (draft?.kind === "tube") draft.course = next.map(([share, times]) => [share, times]);
  });
  return (
    <>
      <span className="text-[12.5px] text-ink-6" title={help}>
        {label}
      </span>
      <CurveField noun="radius" schema={schema} points={made.course} edit={edit} />
    </>
  );
}

/** The surface that gets a thickness, or is smoothed. */
export function MadeOf({ surface, made }: FieldProps<Shell | Smoothed>) {
  const surfaces = useScene((scene) => scene.surfaces).filter(({ id }) => id !== surface.id);
  const name = surfaces.find(({ id }) => id === made.of)?.name ?? "none yet";
  return (
    <div className="grid grid-cols-[84px_1fr] items-center gap-2">
      <span className="text-[12.5px] text-ink-6">Surface</span>
      <Choose
        label={`Surface: ${name}`}
        choices={surfaces.map(({ id, name: label }) => ({ id, label }))}
        empty="There is no other surface in the scene."
        onChoose={(id) =>
          remakeOf(surface.id, "Surface it is made of", (draft) => void ((draft as Shell | Smoothed).of = id))
        }
        className="h-7 truncate rounded-lg border border-linen-3 bg-paper px-2 text-left text-xs"
      >
        {name}
      </Choose>
    </div>
  );
}

type How = Solid["parts"][number]["how"];
const { choices: HOW } = describeChoice(howParam);

/** The parts of a solid, one after the other. */
export function PartFields({ surface, made }: FieldProps<Solid>) {
  const surfaces = useScene((scene) => scene.surfaces).filter(({ id }) => id !== surface.id);
  const dressings = useScene((scene) => scene.dressings);
  const things = [...surfaces, ...dressings];
  const edit = (label: string, change: (draft: Solid) => void) =>
    remakeOf(surface.id, label, (draft) => change(draft as Solid));
  const open = (id: string) => (surfaces.some((one) => one.id === id) ? selectSurface(id) : selectDressing(id));
  const add = (of: string) =>
    edit("Add a part", (draft) => {
      const id = draft.parts.reduce((most, part) => Math.max(most, part.id + 1), 0);
      draft.parts.push({ id, how: "join", of });
    });
  return (
    <>
      {made.parts.length === 0 && (
        <p className="text-xs text-ochre-dark">It needs a body: a closed surface, a tube, a shell, or a dressing.</p>
      )}
      <ol aria-label="Parts" className="grid gap-1">
        {made.parts.map(({ id, how, of }, at) => {
          const name = things.find((thing) => thing.id === of)?.name;
          if (name === undefined) return null;
          return (
            <li key={id} className="flex items-center gap-0.5 rounded-lg bg-paper py-0.5 pl-1 pr-0.5">
              {at === 0 ? (
                <span className="w-19 shrink-0 pl-1.5 text-xs text-ink-6">Body</span>
              ) : (
                <Choose
                  label={`How ${name} goes in: ${HOW[how]}`}
                  choices={Object.entries(HOW).map(([key, label]) => ({ id: key, label }))}
                  onChoose={(value) =>
                    edit(HOW[value as How], (draft) => {
                      const part = draft.parts.find((one) => one.id === id);
                      if (part) part.how = value as How;
                    })
                  }
                  className="h-6.5 w-19 shrink-0 truncate rounded-md border border-linen-3 px-1.5 text-left text-xs hover:bg-linen-1"
                >
                  {HOW[how]}
                </Choose>
              )}
              <button
                type="button"
                className="min-w-0 grow truncate px-1 text-left text-[12.5px] hover:text-sea"
                title={`Open ${name}`}
                onClick={() => open(of)}
              >
                {name}
              </button>
              <IconButton
                label={`Move ${name} up`}
                className="size-6"
                disabled={at === 0}
                onClick={() => edit("Order of parts", (draft) => swap(draft, at, at - 1))}
              >
                <ArrowUp size={12} />
              </IconButton>
              <IconButton
                label={`Move ${name} down`}
                className="size-6"
                disabled={at === made.parts.length - 1}
                onClick={() => edit("Order of parts", (draft) => swap(draft, at, at + 1))}
              >
                <ArrowDown size={12} />
              </IconButton>
              <IconButton
                label={`Take ${name} out of the solid`}
                className="size-6"
                onClick={() =>
                  edit("Take a part out", (draft) => {
                    draft.parts = draft.parts.filter((part) => part.id !== id);
                    if (draft.parts.length > 0) draft.parts[0].how = "join";
                  })
                }
              >
                <X size={13} />
              </IconButton>
            </li>
          );
        })}
      </ol>
      <Choose
        label="Add a part"
        choices={[
          ...surfaces.map(({ id, name }, k) => ({ id, label: name, ...(k === 0 && { group: "Surfaces" }) })),
          ...dressings.map(({ id, name }, k) => ({ id, label: name, ...(k === 0 && { group: "Dressings" }) })),
        ]}
        empty="There is no other surface, and no dressing, in the scene."
        onChoose={add}
        className={ADD}
      >
        Add a part…
      </Choose>
    </>
  );
}

/** Two parts change places; what comes first is what all others are joined to. */
function swap({ parts }: Solid, a: number, b: number): void {
  [parts[a], parts[b]] = [parts[b], parts[a]];
  parts[0].how = "join";
}
