"use client";
/** How many times as wide, high and deep what is selected is by hand. */
import type { Dressing, Key } from "@/core/place";
import { ValueField } from "../kit";
import { dressingOf, saidByAll, setStretch, useEdit, writePegs } from "../state";

interface StretchProps {
  dressing: Dressing;
  keys: ReadonlySet<Key>;
}

const SIDES = ["Wide", "High", "Deep"] as const;

export function StretchFields(props: StretchProps) {
  return (
    <div
      className="mb-2 grid grid-cols-3 gap-x-2 text-[12.5px] text-ink-6"
      title="So many times as wide, high and deep as the rules have it, in its own directions. On the sheet its sides can be pulled."
    >
      {SIDES.map((side, axis) => (
        <StretchField key={side} {...props} side={side} axis={axis} />
      ))}
    </div>
  );
}

function StretchField({ dressing, keys, side, axis }: StretchProps & { side: string; axis: number }) {
  const edit = useEdit<number>("Stretch placement", (scene, times) => {
    const draft = dressingOf(scene, dressing.id);
    if (draft) writePegs(draft, keys, (peg) => setStretch(peg, axis, times));
  });
  return (
    <label className="grid gap-0.5">
      {side}
      <ValueField
        label={`${side} by hand`}
        unit="factor"
        value={saidByAll(dressing, keys, (peg) => peg.stretch?.[axis] ?? 1)}
        edit={edit}
        complaint={(value) => (value > 0 && value <= 1e6 ? null : "it is stretched by more than zero")}
        className="w-full min-w-0"
      />
    </label>
  );
}
