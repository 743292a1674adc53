"use client";
/** The lists of Where, and how they are changed; closed lines as areas or holes among them. */
import { addVolume, editDressing, selectLine } from "../../state";
import { startDrawing } from "../../view";
import { ADD, type CardProps } from "../params";
import { GuideList } from "./GuideList";

type Named = "lines" | "surfaces" | "areas" | "holes" | "volumes";

const ADDED: Readonly<Record<Named, readonly [add: string, remove: string]>> = {
  lines: ["Add line", "Take line out"],
  surfaces: ["Add surface", "Take surface out"],
  areas: ["Add area", "Take area out"],
  holes: ["Cut hole", "Close hole"],
  volumes: ["Add volume", "Take volume out"],
};

/** What a list of Where is given to change it. */
export const changing = ({ dressing }: CardProps, list: Named) => ({
  chosen: dressing.where[list],
  onAdd: (id: string) =>
    list === "volumes"
      ? addVolume(dressing.id, id)
      : editDressing(dressing.id, ADDED[list][0], ({ where }) => void where[list].push(id)),
  onRemove: (id: string) =>
    editDressing(dressing.id, ADDED[list][1], ({ where }) => {
      where[list] = where[list].filter((other) => other !== id);
    }),
});

interface OutlinesProps extends CardProps {
  list: "areas" | "holes";
  noun: string;
  lines: readonly { id: string; name: string }[];
}

export function Outlines({ dressing, list, noun, lines }: OutlinesProps) {
  return (
    <GuideList
      noun={noun}
      things={lines}
      empty="There is no other closed line in the scene. Draw one."
      onOpen={selectLine}
      {...changing({ dressing }, list)}
    >
      <button
        type="button"
        className={ADD}
        onClick={() => startDrawing({ dressing: dressing.id, list })}
        title="Click its corners in the view; Enter or a click on the first closes it."
      >
        Draw {noun}
      </button>
    </GuideList>
  );
}
