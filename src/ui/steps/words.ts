/** A dressing in words: one sentence for the whole, one short summary for each step. */
import { formatValue } from "@/core/schema";
import { heightsOf, kindOf, fieldIdsOf, type Dressing, type Placements, type StepName } from "@/core/place";
import { paramAt, type Scene } from "@/core/scene";

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

const namesOf = (ids: readonly string[], things: readonly { id: string; name: string }[]): string[] =>
  ids.flatMap((id) => things.find((thing) => thing.id === id)?.name ?? []);

/** The volumes or surfaces, or the areas where there are none. */
const fieldNames = ({ where }: Dressing, { surfaces, lines }: Scene): string[] =>
  namesOf(fieldIdsOf(where), [...surfaces, ...lines]);

/** Where the props are, with the word before it. */
function whereWords(dressing: Dressing, scene: Scene): { lead: string; text: string } {
  const { where } = dressing;
  if (kindOf(where).ordered) {
    const lines = lineNames(dressing, scene);
    return { lead: " along ", text: lines.length > 0 ? listed(lines) : "no line yet" };
  }
  const fields = fieldNames(dressing, scene);
  if (kindOf(where).pins) {
    const pinned = namesOf(where.surfaces, scene.surfaces);
    return { lead: " pinned to ", text: pinned.length > 0 ? listed(pinned) : "nothing yet" };
  }
  if (kindOf(where).laysOut) {
    const [carrier] = namesOf(where.surfaces, scene.surfaces);
    const lead = kindOf(where).handled ? " as a patch on " : " wrapped round ";
    return { lead, text: carrier ?? "no surface yet" };
  }
  if (!kindOf(where).ruled) return { lead: " ", text: "by hand" };
  if (kindOf(where).fills) return { lead: " inside ", text: fields.length > 0 ? listed(fields) : "no volume yet" };
  if (fields.length === 0) return { lead: " over ", text: "no surface yet" };
  const areas = where.surfaces.length > 0 ? namesOf(where.areas, scene.lines) : [];
  const holes = namesOf(where.holes, scene.lines);
  const within = areas.length > 0 ? ` within ${listed(areas)}` : "";
  return { lead: " over ", text: `${listed(fields)}${within}${holes.length > 0 ? `, but not ${listed(holes)}` : ""}` };
}

const MEETS = { bottom: "Stand", top: "Hang", centre: "Set", pivot: "Set" } as const;
const MEETING = { bottom: "Stands", top: "Hangs", centre: "By its centre", pivot: "By its pivot" } as const;
const UP_FROM = {
  world: "the world",
  plumb: "the world, plumb",
  line: "the line",
  roll: "the line’s roll",
  point: "a point",
  normal: "the surface",
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
function specialWords({ what, where }: Dressing, scene: Scene): Phrase[] {
  const alongLines: [id: string | null, where: string][] = [
    [what.first, "first"],
    [what.last, "last"],
    [what.corner, "at corners"],
    ...what.tagged.map(({ tag, prop }): [string | null, string] => [prop, `on ${tag}`]),
  ];
  const nth: [id: string | null, where: string] = [what.nthProp, `every ${ordinal(what.nth)}`];
  const places = kindOf(where).ordered ? [...alongLines, nth] : [nth];
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
  const place = whereWords(dressing, scene);
  const along = kindOf(dressing.where).ordered;
  const mixed = dressing.what.order === "mixed";
  const laid = layoutWords(dressing);
  const phrases: Phrase[] = [
    { text: MEETS[stance.meetsUp] },
    { text: mixed ? ` a mix of ` : " " },
    { text: propNames(dressing, scene), step: "what" },
    ...specialWords(dressing, scene),
    { text: place.lead },
    { text: place.text, step: "where" },
    { text: " " },
    laid === null
      ? { text: along ? spacingWords(dressing) : spreadWords(dressing), step: "spacing" }
      : { text: laid, step: "where" },
    ...(dressing.sown.length > 0 && kindOf(dressing.where).ruled && kindOf(dressing.where).sows
      ? ([{ text: " and " }, { text: "sown by hand", step: "where" }] as const)
      : []),
    ...stackedWords(dressing),
    { text: ", up from " },
    { text: upWords(dressing), step: "stance" },
  ];
  const faces = facingWords(dressing, scene);
  if (faces) phrases.push({ text: ", facing " }, { text: faces, step: "stance" });
  const fitted = fitWords(dressing);
  if (fitted) phrases.push({ text: ", " }, { text: fitted, step: "fit" });
  const loose = looseWords(dressing);
  // Amounts loosen it; that it is tinted or wanders says itself.
  const lead = /^[±\d]/.test(loose) ? ", loosened by " : ", ";
  if (loose) phrases.push({ text: lead }, { text: loose, step: "variation" });
  const blank = gapWords(dressing);
  if (blank) phrases.push({ text: ", with " }, { text: blank, step: "gaps" });
  phrases.push({ text: "." });
  const { pose } = dressing.variation;
  if (pose !== "off") phrases.splice(-1, 0, { text: ", " }, { text: POSES[pose], step: "variation" });
  const travel = travelWords(dressing);
  if (travel) phrases.splice(-1, 0, { text: ", " }, { text: travel, step: "spacing" });
  if (travel && stance.banks) phrases.splice(-1, 0, { text: ", " }, { text: "leaning into its bends", step: "stance" });
  const moving = movingWords(dressing);
  if (moving.length > 0)
    phrases.push({ text: " " }, ...moving, { text: `${moving.length === 1 ? " changes" : " change"} over time.` });
  return phrases;
}

/** How a rack is stacked: “, stacked 3 deep and 2 high on 4 levels”. */
function stackedWords({ where }: Dressing): Phrase[] {
  if (!kindOf(where).ordered || !where.stacked) return [];
  const range = ([low, high]: readonly [number, number], write: (value: number) => string) =>
    low === high ? write(low) : `${write(low)} to ${write(high)}`;
  const many = (way: "deep" | "high"): string => {
    if (where[`${way}By`] === "line") return `as ${way} as a line`;
    if (where[`${way}By`] === "number") return `${range(where[way], String)} ${way}`;
    return `${range(where[`${way}Into`], metres)} ${way}`;
  };
  const count = heightsOf(where).length;
  const levels = count > 1 ? ` on ${count} levels` : "";
  return [{ text: ", stacked " }, { text: `${many("deep")} and ${many("high")}${levels}`, step: "where" }];
}

/** How props whose files have clips stand, or play them. */
const POSES = { still: "posed", step: "all playing in step", own: "each playing its own clip" } as const;

/** How it goes along its lines. */
function travelWords({ where, spacing: { speed, onceIn, travelEnds } }: Dressing): string {
  if (!kindOf(where).ordered || (speed === 0 && onceIn === 0)) return "";
  const pace = onceIn !== 0 ? `once along in ${formatValue(onceIn, "s").replace(".00", "")}` : formatValue(Math.abs(speed), "m/s"); // prettier-ignore
  const way = speed < 0 && onceIn === 0 ? "going back" : "going along";
  const ends = { through: "", stay: ", staying at the end", back: ", there and back" }[travelEnds];
  return `${way} ${onceIn !== 0 ? pace.replace("once along ", "once ") : `at ${pace}`}${ends}`;
}

/** What changes over time, each with the step that it belongs to. */
function movingWords(dressing: Dressing): Phrase[] {
  const params = Object.keys(dressing.courses).flatMap((path) => {
    const param = paramAt("dressings", dressing, path);
    return param ? [{ text: param.label, step: path.split("/")[0] as StepName }] : [];
  });
  return params.flatMap((phrase, i) => {
    const between = i === 0 ? [] : [{ text: i === params.length - 1 ? " and " : ", " }];
    return [...between, i === 0 ? phrase : { ...phrase, text: lower(phrase.text) }];
  });
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
  if (by === "each")
    return {
      stretched: "one to each line, stretched to it",
      repeated: "end to end, fitted to each line",
      cut: "end to end, cut where each line ends",
      snaps: "one to each line, by its two ends",
    }[spacing.each];
  if (measure === "straight") return `every ${metres(spacing.distance)}, measured straight`;
  const filled = spacing.remainder === "shared" || spacing.remainder === "stretched";
  return `${filled ? "about every" : "every"} ${metres(spacing.distance)}`;
}

/** How many there are over a surface or inside a volume, and in which pattern. */
/** How a flat layout is laid out, where Where says that itself; null where Spacing does. */
function layoutWords({ where }: Dressing): string | null {
  const { kind, by, columns, rows, across, along, places } = where.patch.layout;
  if (!kindOf(where).laysOut || kind === "area") return null;
  if (kind === "list") return places.length === 1 ? "at 1 place" : `at ${places.length} places`;
  const apart = across === along ? metres(across) : `${metres(across)} by ${metres(along)}`;
  const filled = kindOf(where).handled ? "both" : by;
  if (filled === "distance") return `in rows, about ${apart} apart`;
  if (filled === "number") return `in ${rows} ${rows === 1 ? "row" : "rows"} of ${columns}`;
  return `in ${rows} ${rows === 1 ? "row" : "rows"} of ${columns}, ${apart} apart`;
}

function spreadWords({ where, spacing, pegs, sown }: Dressing): string {
  if (!kindOf(where).ruled) {
    const count = Object.values(pegs).filter(({ added }) => added).length;
    if (sown.length === 0) return `one by one, ${count} in all`;
    const sowing = kindOf(where).pins ? "sown by hand" : "as it was sown";
    return count > 0 ? `${sowing}, and ${count} one by one` : sowing;
  }
  const { pattern, amount, count, distance, perArea, perVolume, clusters } = spacing;
  const inside = kindOf(where).fills;
  const rows = inside
    ? { square: "in a grid", hexagonal: "packed" }
    : { square: "in squares", hexagonal: "in hexagons" };
  const how = { even: "evenly", random: "at random", uv: "in rows of UV", ...rows }[pattern];
  const many = {
    distance: `${metres(distance)} apart`,
    count: `${count} in all`,
    density: inside
      ? `${formatValue(perVolume, "number")} to the cubic metre`
      : `${formatValue(perArea, "number")} to the square metre`,
  }[amount];
  return `${how}, ${clusters ? "in clusters, " : ""}${many}`;
}

/** What gives up along a line or over a surface; what means nothing there goes by the world. */
function upWords({ stance, where }: Dressing): string {
  const { up, upBy } = stance;
  if (!kindOf(where).ruled && !kindOf(where).pins && up === "normal") return UP_FROM.world;
  const meant = kindOf(where).ordered || ["world", "normal", "point"].includes(up);
  if (!meant) return UP_FROM.world;
  if (up === "normal" && kindOf(where).fills) return "the middle";
  return up === "normal" && upBy < 1 ? `${formatValue(upBy, "share")} of the surface` : UP_FROM[up];
}

/** Ways forward that mean something along lines, over surfaces and inside volumes. */
export const FORWARDS: Readonly<Record<Dressing["where"]["kind"], readonly Dressing["stance"]["forward"][]>> = {
  along: ["along", "heading", "at", "away"],
  over: ["along", "heading", "at", "away", "downhill", "line", "uv", "v", "random"],
  wrapped: ["along", "heading", "at", "away", "downhill", "line", "uv", "v", "random"],
  patch: ["along", "heading", "at", "away", "downhill", "line", "uv", "v", "random"],
  pinned: ["along", "heading", "at", "away", "downhill", "line", "uv", "v", "random"],
  loose: ["along", "heading", "at", "away", "line", "random"],
  inside: ["along", "heading", "at", "away", "outward", "line", "random"],
};

function facingWords({ stance, where }: Dressing, scene: Scene): string {
  const { forward, heading, thing, point } = stance;
  if (forward === "along") return "";
  if (!FORWARDS[where.kind].includes(forward)) return "";
  if (forward === "outward") return "outward";
  if (forward === "uv" || forward === "v") return `along ${forward === "v" ? "v" : "u"}`;
  if (forward === "downhill") return "downhill";
  if (forward === "random") return "each its own way";
  if (forward === "line") return namesOf(thing === null ? [] : [thing], scene.lines)[0] ?? "the nearest line";
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
  if (!kindOf(dressing.where).ordered) {
    if (fit.bend && kindOf(dressing.where).onSurfaces) parts.push("bent over it");
    if (fit.clear !== "off") parts.push("kept clear");
    return parts.filter((part) => part !== "").join(", ");
  }
  if (fit.rows > 1) {
    parts.push(`in ${fit.rows} ${fit.stagger ? "staggered " : ""}rows ${metres(fit.rowDistance)} apart`);
  }
  if (fit.bend && !dressing.where.stacked) parts.push("bent along it");
  if (fit.clip && !dressing.where.stacked) parts.push("clipped at the ends");
  if (fit.clear !== "off") parts.push("kept clear");
  return parts.filter((part) => part !== "").join(", ");
}

/** Where on a surface nothing stands. */
function limitWords({ gaps, where }: Dressing): string[] {
  const parts: string[] = [];
  const inside = kindOf(where).fills;
  if (!kindOf(where).ruled) return parts;
  const range = ([low, high]: readonly [number, number], write: (value: number) => string) =>
    `${write(low)} to ${write(high)}`;
  if (gaps.slopeOn && !inside) parts.push(`slopes of ${range(gaps.slope, degrees)} only`);
  if (gaps.heightOn) parts.push(`heights of ${range(gaps.height, metres)} only`);
  if (gaps.facingOn && !inside) parts.push(`only what faces ${degrees(gaps.facing)}`);
  if (gaps.distances.length > 0) {
    parts.push(`${gaps.distances.length} ${gaps.distances.length === 1 ? "thing" : "things"} kept off`);
  }
  if (inside) return parts;
  const masks = gaps.images.length + (gaps.colours.on ? 1 : 0);
  if (masks > 0) parts.push(masks === 1 ? "a mask" : `${masks} masks`);
  if (gaps.paint.strokes.length > 0 || gaps.paint.base === "none") parts.push("a painted mask");
  if (gaps.edge > 0) parts.push(`fading over ${metres(gaps.edge)} at the edge`);
  return parts;
}

function gapWords(dressing: Dressing): string {
  const { gaps, where } = dressing;
  const parts: string[] = [];
  if (gaps.chance > 0) parts.push(`${inWords(gaps.chance)} blank`);
  if (kindOf(where).fills && gaps.walls > 0) parts.push(`${metres(gaps.walls)} kept from the walls`);
  if (!kindOf(where).ordered) return [...parts, ...limitWords(dressing), ...mostWords(gaps)].join(", ");
  if (where.stacked && gaps.taken > 0) parts.push(`${formatValue(gaps.taken, "share")} taken from the front`);
  if (gaps.runsOn) parts.push("runs of blanks");
  if (gaps.stretches.length > 0) {
    parts.push(gaps.stretches.length === 1 ? "a stretch held open" : `${gaps.stretches.length} stretches held open`);
  }
  if (gaps.avoid.length > 0) parts.push(`${metres(gaps.avoidBy)} kept off other lines`);
  return [...parts, ...mostWords(gaps)].join(", ");
}

const mostWords = ({ atMost }: Dressing["gaps"]): string[] => (atMost > 0 ? [`at most ${atMost}`] : []);

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

const UNFITTED = {
  along: "On the line",
  over: "On the surface",
  inside: "In the volume",
  pinned: "Where it was pinned",
  patch: "On the surface",
  wrapped: "On the surface",
  loose: "Where it was put",
} as const;

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
  const { kind } = dressing.where;
  const pegs = Object.keys(dressing.pegs).length;
  const sown = dressing.sown.length > 0 ? ", sown" : "";
  return {
    where: !kindOf({ kind }).ordered
      ? `${whereWords(dressing, scene).text}${sown}`
      : lines.length === 0
        ? "no line yet"
        : `${lines.length === 1 ? lines[0] : `${lines.length} lines`}${placements ? ` · ${metres(length)}` : ""}`,
    what: propNames(dressing, scene),
    spacing: placements
      ? `${placements.count.toLocaleString("en")} slots · ${shown.toLocaleString("en")} shown`
      : spacing.by,
    stance: `${MEETING[stance.meetsUp]}${turned.length > 0 ? ` · turned ${turned.map(degrees).join(", ")}` : ""}`,
    fit: fitted ? fitted[0].toUpperCase() + fitted.slice(1) : UNFITTED[kind],
    variation: `${[loose, variation.pose === "off" ? "" : POSES[variation.pose]].filter(Boolean).join(", ") || "None"} · seed ${variation.seed}`,
    gaps: `${gapWords(dressing) || "None"}${pegs > 0 ? ` · ${pegs} pegged` : ""}`,
  };
}
