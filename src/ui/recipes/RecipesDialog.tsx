"use client";
/** All recipes as luggage tags; one of them used on a line or a surface, with one's own props in its roles. */
import { MoreHorizontal } from "lucide-react";
import { useEffect, useRef, useState } from "react";
import { toast } from "sonner";
import type { KeptRecipe } from "@/store";
import { asFileName, Button, Choose, download, FilesInput, Modal, NameField } from "../kit";
import {
  changeRecipe,
  dropRecipe,
  isShipped,
  keepRecipe,
  readRecipeFile,
  readRecipes,
  recipeFile,
  shippedRecipes,
  useRecipes,
  useSession,
} from "../state";
import { sayRefused } from "./refused";
import { saying, UseIt } from "./UseRecipe";

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
        sayRefused(error);
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
          action: { label: "Undo", onClick: () => void keepRecipe(recipe, picture).catch(sayRefused) },
        });
      }
    } catch (error) {
      sayRefused(error);
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
          onChange={(name) => void changeRecipe(id, { ...recipe, name }).catch(sayRefused)}
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
