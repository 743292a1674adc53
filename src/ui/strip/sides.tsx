"use client";
/** Left of the strip the spread of the gaps, right of it the mix by prop. */
import { useMemo, type ReactNode } from "react";
import { Bar, BarChart, XAxis } from "recharts";
import { FLAG, NO_PROP, type Dressing, type Placements } from "@/core/place";
import { useScene } from "@/store";
import { lookOf } from "../assets/models";
import { usePictureStore } from "../assets/pictures";
import { useFindings } from "../state/results";
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
  const lines = useScene((scene) => scene.lines);
  const spread = useMemo(() => spreadOf(placements, rows), [placements, rows]);
  const first = rows.filter((row) => row.row === 0);
  const total = first.reduce((sum, row) => sum + row.length, 0);
  const counts = [
    first.length > 1 ? `${first.length} lines, ` : "",
    rows.length > first.length ? `${rows.length} rows, ` : "",
  ].join("");
  const name = first.length === 1 ? (lines.find((line) => line.id === rows[0].line)?.name ?? "") : dressing.name;
  return (
    <div className="min-w-0 overflow-hidden border-r border-linen-2 px-4 py-3">
      <p className="truncate">
        <b className="font-semibold">{name}</b>{" "}
        <span className="text-ink-6">
          unrolled · {counts}
          {total.toFixed(2)} m
        </span>
      </p>
      {spread ? (
        <>
          <div className="my-2 [&_*]:outline-none" aria-hidden>
            <BarChart
              width={278}
              height={58}
              data={spread.bins}
              barCategoryGap={1}
              margin={{ top: 0, right: 0, bottom: 0, left: 0 }}
              accessibilityLayer={false}
            >
              <XAxis dataKey="gap" hide />
              <Bar
                dataKey="count"
                fill="#1e6f77"
                fillOpacity={0.75}
                radius={1}
                minPointSize={2}
                isAnimationActive={false}
              />
            </BarChart>
          </div>
          <p className="font-mono text-xs text-ink-6">
            gap {spread.least.toFixed(2)} – {spread.most.toFixed(2)} m · median {spread.median.toFixed(2)}
          </p>
        </>
      ) : (
        <p className="mt-2 text-xs text-ink-6">Gaps show here as soon as two props stand on the line.</p>
      )}
    </div>
  );
}

export function Legend({ dressing, placements: p }: { dressing: Dressing; placements: Placements }) {
  const props = useScene((scene) => scene.props);
  const pictures = usePictureStore((state) => state.pictures);
  const findings = useFindings(dressing.id);
  const { counts, pegged } = useMemo(() => {
    const counts = new Uint32Array(p.props.length);
    let pegged = 0;
    for (let i = 0; i < p.count; i++) {
      if (p.flags[i] & FLAG.pegged) pegged++;
      if (!(p.flags[i] & FLAG.blank) && p.prop[i] !== NO_PROP) counts[p.prop[i]]++;
    }
    return { counts, pegged };
  }, [p]);
  return (
    <ul
      className="grid content-start gap-1 overflow-y-auto border-l border-linen-2 px-3.5 py-3 text-xs text-ink-6"
      aria-label="Mix by prop"
    >
      {p.props.map((id, index) => {
        const prop = props.find((other) => other.id === id);
        const color = prop && pictures.get(lookOf(prop))?.color;
        return prop && counts[index] > 0 ? (
          <Item key={id} swatch={{ background: color ?? "#d8cbb3" }} name={prop.name} count={counts[index]} />
        ) : null;
      })}
      {p.blanks > 0 && (
        <Item
          swatch={{ background: "repeating-linear-gradient(45deg,#d8cbb3 0 2px,#fff 2px 4px)" }}
          name="Blank"
          count={p.blanks}
        />
      )}
      {pegged > 0 && <Item swatch={{ background: "#c98a1b", borderRadius: 9 }} name="Pegged by hand" count={pegged} />}
      {findings.length > 0 && <Item swatch={{ border: "2px solid #b5363f" }} name="Findings" count={findings.length} />}
    </ul>
  );
}

function Item({ swatch, name, count }: { swatch: React.CSSProperties; name: ReactNode; count: number }) {
  return (
    <li className="flex items-center gap-2">
      <span className="size-2.5 shrink-0 rounded-[3px]" style={swatch} />
      <span className="truncate">{name}</span>
      <span className="ml-auto font-mono text-[11px]">{count.toLocaleString("en")}</span>
    </li>
  );
}
