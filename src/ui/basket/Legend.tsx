"use client";
/** The mix of a dressing by prop, with what is blank, pegged and found: right of the strip and of the sheet. */
import { useMemo, type ReactNode } from "react";
import { FLAG, NO_PROP, type Dressing, type Placements } from "@/core/place";
import { useScene } from "@/store";
import { lookOf, usePictureStore } from "../assets";
import { useFindings } from "../state";

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
      className="grid content-start gap-1 overflow-y-auto border-l max-[959px]:hidden border-linen-2 px-3.5 py-3 text-xs text-ink-6"
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
          swatch={{
            background: "repeating-linear-gradient(45deg,var(--color-linen-3) 0 2px,var(--color-paper) 2px 4px)",
          }}
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
