"use client";
/** The sheet: what a dressing is spread over, laid flat or seen from above, as the second place to work. */
import { Legend } from "../basket";
import { Facts } from "./Facts";
import { SheetCanvas } from "./SheetCanvas";
import { SheetSizes } from "./LargeSheet";
import { useLaidOut, type SheetProps } from "./ways";

export function Sheet(props: SheetProps) {
  const given = useLaidOut(props);
  return (
    <>
      <Facts key={props.dressing.id} {...given} />
      <SheetCanvas key={`${props.dressing.id} ${given.by}`} {...given} />
      <div className="grid min-h-0 grid-rows-[minmax(0,1fr)_auto]">
        <Legend {...props} />
        <div className="px-3 pb-2 text-[11px] max-[959px]:hidden">
          <SheetSizes />
        </div>
      </div>
    </>
  );
}
