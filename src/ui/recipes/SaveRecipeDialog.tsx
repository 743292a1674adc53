"use client";
/** What a recipe is called, who plays in it, and which of its numbers are put on top, asked before it is kept. */
import { useState } from "react";
import { toast } from "sonner";
import { recipeOf, type Dressing, type Recipe } from "@/core/place";
import {
  isAssembled,
  recipeOfAssembly,
  recipeTrouble,
  type AnyRecipe,
  type Assembly,
  type AssemblyRecipe,
  type Prop,
  type Scene,
} from "@/core/scene";
import { useSceneStore } from "@/store";
import { usePictures } from "../assets";
import { Button, Modal } from "../kit";
import { changeRecipe, isShipped, keepRecipe, recipesNow, useSession } from "../state";
import { dialFor, Dials } from "./Dials";
import { pictureOfCard, pictureOfStrip } from "./picture";
import { sayRefused } from "./refused";
import { TextField } from "./TextField";

/** Of the assembly that is selected, else of the selected dressing. */
export function SaveRecipeDialog() {
  const id = useSession((session) => session.dressing);
  const focus = useSession((session) => session.focus);
  const dressing = useSceneStore((store) => store.shown.dressings.find((one) => one.id === id));
  const prop = useSceneStore((store) => store.shown.props.find((one) => focus.kind === "prop" && one.id === focus.id));
  if (isAssembled(prop)) return <AskOfAssembly prop={prop} />;
  return dressing ? <AskOfDressing dressing={dressing} /> : null;
}

const close = () => useSession.setState({ dialog: null });

const namer =
  ({ props, mixes }: Pick<Scene, "props" | "mixes">) =>
  (prop: string): string =>
    [...props, ...mixes].find(({ id }) => id === prop)?.name ?? "Prop";

/** The number that a dressing is most likely to be changed by. */
const FIRST: Readonly<Partial<Record<Dressing["spacing"]["by"], string>>> = {
  distance: "spacing/distance",
  density: "spacing/distance",
  count: "spacing/count",
  end: "spacing/gap",
  divide: "spacing/parts",
};

function AskOfDressing({ dressing }: { dressing: Dressing }) {
  const nameOf = namer(useSceneStore((store) => store.shown));
  const [begun] = useState((): Recipe => {
    const used = dressing.recipe?.recipe;
    const first = FIRST[dressing.spacing.by];
    const made = recipeOf(dressing, used?.name ?? dressing.name, nameOf);
    const dials = used?.dials ?? (first ? [dialFor(made, 0, first)] : []);
    return { ...made, dials: [...dials] };
  });
  return <Ask begun={begun} from={dressing.recipe?.id} pictured={() => Promise.resolve(pictureOfStrip())} />;
}

function AskOfAssembly({ prop }: { prop: Prop & { assembly: Assembly } }) {
  const nameOf = namer(useSceneStore((store) => store.shown));
  const { assembly } = prop;
  const use = assembly.recipe;
  const trouble = recipeTrouble(assembly);
  const picture = usePictures(prop)?.cardUrl;
  const [begun] = useState((): AssemblyRecipe | null =>
    trouble ? null : recipeOfAssembly(prop, use?.recipe.name ?? prop.name, nameOf),
  );
  if (begun)
    return <Ask begun={begun} from={use?.id} pictured={async () => (picture ? pictureOfCard(picture) : null)} />;
  return (
    <Modal title="Save as a recipe" onClose={close} width="w-[520px]">
      <p className="text-[12.5px]">{trouble}</p>
      <div className="mt-3 flex justify-end">
        <Button onClick={close}>Close</Button>
      </div>
    </Modal>
  );
}

interface AskProps {
  begun: AnyRecipe;
  /** The recipe that it was made by. */
  from: string | undefined;
  pictured: () => Promise<string | null>;
}

function Ask({ begun, from, pictured }: AskProps) {
  const [recipe, setRecipe] = useState(begun);
  const own = from !== undefined && !isShipped(from) ? recipesNow().find(({ id }) => id === from) : undefined;
  const { name, roles } = recipe;
  const keep = async (id: string | null) => {
    try {
      const picture = await pictured();
      if (id === null) await keepRecipe(recipe, picture);
      else await changeRecipe(id, recipe, picture);
      toast.success(`The recipe “${name}” is kept, for all scenes of this browser.`);
      close();
    } catch (error) {
      sayRefused(error);
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
        <Dials recipe={recipe} onChange={(dials) => setRecipe({ ...recipe, dials })} />
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
