/** A dressing in words: one sentence for the whole, one short summary for each step. */
import type { Dressing, Placements, StepName } from "@/core/place";
import { formatValue, type Scene } from "@/core/scene";

/** A piece of the sentence; one with a step can be clicked to open it. */
export interface Phrase {
  text: string;
  step?: StepName;
}

/** Metres to the centimetre, and finer only below one. */
const metres = (value: number): string =>
  formatValue(Math.abs(value) < 1 ? value : Math.round(value * 100) / 100, "m").replace(" ", "\u00a0");
const degrees = (value: number): string => formatValue(value, "rad");

const listed = (names: readonly string[]): string =>
  names.length <= 2 ? names.join(" and ") : `${names.slice(0, 2).join(", ")} and ${names.length - 2} more`;

const lower = (name: string): string => name[0].toLowerCase() + name.slice(1);

const lineNames = (dressing: Dressing, scene: Scene): string[] =>
  dressing.where.lines.flatMap((id) => scene.lines.find((line) => line.id === id)?.name ?? []);

function propNames(dressing: Dressing, scene: Scene): string {
  const { entries, order } = dressing.what;
  const named = entries.flatMap((entry) => {
    if (entry.prop === null) return entry.count > 1 && order === "sequence" ? `${entry.count} × blank` : "blank";
    const prop = scene.props.find((p) => p.id === entry.prop);
    if (!prop) return [];
    const name = lower(prop.name);
    return order === "sequence" && entry.count > 1 ? `${entry.count} × ${name}` : name;
  });
  if (named.length === 0) return "no prop yet";
  if (named.length <= 3) return named.join(order === "mixed" ? " or " : ", ");
  return `${named.slice(0, 2).join(", ")} and ${named.length - 2} more`;
}

/** The widest turn that variation may give, radians. */
const widest = (dressing: Dressing): number =>
  Math.max(
    ...[dressing.variation.turnAlong, dressing.variation.turnAcross, dressing.variation.turnUp].flat().map(Math.abs),
  );

/** A share as “1 in n” where that is close, else in percent. */
function inWords(chance: number): string {
  const n = Math.round(1 / chance);
  return n >= 2 && Math.abs(1 / n - chance) < 0.004 ? `1\u00a0in\u00a0${n}` : formatValue(chance, "share");
}

export function sentence(dressing: Dressing, scene: Scene): Phrase[] {
  const { stance, fit, gaps } = dressing;
  const lines = lineNames(dressing, scene);
  const mixed = dressing.what.order === "mixed";
  const phrases: Phrase[] = [
    { text: stance.meets === "hang" ? "Hang" : "Stand" },
    { text: mixed ? ` a mix of ` : " " },
    { text: propNames(dressing, scene), step: "what" },
    { text: " along " },
    { text: lines.length > 0 ? listed(lines) : "no line yet", step: "where" },
    { text: " " },
    {
      text: spacingWords(dressing),
      step: "spacing",
    },
    { text: ", up from " },
    { text: { world: "the world", plumb: "the world, plumb", line: "the line" }[stance.up], step: "stance" },
  ];
  const away = [fit.along, fit.across, fit.up].some((value) => value !== 0);
  if (away) phrases.push({ text: ", " }, { text: offsetWords(dressing), step: "fit" });
  const loose = looseWords(dressing);
  if (loose) phrases.push({ text: ", loosened by " }, { text: loose, step: "variation" });
  if (gaps.chance > 0) phrases.push({ text: ", with " }, { text: `${inWords(gaps.chance)} blank`, step: "gaps" });
  phrases.push({ text: "." });
  return phrases;
}

function ordinal(n: number): string {
  const tens = n % 100;
  const ending = tens > 10 && tens < 14 ? "th" : (["th", "st", "nd", "rd"][n % 10] ?? "th");
  return `${n}${ending}`;
}

function spacingWords({ spacing }: Dressing): string {
  const { by, count, every, parts, list, measure } = spacing;
  if (by === "count") return `${count} to each line`;
  if (by === "divide") return `at ${every === 1 ? "each" : `every ${ordinal(every)}`} of ${parts} parts`;
  if (by === "knots") return "at each knot";
  if (by === "list") return `at ${list.length} ${list.length === 1 ? "place" : "places"}`;
  if (measure === "straight") return `every ${metres(spacing.distance)}, measured straight`;
  return `${spacing.remainder === "shared" ? "about every" : "every"} ${metres(spacing.distance)}`;
}

function offsetWords({ fit }: Dressing): string {
  const parts: string[] = [];
  if (fit.along !== 0) parts.push(`${metres(Math.abs(fit.along))} ${fit.along > 0 ? "on" : "back"}`);
  if (fit.across !== 0) parts.push(`${metres(Math.abs(fit.across))} to the ${fit.across > 0 ? "left" : "right"}`);
  if (fit.up !== 0) parts.push(`${metres(Math.abs(fit.up))} ${fit.up > 0 ? "up" : "down"}`);
  return parts.join(", ");
}

function looseWords(dressing: Dressing): string {
  const { variation } = dressing;
  const parts: string[] = [];
  if (variation.turnOn) parts.push(`±${degrees(widest(dressing))}`);
  if (variation.positionOn) {
    parts.push(`±${metres(Math.max(...[variation.along, variation.across, variation.up].flat().map(Math.abs)))}`);
  }
  if (variation.sizeOn) parts.push(`${variation.size.map((k) => formatValue(k, "number")).join("–")} times the size`);
  return parts.join(", ");
}

/** What each step says of itself when it is closed. */
export function summaries(
  dressing: Dressing,
  scene: Scene,
  placements: Placements | undefined,
): Record<StepName, string> {
  const lines = lineNames(dressing, scene);
  const length = placements ? placements.lineLengths.reduce((sum, l) => sum + l, 0) : 0;
  const { stance, spacing, variation, gaps } = dressing;
  const turned = [stance.turnAlong, stance.turnAcross, stance.turnUp].filter((turn) => turn !== 0);
  const offset = offsetWords(dressing);
  const loose = looseWords(dressing);
  const shown = placements ? placements.count - placements.blanks : 0;
  return {
    where:
      lines.length === 0
        ? "no line yet"
        : `${lines.length === 1 ? lines[0] : `${lines.length} lines`} · ${metres(length)}`,
    what: propNames(dressing, scene),
    spacing: placements ? `${placements.count} slots · ${shown} shown` : spacing.by,
    stance: `${stance.meets === "hang" ? "Hangs" : "Stands"}${turned.length > 0 ? ` · turned ${turned.map(degrees).join(", ")}` : ""}`,
    fit: offset || "On the line",
    variation: `${loose || "None"} · seed ${variation.seed}`,
    gaps: `${gaps.chance > 0 ? `${inWords(gaps.chance)} blank` : "None"}${dressing.pegs.length > 0 ? ` · ${dressing.pegs.length} pegged` : ""}`,
  };
}
