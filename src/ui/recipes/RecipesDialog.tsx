"use client";
/** All recipes as luggage tags; one of them used on a line or a surface, with one's own props in its roles. */
import { MoreHorizontal } from "lucide-react";
import { useEffect, useRef, useState } from "react";
import { toast } from "sonner";
import { dressingSchema, dressedBy, kindOf, type Recipe, type RecipeUse } from "@/core/place";
import { InputError } from "@/core/schema";
import { useScene, useSceneStore, type KeptRecipe } from "@/store";
import { RoleChoice } from "../basket";
import { asFileName, Button, Choose, download, FilesInput, Modal, NameField } from "../kit";
import {
  changeRecipe,
  dressByRecipe,
  dropRecipe,
  isShipped,
  keepRecipe,
  readRecipeFile,
  readRecipes,
  recipeFile,
  shippedRecipes,
  useClosedLines,
  useRecipes,
  useSession,
} from "../state";
import { sentence } from "../steps";

const close = () => useSession.setState({ dialog: null });

export function RecipesDialog() {
  const own = useRecipes((state) => state.own);
  const file = useRef<HTMLInputElement>(null);
  const all = [...own, ...shippedRecipes()];
  const [chosen, setChosen] = useState(shippedRecipes()[0].id);
  useEffect(
    () => void readRecipes().catch(() => toast.error("Recipes that are kept in the browser cannot be read.")),
    [],
  );
  const kept = all.find(({ id }) => id === chosen) ?? all[0];
  const bringIn = async (files: readonly File[]) => {
    for (const one of files) {
      try {
        setChosen(await keepRecipe(readRecipeFile(new Uint8Array(await one.arrayBuffer()), one.name)));
        toast.success(`The recipe of “${one.name}” is kept.`);
      } catch (error) {
        toast.error(error instanceof InputError ? error.message : "The browser has no room to keep it.");
      }
    }
  };
  return (
    <Modal title="Recipes" onClose={close} width="w-[760px]">
      <div className="grid grid-cols-[280px_1fr] gap-5">
        <section aria-label="All recipes" className="grid content-start gap-2">
          <ul className="grid max-h-[420px] gap-1.5 overflow-y-auto pr-1">
            {all.map((one) => (
              <li key={one.id}>
                <Tag kept={one} chosen={one.id === kept.id} onChoose={() => setChosen(one.id)} onGone={setChosen} />
              </li>
            ))}
          </ul>
          <Button className="w-fit" onClick={() => file.current?.click()}>
            Bring in a file…
          </Button>
          <FilesInput
            input={file}
            accept=".json,application/json"
            testId="recipe-files"
            onFiles={(files) => void bringIn(files)}
          />
        </section>
        <UseIt key={kept.id} {...kept} />
      </div>
    </Modal>
  );
}

/** What a recipe says in words. */
function saying(recipe: Recipe): string {
  const roles = Object.fromEntries(recipe.roles.map(({ id }) => [id, id]));
  const dressing = dressingSchema.parse({
    id: "recipe",
    name: recipe.name,
    ...dressedBy({ id: "recipe", recipe, roles }, {}),
  });
  const scene = { ...useSceneStore.getState().shown, props: recipe.roles as never[] };
  const words = sentence(dressing, scene).map(({ text }) => text).join(""); // prettier-ignore
  return words.replace(/no (line|surface|volume) yet/, "a $1");
}

/** A luggage tag: a hole with a cord, the name, and what it says. */
function Tag({
  kept,
  chosen,
  onChoose,
  onGone,
}: {
  kept: KeptRecipe;
  chosen: boolean;
  onChoose: () => void;
  onGone: (next: string) => void;
}) {
  const [renaming, setRenaming] = useState(false);
  const { id, recipe, picture } = kept;
  const act = async (what: string) => {
    try {
      if (what === "rename") setRenaming(true);
      else if (what === "duplicate") onGone(await keepRecipe(recipe, picture));
      else if (what === "file") download(recipeFile(recipe), `${asFileName(recipe.name)}.recipe.json`);
      else {
        await dropRecipe(id);
        onGone(shippedRecipes()[0].id);
        toast(`Deleted the recipe “${recipe.name}”.`, {
          action: { label: "Undo", onClick: () => void keepRecipe(recipe, picture) },
        });
      }
    } catch {
      toast.error("The browser has no room for that.");
    }
  };
  return (
    <div
      className={`relative flex items-start gap-2 rounded-r-lg rounded-l-[18px] border py-1.5 pl-7 pr-1.5 ${chosen ? "border-sea bg-sea-soft" : "border-linen-3 bg-linen-1 hover:bg-linen-2"}`}
    >
      <span aria-hidden className="absolute left-2.5 top-3 size-2.5 rounded-full border border-wood bg-linen-0" />
      {renaming ? (
        <NameField
          label="Name of the recipe"
          value={recipe.name}
          onChange={(name) => void changeRecipe(id, { ...recipe, name })}
          onDone={() => setRenaming(false)}
          className="grow"
        />
      ) : (
        <button type="button" aria-pressed={chosen} onClick={onChoose} className="min-w-0 grow text-left">
          <span className="block truncate text-[12.5px] font-medium">{recipe.name}</span>
          <span className="line-clamp-2 text-[11px] leading-snug text-ink-6">{saying(recipe)}</span>
        </button>
      )}
      <Choose
        label={`More for ${recipe.name}`}
        choices={[
          ...(isShipped(id) ? [] : [{ id: "rename", label: "Rename" }]),
          { id: "duplicate", label: "Duplicate" },
          { id: "file", label: "Save as a file" },
          ...(isShipped(id) ? [] : [{ id: "delete", label: "Delete", danger: true }]),
        ]}
        onChoose={(what) => void act(what)}
        className="grid size-6 shrink-0 place-items-center rounded hover:bg-linen-0"
      >
        <MoreHorizontal size={14} />
      </Choose>
    </div>
  );
}

/** The prop that is called as a role is, or begins so, else those of the basket in their order. */
function castAtFirst({ roles }: Recipe, props: readonly { id: string; name: string }[]): RecipeUse["roles"] {
  const isCalled = (name: string, role: string) => name.toLowerCase() === role.toLowerCase();
  const begins = (name: string, role: string) => name.toLowerCase().startsWith(`${role.toLowerCase()} `);
  const alike = (role: string) =>
    (props.find(({ name }) => isCalled(name, role)) ?? props.find(({ name }) => begins(name, role)))?.id;
  return Object.fromEntries(roles.map(({ id, name }, i) => [id, alike(name) ?? props[i]?.id ?? null]));
}

function UseIt({ id, recipe, picture }: KeptRecipe) {
  const scene = useScene((shown) => shown);
  const closed = useClosedLines();
  const { where } = recipe.rules;
  const { ordered, fills } = kindOf(where);
  const [roles, setRoles] = useState(() => castAtFirst(recipe, scene.props));
  const noun = ordered ? "line" : fills ? "volume" : "surface";
  const areas = where.kind === "over" ? closed.map((line) => ({ id: line.id, name: `Within ${line.name}` })) : [];
  const things = ordered ? scene.lines : [...scene.surfaces, ...areas];
  const undressed = ordered ? scene.lines.find((line) => !scene.dressings.some((one) => one.where.lines.includes(line.id))) : undefined; // prettier-ignore
  const [on, setOn] = useState<string | null>(undressed?.id ?? things[0]?.id ?? null);
  const use = () => {
    if (on === null) return;
    close();
    const isArea = areas.some((area) => area.id === on);
    dressByRecipe({ id, recipe, roles }, ordered ? { lines: [on] } : isArea ? { areas: [on] } : fills ? { volumes: [on] } : { surfaces: [on] }); // prettier-ignore
  };
  return (
    <section aria-label="Use it" className="grid content-start gap-2.5 text-[12.5px]">
      <h3 className="text-sm font-semibold">{recipe.name}</h3>
      {/* eslint-disable-next-line @next/next/no-img-element -- a data address */}
      {picture && <img src={picture} alt="" width={320} height={72} className="rounded-lg border border-linen-2" />}
      <p className="text-ink-6">{saying(recipe)}</p>
      {recipe.dials.length > 0 && (
        <p className="text-xs text-ink-6">Dials: {recipe.dials.map(({ name }) => name).join(", ")}.</p>
      )}
      <div className="grid gap-1">
        {recipe.roles.map(({ id: role, name }) => (
          <RoleChoice
            key={role}
            role={name}
            prop={roles[role] ?? null}
            onChoose={(prop) => setRoles({ ...roles, [role]: prop })}
          />
        ))}
        <div className="grid grid-cols-[84px_1fr] items-center gap-2">
          <span className="text-ink-6">On the {noun}</span>
          <Choose
            label={`On the ${noun}: ${things.find((thing) => thing.id === on)?.name ?? `No ${noun} yet`}`}
            choices={things.map((thing) => ({ id: thing.id, label: thing.name }))}
            empty={`There is no ${noun} in the scene yet.`}
            onChoose={setOn}
            className="inline-flex h-7.5 w-fit max-w-full items-center rounded-lg border border-linen-3 bg-paper px-2"
          >
            <span className="truncate">{things.find((thing) => thing.id === on)?.name ?? `No ${noun} yet`}</span>
          </Choose>
        </div>
      </div>
      <div className="mt-2 flex justify-end gap-2">
        <Button onClick={close}>Cancel</Button>
        <Button look="main" disabled={on === null} onClick={use}>
          Dress
        </Button>
      </div>
    </section>
  );
}
