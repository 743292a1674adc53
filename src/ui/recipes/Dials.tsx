"use client";
/** The dials of a recipe that is about to be kept: which numbers they drive, and over what range. */
import { Plus, X } from "lucide-react";
import { useState, type ReactNode } from "react";
import type { Dial } from "@/core/place";
import { labelInRecipe, numberOfRecipe, numbersOfRecipe, thingsOfRecipe, type AnyRecipe } from "@/core/scene";
import { describeParam } from "@/core/schema";
import { Choose, IconButton, ValueField, type Edit } from "../kit";
import { complaintOf } from "../steps";
import { TextField } from "./TextField";
import type { z } from "zod";

/** A dial about a number as it is now: from half of it to twice as much, as far as it may go. */
export function dialFor(recipe: AnyRecipe, id: number, path: string): Dial {
  const { value, schema } = numberOfRecipe(recipe, path)!;
  const [low, high] = describeParam(schema).slider;
  const ends = value > 0 ? [value / 2, value * 2] : [low, high];
  const allowed = (end: number, otherwise: number) => (complaintOf(schema, end) === null ? end : otherwise);
  const drive = { path, from: allowed(ends[0], value), to: allowed(ends[1], allowed(high, value)) };
  return { id, name: labelInRecipe(recipe, path).replace(/^[^:]*: /, ""), drives: [drive] };
}

export function Dials({ recipe, onChange }: { recipe: AnyRecipe; onChange: (dials: Dial[]) => void }) {
  const { dials } = recipe;
  const setDials = (next: readonly Dial[]) => onChange([...next]);
  const setDial = (i: number, dial: Dial) => setDials(dials.map((one, k) => (k === i ? dial : one)));
  return (
    <section aria-label="Dials" className="grid gap-1">
      <h3 className="text-xs font-semibold">Dials</h3>
      <p className="text-xs text-ink-6">The few numbers worth changing, each over a range of its own.</p>
      {dials.map((dial, i) => (
        <div key={dial.id} className="grid gap-1 rounded-lg bg-paper p-2">
          <div className="flex items-center gap-1">
            <TextField
              label={`Name of dial ${i + 1}`}
              value={dial.name}
              onChange={(next) => setDial(i, { ...dial, name: next })}
            />
            <IconButton
              label={`Take dial ${i + 1} off`}
              className="size-6.5"
              onClick={() => setDials(dials.filter((one) => one !== dial))}
            >
              <X size={13} />
            </IconButton>
          </div>
          {dial.drives.map((drive, k) => (
            <div key={drive.path} className="grid grid-cols-[1fr_76px_12px_76px] items-center gap-1 text-ink-6">
              <span className="truncate">{labelInRecipe(recipe, drive.path)}</span>
              {(["from", "to"] as const).map((end) => (
                <End
                  key={end}
                  label={`Dial ${i + 1} ${end}`}
                  schema={numberOfRecipe(recipe, drive.path)!.schema}
                  value={drive[end]}
                  onChange={(value) =>
                    setDial(i, {
                      ...dial,
                      drives: dial.drives.map((one, n) => (n === k ? { ...drive, [end]: value } : one)),
                    })
                  }
                  dash={end === "from"}
                />
              ))}
            </div>
          ))}
          <NumberChoice
            recipe={recipe}
            label={`Also drives… (dial ${i + 1})`}
            but={dial.drives.map(({ path }) => path)}
            onChoose={(path) => setDial(i, { ...dial, drives: [...dial.drives, dialFor(recipe, 0, path).drives[0]] })}
            className="w-fit text-xs text-ink-6 hover:text-sea"
          >
            Also drives…
          </NumberChoice>
        </div>
      ))}
      <NumberChoice
        recipe={recipe}
        label="Add a dial…"
        onChoose={(path) => setDials([...dials, dialFor(recipe, 1 + Math.max(-1, ...dials.map(({ id }) => id)), path)])}
        className="inline-flex h-7 w-fit items-center gap-1 rounded-lg border border-dashed border-linen-4 bg-linen-0 px-2 text-xs hover:bg-paper"
      >
        <Plus size={13} /> Add a dial…
      </NumberChoice>
    </section>
  );
}

interface NumberChoiceProps {
  recipe: AnyRecipe;
  label: string;
  /** The paths that are not offered. */
  but?: readonly string[];
  onChoose: (path: string) => void;
  className: string;
  children: ReactNode;
}

/** One of the numbers of a recipe; of an assembly first of what in it. */
function NumberChoice({ recipe, label, but = [], onChoose, className, children }: NumberChoiceProps) {
  const things = thingsOfRecipe(recipe);
  const [thing, setThing] = useState<string | null>(null);
  const of = things.length === 1 ? things[0].id : thing;
  if (of === null)
    return (
      <Choose
        label={label}
        choices={things.map(({ id, name }) => ({ id, label: name }))}
        onChoose={setThing}
        className={className}
      >
        {children}
      </Choose>
    );
  const name = things.find(({ id }) => id === of)?.name ?? "";
  const numbers = (
    <Choose
      label={things.length === 1 ? label : `A number of ${name}…`}
      choices={numbersOfRecipe(recipe, of)
        .filter(({ path }) => !but.includes(path))
        .map(({ path, label }) => ({ id: path, label }))}
      onChoose={(path) => {
        setThing(null);
        onChoose(path);
      }}
      className={className}
    >
      {things.length === 1 ? children : `A number of ${name}…`}
    </Choose>
  );
  if (things.length === 1) return numbers;
  return (
    <div className="flex items-center gap-1">
      {numbers}
      <IconButton label={`Not of ${name}`} className="size-6.5" onClick={() => setThing(null)}>
        <X size={13} />
      </IconButton>
    </div>
  );
}

interface EndProps {
  label: string;
  schema: z.ZodType;
  value: number;
  dash: boolean;
  onChange: (value: number) => void;
}

function End({ label, schema, value, dash, onChange }: EndProps) {
  const edit: Edit<number> = {
    begin: () => undefined,
    drag: onChange,
    end: () => undefined,
    cancel: () => undefined,
    set: onChange,
  };
  const { unit } = describeParam(schema);
  return (
    <>
      <ValueField label={label} unit={unit} value={value} edit={edit} complaint={(next) => complaintOf(schema, next)} />
      {dash && <span className="text-center">–</span>}
    </>
  );
}
