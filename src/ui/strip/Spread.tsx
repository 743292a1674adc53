"use client";
/** Left of the strip the spread of the gaps. */
import { useMemo } from "react";
import type { Dressing, Placements } from "@/core/place";
import { GapChart } from "../kit";
import { lineName } from "../state";
import { useAtLeisure } from "../time";
import { spreadOf, type StripRow } from "./model";

export function Spread({
  dressing,
  placements,
  rows,
}: {
  dressing: Dressing;
  placements: Placements;
  rows: readonly StripRow[];
}) {
  const standing = useAtLeisure(useMemo(() => ({ placements, rows }), [placements, rows]));
  const spread = useMemo(() => spreadOf(standing.placements, standing.rows), [standing]);
  const first = rows.filter((row) => row.row === 0);
  const total = first.reduce((sum, row) => sum + row.length, 0);
  const counts = [
    first.length > 1 ? `${first.length} lines, ` : "",
    rows.length > first.length ? `${rows.length} rows, ` : "",
  ].join("");
  const name = first.length === 1 ? (lineName(rows[0].line) ?? "") : dressing.name;
  return (
    <div className="min-w-0 overflow-hidden border-r max-[959px]:hidden border-linen-2 px-4 py-3">
      <p className="truncate">
        <b className="font-semibold">{name}</b>{" "}
        <span className="text-ink-6">
          unrolled · {counts}
          {total.toFixed(2)} m
        </span>
      </p>
      {spread ? (
        <>
          <GapChart bins={spread.bins} height={58} />
          <p className="font-mono text-xs text-ink-6">
            apart {spread.least.toFixed(2)} – {spread.most.toFixed(2)} m · median {spread.median.toFixed(2)}
          </p>
        </>
      ) : (
        <p className="mt-2 text-xs text-ink-6">How far apart they stand shows here as soon as there are two.</p>
      )}
    </div>
  );
}
