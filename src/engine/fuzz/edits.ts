/** Random edits of a scene, as an artist makes them: every parameter of every step, line and surface, and all else there is. */
import type { z } from "zod";
import { lineSchema, type Line } from "@/core/line";
import { madeSchema } from "@/core/made";
import { moversSchema, type Mover } from "@/core/movers";
import {
  addedKey,
  fieldIdsOf,
  hexOf,
  kindOf,
  lineKey,
  nextAdded,
  onOf,
  packed,
  STEP_NAMES,
  STEP_SCHEMAS,
  tagsOf,
  without,
} from "@/core/place";
import type { Dressing, Peg, Placements } from "@/core/place";
import { nextNumber } from "@/core/schema";
import type { Tie } from "@/core/tie";
import { inside, isAssembled, nestingTrouble, outside, preparationSchema, type Scene } from "@/core/scene";
import { FILES } from "./scene";
import { valueFor, type Dice, type Texts } from "./values";

/** What an edit gives: the scene after it, and what it was in words. */
export interface Edited {
  scene: Scene;
  what: string;
}

/** Every parameter of every step: its step, its name and its schema. */
export const PARAMETERS = STEP_NAMES.flatMap((step) =>
  Object.entries(STEP_SCHEMAS[step].shape as Record<string, z.ZodType>).map(([name, schema]) => ({
    step,
    name,
    schema,
  })),
);

/** Names of fields that hold ids of some sort. */
function textsOf({ lines, surfaces, dressings, props, mixes }: Scene): Texts {
  const ids = (things: readonly { id: string }[]) => [...things.map(({ id }) => id), "gone"];
  const sorts: [readonly string[], readonly string[]][] = [
    [["lines", "areas", "holes", "avoid", "line", "axisLine"], ids(lines)],
    [["surfaces", "volumes", "onto", "on"], ids(surfaces)],
    [["ontoProps", "clearOf"], ids(dressings)],
    [["prop", "first", "last", "corner", "nthProp"], ids([...props, ...mixes])],
    [["thing"], ids([...lines, ...surfaces])],
    [["to"], ids([...lines, ...surfaces, ...dressings])],
    [["dressing"], ids(dressings)],
    [
      ["snap", "toSnap"],
      ["hook", "top", "gone"],
    ],
    [["asset"], FILES.pictures],
    [
      ["tintFrom", "tintTo"],
      ["#aa3322", "#2244aa"],
    ],
  ];
  return (field) => sorts.find(([fields]) => fields.includes(field))?.[1] ?? ["pier", "sand"];
}

/** Numbers so small or so large that the small scene would be covered by thousands of things, and each edit take long. */
const DENSE: Readonly<Record<string, (value: number) => number>> = {
  distance: (value) => Math.max(0.8, value),
  count: (value) => Math.min(40, value),
  parts: (value) => Math.min(6, value),
  within: (value) => Math.min(2, value),
  gap: (value) => Math.max(-0.05, value),
  perArea: (value) => Math.min(1.5, value),
  perVolume: (value) => Math.min(1, value),
  width: (value) => Math.min(6, value),
  depth: (value) => Math.min(6, value),
  radius: (value) => Math.min(3, value),
  clusterRadius: (value) => Math.min(2, value),
};
/** The same for ranges. */
const DENSE_RANGES: Readonly<Record<string, number>> = { clusterCount: 4 };

/** A value as the small scene can have it. */
function bearable(name: string, value: unknown): unknown {
  if (typeof value === "number" && DENSE[name]) return DENSE[name](value);
  const most = DENSE_RANGES[name];
  return Array.isArray(value) && most ? value.map((one) => Math.min(most, one as number)) : value;
}

type Change = (scene: Scene, dice: Dice, nth: number, placed: (id: string) => Placements | undefined) => Edited | null;

const replaced = <T extends { id: string }>(list: readonly T[], thing: T): T[] =>
  list.map((one) => (one.id === thing.id ? thing : one));

const parameter: Change = (scene, dice, nth) => {
  const { step, name, schema } = PARAMETERS[nth % PARAMETERS.length];
  const all = dice.chance(0.35);
  const one = dice.below(scene.dressings.length);
  const values: string[] = [];
  const dressings = scene.dressings.map((dressing, i) => {
    if (!all && i !== one) return dressing;
    const value = bearable(name, valueFor(schema, name, dice, textsOf(scene)));
    values.push(`${dressing.id}: ${JSON.stringify(value)}`);
    return { ...dressing, [step]: { ...dressing[step], [name]: value } };
  });
  return { scene: { ...scene, dressings }, what: `${step}.${name} = ${values.join("; ")}` };
};

/** One parameter of something of which there are several kinds, each with its own schema. */
function partOf<T extends { kind: string }>(
  schema: z.ZodType,
  thing: T,
  dice: Dice,
  texts: Texts,
  except: string[],
): T {
  const options = (schema.def as unknown as { options: z.ZodObject[] }).options;
  const own = options.find(({ shape }) => (shape.kind as z.ZodLiteral).value === thing.kind)!;
  const names = Object.keys(own.shape).filter(
    (name) => !["id", "kind", "name", "number", "courses", ...except].includes(name),
  );
  const name = dice.pick(names);
  return { ...thing, [name]: bearable(name, valueFor(own.shape[name] as z.ZodType, name, dice, texts)) };
}

/** A tie to any surface or placement there is, also to what hangs on what it holds; or to none. */
function tieIn(scene: Scene, dice: Dice, placed: Parameters<Change>[3]): Tie {
  const stood = { position: [0, dice.share(), 0], rotation: [0, 0, 0, 1], scale: 1 } as const;
  const surface = dice.pick(scene.surfaces).id;
  if (dice.chance(0.5)) return { kind: "surface", surface, at: [dice.share(), 0, dice.share()], stood };
  if (dice.chance(0.4)) {
    const at = { by: dice.pick(["knot", "mark", "end"] as const), number: dice.below(3) };
    const member = dice.chance(0.3) ? { member: dice.pick(scene.lines).id } : {};
    return { kind: "line", line: dice.pick(scene.lines).id, ...member, at, stood };
  }
  const dressing = dice.pick(scene.dressings).id;
  const keys = placed(dressing)?.key ?? [];
  const key = keys.length > 0 && dice.chance(0.9) ? hexOf(keys[dice.below(keys.length)]) : "c0ffee";
  return {
    kind: "placement",
    dressing,
    key,
    stood,
    ...(dice.chance(0.5) && { snap: dice.pick(["hook", "top", "gone"]) }),
  };
}

const line: Change = (scene, dice, _, placed) => {
  const old = dice.pick(scene.lines);
  const place = () => [0, 1, 2].map(() => 4 * dice.share() - 2) as unknown as Line["knots"][0]["position"];
  const at = dice.below(old.knots.length);
  const knots = [...old.knots];
  const way = knots.length > 0 ? dice.below(7) : 5;
  if (way === 6) knots[at] = { ...knots[at], held: tieIn(scene, dice, placed) };
  else if (way === 0) knots[at] = { ...knots[at], position: place() };
  else if (way === 1 && "closed" in old) knots.splice(at, 0, { id: nextNumber(knots), position: place() });
  else if (way === 2 && knots.length > 2) knots.splice(at, 1);
  else if (way === 3) knots[at] = { ...knots[at], tag: dice.pick(["pier", "sand"]), roll: dice.share() };
  else if (way === 4) return renamed(scene, "lines", old);
  const edited = way !== 5 ? { ...old, knots } : partOf(lineSchema, old, dice, textsOf(scene), ["knots"]);
  return { scene: { ...scene, lines: replaced(scene.lines, edited as Line) }, what: `line ${old.id}, way ${way}` };
};

const surface: Change = (scene, dice, _, placed) => {
  const old = dice.pick(scene.surfaces);
  const turn = dice.share();
  const ways: Partial<typeof old>[] = [
    { position: [dice.share() - 0.5, dice.share() - 0.5, dice.share() - 0.5] },
    { rotation: [0, Math.sin(turn), 0, Math.cos(turn)] },
    { scale: 0.5 + dice.share() },
    { ground: !old.ground },
    { solid: !old.solid },
    { hidden: !old.hidden },
    { outline: !old.outline },
    { part: !old.part },
    old.made
      ? { made: partOf(madeSchema, old.made, dice, textsOf(scene), ["pieces", "along", "between", "rough", "rounds"]) }
      : { asset: dice.pick(FILES.surfaces) },
    old.made
      ? { made: partOf(madeSchema, old.made, dice, textsOf(scene), []) }
      : { standIn: dice.pick([null, ...FILES.surfaces]) },
    { movers: valueFor(moversSchema, "movers", dice, textsOf(scene)) as typeof old.movers },
    { movers: old.movers.map((mover) => ({ ...mover, gone: dice.share() }) as Mover) },
    { held: dice.chance(0.3) ? null : tieIn(scene, dice, placed) },
    { rest: dice.chance(0.3) ? undefined : { position: [0, dice.share(), 0], rotation: old.rotation, scale: 1 } },
  ];
  const way = dice.below(ways.length + 1);
  if (way === ways.length) return renamed(scene, "surfaces", old);
  return {
    scene: { ...scene, surfaces: replaced(scene.surfaces, { ...old, ...ways[way] }) },
    what: `surface ${old.id}: ${JSON.stringify(ways[way])}`,
  };
};

const prop: Change = (scene, dice) => {
  const old = dice.pick(scene.props);
  const { assembly } = old;
  const ways: Partial<typeof old>[] = [
    assembly
      ? { assembly: { ...assembly, each: dice.pick(["same", "varied"] as const), most: dice.below(4) } }
      : { asset: dice.pick(FILES.props) },
    { prepared: valueFor(preparationSchema, "prepared", dice, textsOf(scene)) as typeof old.prepared },
    { bounds: { min: [-0.2 * dice.share() - 0.05, 0, -0.2], max: [0.2, 0.1 + dice.share(), 0.2] } },
  ];
  const way = dice.below(ways.length + 1);
  if (way === ways.length) return renamed(scene, "props", old);
  return {
    scene: { ...scene, props: replaced(scene.props, { ...old, ...ways[way] }) },
    what: `prop ${old.id}, way ${way}`,
  };
};

const mix: Change = (scene, dice) => {
  const mixes = scene.mixes.map((one) => ({
    ...one,
    props: scene.props
      .flatMap(({ id }) => (dice.chance(0.7) ? { prop: id, weight: dice.below(4) } : []))
      .concat({ prop: "buoy", weight: 1 }),
  }));
  return { scene: { ...scene, mixes }, what: "mix" };
};

const peg: Change = (scene, dice, _, placed) => {
  const dressing = dice.pick(scene.dressings);
  const p = placed(dressing.id);
  const known = Object.keys(dressing.pegs);
  const { [known.length > 0 ? dice.pick(known) : ""]: gone, ...left } = dressing.pegs;
  if (gone && dice.chance(0.3)) return pegsOf(scene, dressing, left, `unpeg ${dressing.id}`);
  const { ordered: along, handled } = kindOf(dressing.where);
  const flat = [3 * dice.share() - 1, 2 * dice.share() - 1] as [number, number];
  const guides = along ? dressing.where.lines : [...tagsOf(dressing.where).keys()];
  if (!p || guides.length === 0) return null;
  const says: Partial<Peg> = dice.pick([
    { turn: dice.share(), stretch: [2, 1, 0.5] },
    { prop: dice.pick(["oar", "any", "gone"]) },
    { removed: true },
    { held: tieIn(scene, dice, placed) },
    along ? { at: 4 * dice.share() } : handled ? { flat } : { point: [dice.share(), dice.share(), dice.share()] },
  ]);
  const added = p.count === 0 || dice.chance(0.3);
  const where = along
    ? { at: 4 * dice.share() }
    : handled
      ? { flat }
      : { point: [2 * dice.share() - 1, dice.share(), 0.5] as const };
  const number = nextAdded(dressing.pegs, () => true);
  const on = added ? dice.pick(guides) : undefined;
  const line = scene.lines.find(({ id }) => id === on);
  if (added && along && !line) return null;
  const key = !added ? p.key[dice.below(p.count)] : line ? lineKey(line.number, number) : addedKey(number);
  const made = added ? { on, prop: "crate", ...where, added: true } : { on: onOf(dressing, key, scene.lines), ...says };
  if (made.on === undefined || dressing.pegs[hexOf(key)]) return null;
  return pegsOf(scene, dressing, { ...dressing.pegs, [hexOf(key)]: made as Peg }, `peg ${JSON.stringify(made)}`);
};

const pegsOf = (scene: Scene, dressing: Dressing, pegs: Dressing["pegs"], what: string): Edited => ({
  scene: { ...scene, dressings: replaced(scene.dressings, { ...dressing, pegs }) },
  what,
});

/** A stroke of a hand more, or part of one gathered. */
const sow: Change = (scene, dice) => {
  const dressing = dice.pick(scene.dressings.filter(({ where }) => kindOf(where).sows));
  if (!dressing) return null;
  const [first, ...rest] = dressing.sown;
  const number = 1 + Math.max(0, ...dressing.sown.map((one) => one.number));
  const points = Array.from({ length: 9 }, () => 3 * dice.share() - 1.5);
  const on = dice.pick([...fieldIdsOf(dressing.where), "gone"]);
  const left = first && without(first.places, [dice.below(3)]);
  const sown =
    first && dice.chance(0.5)
      ? left === ""
        ? rest
        : [...rest, { ...first, places: left }]
      : [...dressing.sown, { number, on, from: [0, 0.2, 0] as const, places: packed(points) }];
  const what = `sown ${dressing.id} ${JSON.stringify(sown)}`;
  return { scene: { ...scene, dressings: replaced(scene.dressings, { ...dressing, sown }) }, what };
};

/** Edges between dressings, so that there are circles of two and three. */
const circle: Change = (scene, dice) => {
  const [from, to] = [dice.pick(scene.dressings), dice.pick(scene.dressings)];
  const way = dice.below(4);
  const { fit, gaps } = from;
  const edited: Dressing = {
    ...from,
    fit:
      way === 0
        ? { ...fit, drop: "down", ontoProps: [to.id] }
        : way === 1
          ? { ...fit, clear: dice.pick(["footprint", "box", "mesh"] as const), clearOf: [to.id] }
          : way === 2
            ? { ...fit, ontoProps: [], clearOf: [] }
            : fit,
    gaps: way === 3 ? { ...gaps, distances: [{ id: 0, to: to.id, within: false, none: 0.2, full: 0.6 }] } : gaps,
  };
  return {
    scene: { ...scene, dressings: replaced(scene.dressings, edited) },
    what: `${from.id} minds ${to.id}, way ${way}`,
  };
};

/** Things go, come back and change places. */
const list: Change = (scene, dice) => {
  const name = dice.pick(["lines", "surfaces", "dressings", "props"] as const);
  const things: readonly { id: string }[] = scene[name];
  const way = dice.below(3);
  const at = dice.below(things.length);
  const id = `${things[at].id.slice(0, 20)}+`;
  if (way === 0)
    return { scene: { ...scene, [name]: [...things.slice(at), ...things.slice(0, at)] }, what: `${name} turned` };
  if (way === 1 && things.length > 3)
    return { scene: { ...scene, [name]: things.toSpliced(at, 1) }, what: `${name} less ${things[at].id}` };
  if (things.length > 6 || things.some((one) => one.id === id)) return null;
  const number = name === "lines" ? { number: 1 + Math.max(...scene.lines.map((one) => one.number)) } : {};
  return {
    scene: { ...scene, [name]: things.toSpliced(at, 0, { ...things[at], id, ...number }) },
    what: `${name} and ${id}`,
  };
};

function renamed(scene: Scene, list: "lines" | "surfaces" | "props" | "dressings", { id }: { id: string }): Edited {
  const things: readonly { id: string; name: string }[] = scene[list];
  return {
    scene: {
      ...scene,
      [list]: things.map((one) => (one.id === id ? { ...one, name: `${one.name.slice(0, 40)}'` } : one)),
    },
    what: `${id} renamed`,
  };
}

const name: Change = (scene, dice) => renamed(scene, "dressings", dice.pick(scene.dressings));

const CHANGES: readonly Change[] = [
  parameter,
  parameter,
  parameter,
  parameter,
  line,
  surface,
  prop,
  mix,
  peg,
  peg,
  sow,
  circle,
  list,
  name,
];

/** An edit of the scene, or of what is in one of its assemblies; none that would put one into itself. */
export function editAnywhere(...[scene, dice, nth, placed]: Parameters<typeof edit>): Edited {
  for (;;) {
    const whole = scene.props.filter((one) => isAssembled(one) && one.assembly.surfaces.length > 0);
    const assembly = whole.length > 0 && dice.chance(0.25) ? dice.pick(whole).id : null;
    const made = edit(inside(scene, assembly), dice, nth, placed);
    const next = outside(scene, made.scene);
    if (nestingTrouble(next) === null)
      return { scene: next, what: assembly ? `in ${assembly}, ${made.what}` : made.what };
  }
}

/** @param nth counts the edits, so that every parameter has its turn */
export function edit(scene: Scene, dice: Dice, nth: number, placed: (id: string) => Placements | undefined): Edited {
  for (;;) {
    const made = dice.pick(CHANGES)(scene, dice, nth, placed);
    if (made) return made;
  }
}
