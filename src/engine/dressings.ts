/** What is worked out of the dressings of a scene: each a node by the dressing's id. */
import { findings as findingsOf, poking as pokingOf, type Finding, type Wall } from "@/core/check";
import { laidOf } from "@/core/line";
import { declared, firstly, input, part, query, task, type Ask, type Work } from "@/core/graph";
import { groundsUnder, type Grounds } from "@/core/mesh";
import {
  evaluated as evaluatedBy,
  known,
  propsAsGround,
  sightOf,
  type Dressing,
  type Evaluated,
  type Placements,
  type PropsAsGround,
  type Sight,
  type Sources,
} from "@/core/place";
import { emptyRoles, tieOfPeg } from "@/core/scene";
import { pick } from "@/core/schema";
import { orderOf, wishesOf, type Order, type Standing, type Wishes } from "./needs";
import { idsBeside, idsIn, isVariant, ownDressing, ownLine, plainId, scopeOf } from "./scopes";
import * as things from "./things";

/** Whether the surfaces of a dressing are to be laid flat as well. */
export const flatInput = input<boolean>("laid flat");

/** A dressing without its name, which nothing that is placed or found hangs on. */
export const rules = query("rules", (ask, id): Dressing | undefined => {
  const own = ask(ownDressing, id);
  return own && { ...own, name: "" };
});

const NO_WISHES: Wishes = { under: [], clear: [], distance: [] };

/** Whenever anything about a dressing changes, all others hang on that. */
const wishes = firstly("wishes", (ask, id) => {
  const own = ask(rules, id);
  return own ? wishesOf(own) : NO_WISHES;
});

/** In which order the dressings of a scope are placed, and which count for which. */
export const order = query("order", (ask, scope): Order => {
  const rail = idsIn(ask, "dressings", scope);
  return orderOf(rail, (id) => ask(wishes, id));
});

const ALONE: Standing = { counted: [], uncounted: [], circle: [] };
const standing = query("standing", (ask, id): Standing => ask(order, ask(scopeOf, id)).standing.get(id) ?? ALONE);

/** What is ground where a thing is. */
export const groundsAt = (ask: Ask, id: string): Grounds => ({
  surface: (surface) => ask(things.worldMesh, surface),
  grounds: () => things.groundsFor(ask, id),
});

/** What a dressing is worked out from. */
export function sourcesFor(ask: Ask, id: string): Sources {
  const counts = (other: string) => ask(standing, id).counted.includes(other);
  return {
    ...groundsAt(ask, id),
    rest: things.hostsAtRest(ask),
    guide: (line) => ask(things.guide, line),
    linesIn: (ids) => things.linesIn(ask, ids),
    lines: () => idsBeside(ask, "lines", id),
    volume: (surface) => ask(things.volume, surface),
    middle: (thing) => ask(things.middle, thing),
    bounds: (prop) => ask(things.bounds, prop),
    mix: (mix) => ask(things.mix, mix),
    assembled: (prop) => ask(things.isAssembly, prop),
    snaps: (prop) => ask(things.snapPoints, prop),
    hull: (prop) => ask(things.hull, prop),
    solid: (prop) => ask(things.preparedMesh, prop),
    body: (prop) => ask(things.body, prop),
    clip: (prop, clip) => ask(things.clips, prop)[clip] ?? null,
    image: (asset) => ask(things.imageInput, asset),
    placements: (other) => (counts(other) ? ask(placements, other) : undefined),
    propGround: (other) => (counts(other) ? ask(propGround, other)?.ground : undefined),
    carry: (key) => ask(things.carry, tieOfPeg(id, key)),
  };
}

/** Of variants there may be as many as there are uses: what is in between is not kept. */
export const forgetting = (ask: Ask): Pick<Ask, "step" | "progress"> => ({
  step: ({ run }, ...inputs) => run(...inputs),
  progress: ask.progress,
});

/** What a dressing comes to, and for those that can be looked at what that is made of. */
export const evaluated = query("evaluated", (ask, id): Evaluated | undefined => {
  const own = ask(rules, id);
  if (!own) return undefined;
  const isOne = ask(isVariant, id);
  const { placements, basis } = evaluatedBy(isOne ? forgetting(ask) : ask, own, sourcesFor(ask, id));
  return { placements, basis: isOne ? null : basis };
});

export const placements = part("placements", (ask, id): Placements | undefined => ask(evaluated, id)?.placements);

/** What there is to see of it besides. */
export const sight = query("sight", (ask, id): Sight | null => {
  const basis = ask(evaluated, id)?.basis;
  return basis ? sightOf(ask, basis, ask(flatInput, id) === true) : null;
});

/** Its props as ground for those of others. */
const propGround = query("prop ground", (ask, id): PropsAsGround | undefined => {
  const placed = ask(placements, id);
  return (
    placed &&
    propsAsGround(
      id,
      placed,
      (prop) => ask(things.preparedMesh, prop),
      (prop) => ask(things.bounds, prop),
    )
  );
});

/** What is wrong with the ties of a line or a surface. Said in `ties.ts`. */
export const lostTies = declared<readonly { trouble: "gone" | "circle"; holder: string }[]>("lost ties");

/** How many things in its assemblies are left out. Said in `assemblies.ts`. */
export const leftOut = declared<number>("left out");

const NO_ROLES: readonly string[] = [];

const rolesLeft = query("roles left empty", (ask, id): readonly string[] => {
  const own = plainId(ask, id);
  const assembly = ask(things.propInput, ask(scopeOf, own))?.assembly;
  return assembly ? emptyRoles(assembly, own) : NO_ROLES;
});

/** All that checks find on it, but for what pokes through. */
export const findings = query("findings", (ask, id): Finding[] => {
  const dressing = ask(rules, id);
  const placed = ask(placements, id);
  if (!dressing || !placed) return [];
  const { uncounted, circle, counted } = ask(standing, id);
  const { under } = ask(wishes, id);
  const below = under.filter((other) => counted.includes(other));
  const propGrounds = below.flatMap((other) => ask(propGround, other)?.ground ?? []);
  return findingsOf({
    dressing,
    placements: placed,
    line: (line) => ask(things.guide, line),
    box: (prop) => ask(things.bounds, prop),
    body: (prop) => (dressing.fit.clear === "mesh" ? ask(things.body, prop) : undefined),
    hull: (prop) => ask(things.hull, prop),
    oddity: (prop) => ask(things.oddity, prop),
    image: (asset) => ask(things.imageInput, asset) !== undefined,
    grounds:
      dressing.fit.drop === "off" ? [] : [...groundsUnder(dressing.fit.onto, groundsAt(ask, id)), ...propGrounds],
    fields: known(placed.fields, (surface) => ask(things.worldMesh, surface)),
    volume: (surface) => ask(things.volume, surface),
    circle,
    uncounted,
    leftOut: ask(leftOut, id),
    emptyRoles: ask(rolesLeft, id),
    ties: [...new Set([id, ...dressing.where.lines, ...dressing.where.surfaces])].flatMap((held) =>
      ask(lostTies, held).map(({ trouble, holder }) => ({
        held,
        holder: { id: holder, kind: ask(ownDressing, holder) ? ("dressing" as const) : ("guide" as const) },
        trouble,
      })),
    ),
    boxed: below.filter((other) => ask(propGround, other)?.boxed === true),
  });
});

/** What of a dressing bears on what pokes through, besides where its props stand. */
const pokedOf = ({ id, fit, stance, where }: Dressing) => ({
  id,
  fit: pick(fit, ["sink", "play", "up", "drop", "dropBy", "dropRest", "onto"]),
  stance: pick(stance, ["up", "upBy"]),
  where: pick(where, ["kind", "lines", "surfaces", "volumes"]),
});
type Poked = ReturnType<typeof pokedOf>;

const poked = query("poked", (ask, id): Poked | undefined => {
  const own = ask(rules, id);
  return own && pokedOf(own);
});

/** What of it pokes through surfaces, mesh against mesh. */
export const poking = task("poking", function* (ask, id): Work<Finding[]> {
  const dressing = ask(poked, id);
  const placed = ask(placements, id);
  if (!dressing || !placed) return [];
  const atIt = standsOn(ask, dressing);
  const walls = idsBeside(ask, "surfaces", id).flatMap((surface): Wall[] => {
    const solid = ask(things.wall, surface);
    if (!solid || dressing.where.volumes.includes(surface) || atIt(surface) === "onLine") return [];
    const mesh = ask(things.wallBody, surface);
    const carries = atIt(surface) === "stands";
    return mesh ? [{ id: surface, body: mesh, under: solid.ground || carries, carries }] : [];
  });
  if (walls.length === 0) return [];
  const bodies = placed.props.map((prop) => ask(things.body, prop));
  return yield* pokingOf(dressing, placed, bodies, walls);
});

/**
 * How a dressing's props are at a surface: they stand on what they are dropped onto or spread over, and are held to what
 * their lines lie on, wherever they have their pivots.
 */
function standsOn(ask: Ask, { id, where, fit }: Poked): (surface: string) => "stands" | "onLine" | null {
  const dropped = fit.drop === "off" ? [] : fit.onto.length > 0 ? fit.onto : things.groundsFor(ask, id);
  const standing = new Set([...dropped, ...where.surfaces]);
  const own = where.lines.flatMap((line) => ask(ownLine, line) ?? []);
  const laid = new Set(own.flatMap((one) => laidOf(one)?.on ?? []));
  return (surface) => (standing.has(surface) ? "stands" : laid.has(surface) && fit.drop === "off" ? "onLine" : null);
}
