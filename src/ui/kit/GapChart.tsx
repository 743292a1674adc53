"use client";
/** How often which gap occurs, as small bars. The numbers that matter stand in words beside it. */
import { Bar, BarChart, XAxis } from "recharts";

export function GapChart({ bins, height }: { bins: { gap: number; count: number }[]; height: number }) {
  return (
    <div className="my-1.5 [&_*]:outline-none" aria-hidden>
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
    </div>
  );
}
