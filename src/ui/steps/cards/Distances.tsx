"use client";
/** Things by whose distance there is more or less: nothing at the one distance, all at the other. */
import { Plus, X } from "lucide-react";
import type { Limits } from "@/core/place";
import { nextNumber } from "@/core/schema";
import { Choose, Fold, IconButton, ValueField } from "../../kit";
import { useClosedLines, useEdit } from "../../state";
import { ADD } from "../params";
import type { Limited } from "./limited";

interface DistancesProps {
  of: Limited;
  /** What may be minded. */
  things: readonly { id: string; name: string }[];
  help: string;
  /** How another is added, and from which distances on. */
  add: { label: string; words: string; none: number; full: number };
}

export function Distances({ of, things, help, add }: DistancesProps) {
  const round = useClosedLines();
  const { distances } = of.limits;
  const free = things.filter(({ id }) => !distances.some(({ to }) => to === id));
  return (
    <Fold label="By distance" help={help} summary={distances.length === 0 ? "" : String(distances.length)}>
      <ul className="grid gap-1">
        {distances.map(({ to, within }, i) => {
          const closed = round.some(({ id }) => id === to);
          const name = things.find(({ id }) => id === to)?.name ?? "something that is gone";
          return (
            <li key={to} className="grid grid-cols-[1fr_62px_62px_26px] items-center gap-1 text-xs text-ink-6">
              <span className="truncate" title={name}>
                {name}
              </span>
              <DistanceNumber of={of} index={i} end="none" name={name} />
              <DistanceNumber of={of} index={i} end="full" name={name} />
              <IconButton
                label={`Mind the distance to ${name} no more`}
                className="size-6.5"
                onClick={() => of.change("Mind a distance no more", (limits) => void limits.distances.splice(i, 1))}
              >
                <X size={13} />
              </IconButton>
              {closed && (
                <label className="col-span-4 flex items-center gap-1.5 pb-1 text-[11.5px]">
                  <input
                    type="checkbox"
                    checked={within}
                    onChange={(event) => {
                      const on = event.target.checked;
                      of.change("Inside counts", (limits) => void (limits.distances[i].within = on));
                    }}
                    className="accent-sea"
                  />
                  What lies inside it counts as on it
                </label>
              )}
            </li>
          );
        })}
      </ul>
      {distances.length > 0 && (
        <p className="grid grid-cols-[1fr_62px_62px_26px] gap-1 text-[11px] text-ink-5">
          <span />
          <span>none at</span>
          <span>all from</span>
        </p>
      )}
      <Choose
        label={add.label}
        choices={free.map(({ id, name }) => ({ id, label: name }))}
        empty="There is nothing else in the scene to be far from."
        onChoose={(to) =>
          of.change("Mind a distance", ({ distances: list }) => {
            list.push({ id: nextNumber(list), to, within: false, none: add.none, full: add.full });
          })
        }
        className={`${ADD} w-fit`}
      >
        <Plus size={13} /> {add.words}
      </Choose>
    </Fold>
  );
}

interface DistanceNumberProps {
  of: Limited;
  index: number;
  end: keyof Pick<Limits["distances"][number], "none" | "full">;
  name: string;
}

function DistanceNumber({ of, index, end, name }: DistanceNumberProps) {
  const edit = useEdit<number>("Distance", (scene, value) => {
    const one = of.find(scene)?.distances[index];
    if (one) one[end] = value;
  });
  return (
    <ValueField
      label={`${end === "none" ? "None at" : "All from"}, to ${name}`}
      unit="m"
      value={of.limits.distances[index][end]}
      edit={edit}
      complaint={(value) => (value < 0 ? "a distance is not below zero" : null)}
    />
  );
}
