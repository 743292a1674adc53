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

const MEETS = { bottom: "Stand", top: "Hang", centre: "Set", pivot: "Set" } as const;
const MEETING = { bottom: "Stands", top: "Hangs", centre: "By its centre", pivot: "By its pivot" } as const;
const UP_FROM = {
  world: "the world",
  plumb: "the world, plumb",
  line: "the line",
  roll: "the line’s roll",
  point: "a point",
} as const;

function propNames(dressing: Dressing, scene: Scene): string {
  const { entries, order } = dressing.what;
  const named = entries.flatMap((entry) => {
    if (entry.prop === null) return entry.count > 1 && order === "sequence" ? `${entry.count} × blank` : "blank";
    const prop = scene.props.find((p) => p.id === entry.prop) ?? scene.mixes.find((mix) => mix.id === entry.prop);
    if (!prop) return [];
    const name = lower(prop.name);
    return order === "sequence" && entry.count > 1 ? `${entry.count} × ${name}` : name;
  });
  if (named.length === 0) return "no prop yet";
  if (named.length <= 3) return named.join(order === "mixed" ? " or " : order === "turn" ? " and " : ", ");
  return `${named.slice(0, 2).join(", ")} and ${named.length - 2} more`;
}

/** Props of their own for some slots: “with rail post first, last and at corners”. */
function specialWords({ what }: Dressing, scene: Scene): Phrase[] {
  const places: [id: string | null, where: string][] = [
    [what.first, "first"],
    [what.last, "last"],
    [what.corner, "at corners"],
    [what.nthProp, `every ${ordinal(what.nth)}`],
    ...what.tagged.map(({ tag, prop }): [string | null, string] => [prop, `on ${tag}`]),
  ];
  const byProp = new Map<string, string[]>();
  for (const [id, where] of places) {
    const name = [...scene.props, ...scene.mixes].find((one) => one.id === id)?.name;
    if (name) byProp.set(name, [...(byProp.get(name) ?? []), where]);
  }
  const words = [...byProp].map(([name, where]) => `${lower(name)} ${and(where)}`);
  return words.length === 0 ? [] : [{ text: " with " }, { text: and(words), step: "what" }];
}

const and = (parts: readonly string[]): string =>
  parts.length < 2 ? parts.join("") : `${parts.slice(0, -1).join(", ")} and ${parts[parts.length - 1]}`;

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
  const { stance } = dressing;
  const lines = lineNames(dressing, scene);
  const mixed = dressing.what.order === "mixed";
  const phrases: Phrase[] = [
    { text: MEETS[stance.meetsUp] },
    { text: mixed ? ` a mix of ` : " " },
    { text: propNames(dressing, scene), step: "what" },
    ...specialWords(dressing, scene),
    { text: " along " },
    { text: lines.length > 0 ? listed(lines) : "no line yet", step: "where" },
    { text: " " },
    {
      text: spacingWords(dressing),
      step: "spacing",
    },
    { text: ", up from " },
    { text: UP_FROM[stance.up], step: "stance" },
  ];
  const faces = facingWords(dressing, scene);
  if (faces) phrases.push({ text: ", facing " }, { text: faces, step: "stance" });
  const fitted = fitWords(dressing);
  if (fitted) phrases.push({ text: ", " }, { text: fitted, step: "fit" });
  const loose = looseWords(dressing);
  if (loose) phrases.push({ text: ", loosened by " }, { text: loose, step: "variation" });
  const blank = gapWords(dressing);
  if (blank) phrases.push({ text: ", with " }, { text: blank, step: "gaps" });
  phrases.push({ text: "." });
  return phrases;
}

function ordinal(n: number): string {
  const tens = n % 100;
  const ending = tens > 10 && tens < 14 ? "th" : (["th", "st", "nd", "rd"][n % 10] ?? "th");
  return `${n}${ending}`;
}

function spacingWords({ spacing }: Dressing): string {
  const { by, count, every, parts, list, measure, gap, together } = spacing;
  if (by === "count") return together ? `${count} in all` : `${count} to each line`;
  if (by === "divide") return `at ${every === 1 ? "each" : `every ${ordinal(every)}`} of ${parts} parts`;
  if (by === "knots") return "at each knot";
  if (by === "list") return `at ${list.length} ${list.length === 1 ? "place" : "places"}`;
  if (by === "density") return `about every ${metres(spacing.distance)}, closer and wider along the line`;
  if (by === "end") {
    return gap === 0 ? "end to end" : `end to end, ${metres(Math.abs(gap))} ${gap > 0 ? "apart" : "over each other"}`;
  }
  if (measure === "straight") return `every ${metres(spacing.distance)}, measured straight`;
  const filled = spacing.remainder === "shared" || spacing.remainder === "stretched";
  return `${filled ? "about every" : "every"} ${metres(spacing.distance)}`;
}

function facingWords({ stance }: Dressing, scene: Scene): string {
  const { forward, heading, thing, point } = stance;
  if (forward === "along") return "";
  if (forward === "heading") return `heading ${degrees(heading)}`;
  const name = [...scene.lines, ...scene.surfaces].find(({ id }) => id === thing)?.name;
  const what = name ?? `the point ${point.map((value) => formatValue(value, "number")).join(", ")}`;
  return forward === "away" ? `away from ${what}` : what;
}

function groundWords({ fit }: Dressing): string {
  if (fit.drop === "off") return "";
  const way = {
    down: "on the ground",
    own: "on the ground along its own up",
    normal: "on the ground along its normal",
    nearest: "on the nearest ground",
  };
  const lean =
    fit.lean === 0 ? "" : fit.lean === 1 ? ", leaning with it" : `, leaning ${formatValue(fit.lean, "share")} with it`;
  const depth = fit.sink === 0 ? "" : `, ${metres(Math.abs(fit.sink))} ${fit.sink > 0 ? "deep" : "above it"}`;
  return `${way[fit.drop]}${lean}${depth}`;
}

function fitWords(dressing: Dressing): string {
  const { fit } = dressing;
  const parts = [groundWords(dressing), offsetWords(dressing)];
  if (fit.rows > 1) {
    parts.push(`in ${fit.rows} ${fit.stagger ? "staggered " : ""}rows ${metres(fit.rowDistance)} apart`);
  }
  if (fit.bend) parts.push("bent along it");
  if (fit.clip) parts.push("clipped at the ends");
  if (fit.clear !== "off") parts.push("kept clear");
  return parts.filter((part) => part !== "").join(", ");
}

function gapWords({ gaps }: Dressing): string {
  const parts: string[] = [];
  if (gaps.chance > 0) parts.push(`${inWords(gaps.chance)} blank`);
  if (gaps.runsOn) parts.push("runs of blanks");
  if (gaps.stretches.length > 0) {
    parts.push(gaps.stretches.length === 1 ? "a stretch held open" : `${gaps.stretches.length} stretches held open`);
  }
  if (gaps.avoid.length > 0) parts.push(`${metres(gaps.avoidBy)} kept off other lines`);
  if (gaps.atMost > 0) parts.push(`at most ${gaps.atMost}`);
  return parts.join(", ");
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
  if (variation.wanderOn) parts.push("wandering");
  if (variation.mirror > 0) parts.push("mirrored here and there");
  if (variation.tintOn) parts.push("tinted");
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
  const { stance, spacing, variation } = dressing;
  const turned = [stance.turnAlong, stance.turnAcross, stance.turnUp].filter((turn) => turn !== 0);
  const fitted = fitWords(dressing);
  const loose = looseWords(dressing);
  const shown = placements ? placements.count - placements.blanks : 0;
  return {
    where:
      lines.length === 0
        ? "no line yet"
        : `${lines.length === 1 ? lines[0] : `${lines.length} lines`}${placements ? ` · ${metres(length)}` : ""}`,
    what: propNames(dressing, scene),
    spacing: placements ? `${placements.count} slots · ${shown} shown` : spacing.by,
    stance: `${MEETING[stance.meetsUp]}${turned.length > 0 ? ` · turned ${turned.map(degrees).join(", ")}` : ""}`,
    fit: fitted ? fitted[0].toUpperCase() + fitted.slice(1) : "On the line",
    variation: `${loose || "None"} · seed ${variation.seed}`,
    gaps: `${gapWords(dressing) || "None"}${dressing.pegs.length > 0 ? ` · ${dressing.pegs.length} pegged` : ""}`,
  };
}
