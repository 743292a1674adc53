"use client";
/** What a recipe is called, who plays in it, and which of its numbers are put on top, asked before it is kept. */
import { Plus, X } from "lucide-react";
import { useState } from "react";
import { toast } from "sonner";
import { numberAt, numbersOf, paramOf, recipeOf, type Dial, type Dressing, type Recipe } from "@/core/place";
import { describeParam } from "@/core/schema";
import { useSceneStore } from "@/store";
import { Button, Choose, IconButton, Modal, ValueField, type Edit } from "../kit";
import { changeRecipe, isShipped, keepRecipe, recipesNow, useSession } from "../state";
import { complaintOf } from "../steps";
import { pictureOfStrip } from "./picture";

export function SaveRecipeDialog() {
  const id = useSession((session) => session.dressing);
  const dressing = useSceneStore((store) => store.shown.dressings.find((one) => one.id === id));
  return dressing ? <Ask dressing={dressing} /> : null;
}

const close = () => useSession.setState({ dialog: null });

/** A dial about a number as it is now: from half of it to twice as much, as far as it may go. */
function dialFor(dressing: Dressing, id: number, path: string, label: string): Dial {
  const value = numberAt(dressing, path) ?? 0;
  const [low, high] = describeParam(paramOf(path)).slider;
  const ends = value > 0 ? [value / 2, value * 2] : [low, high];
  const allowed = (end: number, otherwise: number) => (complaintOf(paramOf(path), end) === null ? end : otherwise);
  const drive = { path, from: allowed(ends[0], value), to: allowed(ends[1], allowed(high, value)) };
  return { id, name: label.replace(/^[^:]*: /, ""), drives: [drive] };
}

/** The number that a dressing is most likely to be changed by. */
const FIRST: Readonly<Partial<Record<Dressing["spacing"]["by"], string>>> = {
  distance: "spacing/distance",
  density: "spacing/distance",
  count: "spacing/count",
  end: "spacing/gap",
  divide: "spacing/parts",
};

function Ask({ dressing }: { dressing: Dressing }) {
  const { props, mixes } = useSceneStore((store) => store.shown);
  const nameOf = (prop: string) => [...props, ...mixes].find(({ id }) => id === prop)?.name ?? "Prop";
  const numbers = numbersOf(dressing);
  const labelOf = (path: string) => numbers.find((one) => one.path === path)?.label ?? path;
  const [begun] = useState((): Recipe => {
    const used = dressing.recipe?.recipe;
    const first = FIRST[dressing.spacing.by];
    const dials = used?.dials ?? (first ? [dialFor(dressing, 0, first, labelOf(first))] : []);
    const made = recipeOf(dressing, used?.name ?? dressing.name, nameOf, dials);
    // Who has played a role before is called by it.
    const played = new Map(Object.entries(dressing.recipe?.roles ?? {}).map(([role, prop]) => [prop && nameOf(prop), used?.roles.find(({ id }) => id === role)?.name])); // prettier-ignore
    return { ...made, roles: made.roles.map((role) => ({ ...role, name: played.get(role.name) ?? role.name })) };
  });
  const [recipe, setRecipe] = useState(begun);
  const own = dressing.recipe && !isShipped(dressing.recipe.id) ? recipesNow().find(({ id }) => id === dressing.recipe!.id) : undefined; // prettier-ignore
  const { name, roles, dials } = recipe;
  const setDials = (next: readonly Dial[]) => setRecipe({ ...recipe, dials: [...next] });
  const setDial = (i: number, dial: Dial) => setDials(dials.map((one, k) => (k === i ? dial : one)));
  const keep = async (id: string | null) => {
    const picture = pictureOfStrip();
    try {
      if (id === null) await keepRecipe(recipe, picture);
      else await changeRecipe(id, recipe, picture);
      toast.success(`The recipe “${name}” is kept, for all scenes of this browser.`);
      close();
    } catch {
      toast.error("The browser has no room to keep it.");
    }
  };
  return (
    <Modal title="Save as a recipe" onClose={close} width="w-[520px]">
      <div className="grid gap-3 text-[12.5px]">
        <label className="grid grid-cols-[84px_1fr] items-center gap-2">
          <span className="text-ink-6">Name</span>
          <TextField
            label="Name of the recipe"
            value={name}
            onChange={(next) => setRecipe({ ...recipe, name: next })}
          />
        </label>
        <section aria-label="Roles" className="grid gap-1">
          <h3 className="text-xs font-semibold">Roles</h3>
          <p className="text-xs text-ink-6">
            What each prop is there for, so that others can take its place elsewhere.
          </p>
          {roles.map((role, i) => (
            <TextField
              key={role.id}
              label={`Role ${i + 1}`}
              value={role.name}
              onChange={(next) =>
                setRecipe({ ...recipe, roles: roles.map((one) => (one === role ? { ...role, name: next } : one)) })
              }
            />
          ))}
        </section>
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
                  <span className="truncate">{labelOf(drive.path)}</span>
                  {(["from", "to"] as const).map((end) => (
                    <End
                      key={end}
                      label={`Dial ${i + 1} ${end}`}
                      path={drive.path}
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
              <Choose
                label={`Also drives… (dial ${i + 1})`}
                choices={numbers
                  .filter(({ path }) => !dial.drives.some((one) => one.path === path))
                  .map(({ path, label }) => ({ id: path, label }))}
                onChoose={(path) =>
                  setDial(i, { ...dial, drives: [...dial.drives, dialFor(dressing, 0, path, labelOf(path)).drives[0]] })
                }
                className="w-fit text-xs text-ink-6 hover:text-sea"
              >
                Also drives…
              </Choose>
            </div>
          ))}
          <Choose
            label="Add a dial…"
            choices={numbers.map(({ path, label }) => ({ id: path, label }))}
            onChoose={(path) =>
              setDials([
                ...dials,
                dialFor(dressing, 1 + Math.max(-1, ...dials.map(({ id }) => id)), path, labelOf(path)),
              ])
            }
            className="inline-flex h-7 w-fit items-center gap-1 rounded-lg border border-dashed border-linen-4 bg-linen-0 px-2 text-xs hover:bg-paper"
          >
            <Plus size={13} /> Add a dial…
          </Choose>
        </section>
        <div className="flex justify-end gap-2">
          <Button onClick={close}>Cancel</Button>
          {own && (
            <Button disabled={name.trim() === ""} onClick={() => void keep(own.id)}>
              Change “{own.recipe.name}”
            </Button>
          )}
          <Button look="main" disabled={name.trim() === ""} onClick={() => void keep(null)}>
            Save as a new one
          </Button>
        </div>
      </div>
    </Modal>
  );
}

function TextField({ label, value, onChange }: { label: string; value: string; onChange: (value: string) => void }) {
  return (
    <input
      aria-label={label}
      value={value}
      maxLength={120}
      onChange={(event) => onChange(event.target.value)}
      className="h-7 w-full min-w-0 rounded-[7px] border border-linen-3 bg-paper px-2"
    />
  );
}

interface EndProps {
  label: string;
  path: string;
  value: number;
  dash: boolean;
  onChange: (value: number) => void;
}

function End({ label, path, value, dash, onChange }: EndProps) {
  const edit: Edit<number> = {
    begin: () => undefined,
    drag: onChange,
    end: () => undefined,
    cancel: () => undefined,
    set: onChange,
  };
  const { unit } = describeParam(paramOf(path));
  return (
    <>
      <ValueField
        label={label}
        unit={unit}
        value={value}
        edit={edit}
        complaint={(next) => complaintOf(paramOf(path), next)}
      />
      {dash && <span className="text-center">–</span>}
    </>
  );
}
