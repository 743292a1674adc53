"use client";
/** Gaps as small bars. The numbers that matter stand in words beside them. */
import { Bar, BarChart, XAxis } from "recharts";

export interface GapBins {
  bins: { gap: number; count: number }[];
  /** In pixels. */
  height: number;
}

export function GapBars({ bins, height }: GapBins) {
  return (
    <BarChart
      width={278}
      height={height}
      data={bins}
      barCategoryGap={1}
      margin={{ top: 0, right: 0, bottom: 0, left: 0 }}
      accessibilityLayer={false}
    >
      <XAxis dataKey="gap" hide />
      <Bar
        dataKey="count"
        fill="var(--color-sea)"
        fillOpacity={0.75}
        radius={1}
        minPointSize={2}
        isAnimationActive={false}
      />
    </BarChart>
  );
}
