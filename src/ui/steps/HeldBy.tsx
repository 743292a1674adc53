"use client";
/** What a thing goes along with: chosen among the scene's surfaces and dressings, of which the nearest place or prop holds it. */
import { X } from "lucide-react";
import { toast } from "sonner";
import type { Line } from "@/core/line";
import { holderOf, type Tie } from "@/core/tie";
import { useScene } from "@/store";
import { Choose, IconButton } from "../kit";
import { holdKnots, selectLine, type Holder } from "../state";

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
  const names = useHolderNames();
  const held = tie && tieWords(tie, names);
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

/** What things that can hold others are called, by their ids. */
function useHolderNames(): ReadonlyMap<string, string> {
  const surfaces = useScene((scene) => scene.surfaces);
  const dressings = useScene((scene) => scene.dressings);
  const lines = useScene((scene) => scene.lines);
  return new Map([...surfaces, ...dressings, ...lines].map(({ id, name }) => [id, name]));
}

/** What a tie is to, in words. */
function tieWords(tie: Tie, names: ReadonlyMap<string, string>): string {
  const holder = names.get(holderOf(tie));
  return holder === undefined ? "something that is gone" : `${placeWords(tie)}${holder}`;
}

/** What something was caught on and goes along with, and the way to let it go. */
export function Tied({ tie, onLetGo }: { tie: Tie; onLetGo: () => void }) {
  const names = useHolderNames();
  return (
    <div className="mb-2 flex items-center gap-2 rounded-lg bg-paper py-0.5 pl-2.5 pr-0.5 text-[12.5px]">
      <span className="grow truncate" title="It goes along with that, until it is pulled off.">
        Tied to {tieWords(tie, names)}
      </span>
      <IconButton label="Take the tie off" className="size-6.5" onClick={onLetGo}>
        <X size={13} />
      </IconButton>
    </div>
  );
}

/** More ties than this are not listed one by one. */
const MOST_LISTED = 40;

/** The ties of a line's knots, each to be taken off. */
export function KnotTies({ line }: { line: Line }) {
  const names = useHolderNames();
  const tied = line.knots.flatMap(({ held }, i) => (held ? [{ i, tie: held as Tie }] : []));
  if (tied.length === 0) return null;
  return (
    <section aria-label="Ties" className="grid gap-1">
      <h2 className="text-xs font-semibold">Ties</h2>
      <ul className="grid gap-1">
        {tied.slice(0, MOST_LISTED).map(({ i, tie }) => (
          <li key={i} className="flex items-center gap-2 rounded-lg bg-paper py-0.5 pl-2.5 pr-0.5 text-[12.5px]">
            <button
              type="button"
              className="grow truncate text-left hover:text-sea"
              title="Select this knot"
              onClick={() => selectLine(line.id, i)}
            >
              Knot {i + 1} to {tieWords(tie, names)}
            </button>
            <IconButton
              label={`Take the tie of knot ${i + 1} off`}
              className="size-6.5"
              onClick={() => holdKnots(line.id, [i], null)}
            >
              <X size={13} />
            </IconButton>
          </li>
        ))}
      </ul>
      {tied.length > MOST_LISTED && (
        <p className="text-xs text-ink-6">
          The first {MOST_LISTED} of {tied.length} ties; the others are with their knots.
        </p>
      )}
    </section>
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
