"use client";
/** What a thing goes along with: chosen among the scene's surfaces and dressings, of which the nearest place or prop holds it. */
import { toast } from "sonner";
import { holderOf, type Tie } from "@/core/tie";
import { useScene } from "@/store";
import { Choose } from "../kit";
import type { Holder } from "../state";

interface HeldByProps {
  /** The tie there is; null for none. */
  tie: Tie | null;
  /** What may not hold it: itself. */
  but: string;
  /** @returns whether there was anything to hold it */
  onHold: (holder: Holder) => boolean;
}

export function HeldBy({ tie, but, onHold }: HeldByProps) {
  const surfaces = useScene((scene) => scene.surfaces).filter(({ id }) => id !== but);
  const dressings = useScene((scene) => scene.dressings).filter(({ id }) => id !== but);
  const lines = useScene((scene) => scene.lines);
  const names = new Map([...surfaces, ...dressings, ...lines].map(({ id, name }) => [id, name]));
  const holder = tie && names.get(holderOf(tie));
  const held = tie && (holder === undefined ? "something that is gone" : `${placeWords(tie)}${holder}`);
  const choices = [
    ...(tie ? [{ id: "", label: "Nothing: let it go" }] : []),
    ...surfaces.map(({ id, name }) => ({
      id: `surface ${id}`,
      label: name,
      group: "By a surface, where it is nearest",
    })),
    ...dressings.map(({ id, name }) => ({ id: `dressing ${id}`, label: name, group: "By the nearest prop of" })),
  ];
  return (
    <div className="grid grid-cols-[56px_1fr] items-center gap-1.5">
      <span className="text-[12.5px] text-ink-6" title="It goes along with what holds it, as one piece with it.">
        Held by
      </span>
      <Choose
        label={`Held by ${held ?? "nothing"}`}
        choices={choices}
        empty="There is nothing in the scene that could hold it."
        onChoose={(chosen) => {
          const [kind, id] = [chosen.slice(0, chosen.indexOf(" ")), chosen.slice(chosen.indexOf(" ") + 1)];
          if (!onHold(chosen === "" ? null : { kind: kind as "surface" | "dressing", id }))
            toast.error(`“${names.get(id) ?? "It"}” has nothing that could hold it.`);
        }}
        className={`h-7 truncate rounded-lg border border-linen-3 bg-paper px-2 text-left text-xs hover:bg-linen-1 ${tie && !names.has(holderOf(tie)) ? "text-madder" : ""}`}
      >
        {held ?? "nothing"}
      </Choose>
    </div>
  );
}

/** The place of its holder that a tie is to, in words; nothing for all of it. */
function placeWords(tie: Tie): string {
  if (tie.kind === "placement") return tie.snap === undefined ? "" : `${tie.snap} of `;
  if (tie.kind === "surface") return "";
  const { by, number } = tie.at;
  return { knot: "a knot of ", mark: `mark ${number + 1} of `, end: number === 0 ? "the start of " : "the end of " }[
    by
  ];
}
