"use client";
/** The sheet as the main place to work: beside the view, or all over it. */
import { useScene } from "@/store";
import { Segmented, Toggle } from "../kit";
import { SHEET_SIZES, useSession } from "../state";
import { stretchInWords, SheetWays } from "./Facts";
import { SheetCanvas } from "./SheetCanvas";
import { useLaidOut, type SheetProps } from "./ways";

export function SheetSizes() {
  const size = useSession((session) => session.sheetSize);
  return (
    <Segmented
      label="Size of the sheet"
      help="Below the view, beside it, or all over it. The key J goes there and back."
      value={size}
      choices={SHEET_SIZES}
      onChange={(sheetSize) => useSession.setState({ sheetSize })}
    />
  );
}

function StretchTint() {
  const on = useSession((session) => session.sheetStretch);
  return (
    <div className="w-[98px] shrink-0">
      <Toggle
        label="Stretch"
        help="Tints the sheet the redder the more lengths are off there, from 2 % on."
        on={on}
        onChange={(sheetStretch) => useSession.setState({ sheetStretch })}
      />
    </div>
  );
}

export function LargeSheet(props: SheetProps) {
  const given = useLaidOut(props);
  const { charts, by } = given;
  const name = useScene((scene) => scene.surfaces.find(({ id }) => id === props.placements.fields[0])?.name);
  const measured = charts && sizeInWords(charts.box);
  return (
    <section
      aria-label="Sheet"
      className="grid min-h-0 min-w-0 grid-rows-[auto_minmax(0,1fr)_auto] border-r border-linen-2 bg-linen-0"
    >
      <header className="flex flex-wrap items-center gap-x-3 gap-y-1.5 border-b border-linen-2 px-3 py-2">
        <p className="min-w-0 grow truncate">
          <b className="font-semibold">{name ?? props.dressing.name}</b>
          {measured && <span className="ml-2 font-mono text-xs text-ink-6">{measured}</span>}
        </p>
        <SheetWays {...given} />
        <div className="w-[196px] text-[11px]">
          <SheetSizes />
        </div>
      </header>
      <SheetCanvas key={`${props.dressing.id} ${by} large`} {...given} />
      <div className="flex items-start gap-3 border-t border-linen-2 px-3 py-1.5 text-[11px] text-ink-6">
        <p className="min-w-0 grow">
          {charts && <span data-testid="stretch">{stretchInWords(charts.stretch)} · </span>}
          Drag a prop or a knot to move it, its corner to size it · drag beside them: a clearing, Shift: a box · Alt and
          click: one more · wheel: closer
        </p>
        {charts && <StretchTint />}
      </div>
    </section>
  );
}

function sizeInWords([least, most]: readonly [readonly [number, number], readonly [number, number]]): string {
  const [wide, high] = [most[0] - least[0], most[1] - least[1]].map((side) => side.toFixed(2));
  return `${wide} m wide · ${high} m high`;
}
