/** A prop that is far too large or too small, or lies on its back: its file was made in other units, or with another axis up. */
import { metres, naming, say, thing, type Check, type Finding, type Mend, type OddProp } from "./finding";
import { isStanding } from "./rows";

const FACTORS: Readonly<Record<string, Mend>> = {
  0.01: "hundredth",
  0.001: "thousandth",
  100: "hundredfold",
  1000: "thousandfold",
};

export const oddProp: Check = {
  name: "odd-prop",
  label: "Odd prop",
  find({ dressing, placements: p, oddity }) {
    return p.props.flatMap((prop, index): Finding[] => {
      const odd = oddity(prop);
      if (!odd) return [];
      const members: number[] = [];
      for (let i = 0; i < p.count; i++) if (p.prop[i] === index && isStanding(p, i)) members.push(i);
      if (members.length === 0) return [];
      return [
        {
          check: "odd-prop",
          dressing: dressing.id,
          prop,
          ...naming(p, members),
          worst: odd.size,
          message: say`“${thing(prop, "prop")}” ${words(odd)}.`,
          mend: odd.kind === "lies" ? "stand-up" : FACTORS[odd.factor],
          orElse: "as-meant",
        },
      ];
    });
  },
};

function words({ kind, size, beside }: OddProp): string {
  if (kind === "lies") return `is ${metres(size)} long and lies on its back`;
  const others = beside === null ? "" : `; the others are about ${metres(beside)}`;
  return `is ${metres(size)} ${kind === "large" ? "large" : "small"}${others}`;
}
