/**
 * *What surfaces made of closed bodies come to.* Their bodies are nodes like anything else; joining them takes longer than an
 * edit may, so what is to be joined is handed out as a job, and what it came to is taken in as an input. Until then what is to
 * be joined is shown side by side, or, where something is cut away, what was there last.
 */
import { hashOf } from "@/core/files";
import { input, query, step, type Ask } from "@/core/graph";
import type { GuideLine } from "@/core/line";
import type { Shell, Tube } from "@/core/made";
import { add, vectorAt, type Quat } from "@/core/math";
import { entryOf, shapedMesh, type Shape, type Stand, type TriangleMesh } from "@/core/mesh";
import { FLAG, worldMatrix, type Placements } from "@/core/place";
import { omit } from "@/core/schema";
import {
  closedBodies,
  creased,
  gathered,
  meetingEnds,
  MOST_BODIES,
  MOST_TRIANGLES,
  movedBody,
  sectionOf,
  shellOf,
  standingBody,
  tubeOf,
  type ClosedMesh,
  type JoinStep,
  type NamedMesh,
  type SolidFacts,
  type SolidTrouble,
} from "@/core/solid";
import { placements } from "./dressings";
import { ownDressing, ownSurface } from "./scopes";
import { reached } from "./reached";
import * as things from "./things";

/** What is to be joined for a surface. */
export interface SolidJob {
  /** Says all that goes in. */
  name: string;
  steps: JoinStep[];
}

/** What a job came to, by its name. */
export interface Solved {
  name: string;
  mesh: TriangleMesh;
  facts: SolidFacts;
}

/** What is known of a surface that is made of closed bodies. */
export interface SolidState {
  /** The job that it stands for; null where there is nothing to be joined. */
  job: string | null;
  troubles: SolidTrouble[];
  /** What the last job came to; of another one while this one is being done. */
  solved: Pick<Solved, "name" | "facts"> | null;
}

/** By the ids of surfaces: what was last worked out for each. */
export const solvedInput = input<Solved | undefined>("solved");

interface Bodies {
  bodies: readonly NamedMesh[];
  troubles: readonly SolidTrouble[];
}

const NONE: Bodies = { bodies: [], troubles: [] };

const bytesOf = (array: Float32Array | Uint32Array): Uint8Array =>
  new Uint8Array(array.buffer, array.byteOffset, array.byteLength);

const nameStep = step("name of body", (mesh: ClosedMesh): NamedMesh => ({
  name: hashOf(bytesOf(mesh.position)).slice(0, 32) + hashOf(bytesOf(mesh.index)).slice(0, 32),
  mesh,
}));
const standStep = step("standing body", standingBody);
const mendStep = step("closed bodies", closedBodies);
const shellStep = step("shell", shellOf);
const sectionStep = step("section of tube", sectionOf);
const endsStep = step("ends of tubes", meetingEnds);
const tubeStep = step("tube of line", tubeOf);
const creasedStep = step("creased body", creased);

/** The closed bodies of a mesh. */
function mended(ask: Ask, mesh: Shape, of: string): Bodies {
  const { bodies, open, crowded } = ask.step(mendStep, mesh);
  const troubles: SolidTrouble[] = [];
  if (open > 0) troubles.push({ kind: "open", of, edges: open });
  if (crowded > 0) troubles.push({ kind: "crowded", of, edges: crowded });
  if (bodies.length === 0 && troubles.length === 0) troubles.push({ kind: "empty", of });
  return { bodies: bodies.map((body) => ask.step(nameStep, body)), troubles };
}

const made = query("solid rules", (ask, id) => ask(ownSurface, id)?.made);

/** Whether a thing hangs on a surface, or is it. */
const hangsOn = (ask: Ask, thing: string, id: string): boolean => ask(reached, thing).has(id);

function tubes(ask: Ask, own: Tube, id: string): Bodies {
  const rules = omit(omit(own, "lines"), "outline");
  const troubles: SolidTrouble[] = [];
  const guideOf = (line: string): GuideLine[] => {
    if (!hangsOn(ask, line, id))
      return things.linesIn(ask, [line]).flatMap((one) => ask(things.guideAtRest, one) ?? []);
    troubles.push({ kind: "circle", of: line });
    return [];
  };
  const outline = own.section === "line" && own.outline !== null ? guideOf(own.outline).at(0) : undefined;
  const section = ask.step(sectionStep, rules, outline);
  if (!section) return { bodies: [], troubles: [...troubles, { kind: "outline", of: own.outline }] };
  const guides = own.lines.flatMap(guideOf);
  const meets = ask.step(endsStep, guides, own.radius);
  const bodies = guides.flatMap((guide, k) => {
    const tube = ask.step(tubeStep, rules, section, guide, meets[k]);
    if (tube.folded) troubles.push({ kind: "folded", of: guide.id });
    return tube.bodies.map((body) => ask.step(nameStep, body));
  });
  return { bodies, troubles };
}

function shell(ask: Ask, own: Shell, id: string): Bodies {
  if (own.of === null) return NONE;
  if (hangsOn(ask, own.of, id)) return { bodies: [], troubles: [{ kind: "circle", of: own.of }] };
  const mesh = ask(things.meshAtRest, own.of);
  if (!mesh) return { bodies: [], troubles: [{ kind: "empty", of: own.of }] };
  const { body, folded } = ask.step(shellStep, omit(own, "of"), mesh);
  if (!body) return { bodies: [], troubles: [{ kind: "empty", of: own.of }] };
  const { bodies, troubles } = mended(ask, { ...body, attributes: [] }, own.of);
  return { bodies, troubles: folded > 0 ? [...troubles, { kind: "folded", of: own.of }] : troubles };
}

/** The bodies of a surface in its own coordinates: of what is made of bodies itself those that go in. */
const ownBodies = query("own bodies", (ask, id): Bodies => {
  const own = ask(made, id);
  if (own?.kind === "tube") return tubes(ask, own, id);
  if (own?.kind === "shell") return shell(ask, own, id);
  const rest = ask(things.restMesh, id);
  return rest ? mended(ask, rest.mesh, id) : { bodies: [], troubles: [{ kind: "empty", of: id }] };
});

/** The same where the surface stands. */
const worldBodies = query("world bodies", (ask, id): Bodies => {
  const { bodies, troubles } = ask(ownBodies, id);
  const stand = ask(things.standAtRest, id);
  if (!stand || isNowhere(stand)) return { bodies, troubles };
  return { bodies: bodies.map(({ mesh }) => ask.step(nameStep, ask.step(standStep, mesh, stand))), troubles };
});

const isNowhere = ({ position, rotation, scale }: Stand): boolean =>
  scale === 1 && position.every((x) => x === 0) && rotation[3] === 1;

/** The closed bodies of a prop, as it is prepared. */
const propBodies = query("prop bodies", (ask, prop): Bodies => {
  const mesh = ask(things.preparedMesh, prop);
  return mesh ? mended(ask, mesh, prop) : NONE;
});

/** All that a dressing places, each at its place. */
const placedBodies = query("placed bodies", (ask, id): Bodies => {
  const placed = ask(placements, id);
  const own: ClosedMesh[] = [];
  const troubles: SolidTrouble[] = [];
  const props = placed?.props.map((prop) => ask(propBodies, prop)) ?? [];
  for (const prop of props) troubles.push(...prop.troubles.filter(({ kind }) => kind !== "empty"));
  for (let i = 0; placed && i < placed.count; i++) {
    if (placed.flags[i] & FLAG.blank) continue;
    if (own.length > MOST_BODIES) break;
    own.push(...bodiesAt(ask, placed, i, props));
  }
  if (own.length === 0) troubles.push({ kind: "empty", of: id });
  return { bodies: own.map((mesh) => ask.step(nameStep, mesh)), troubles };
});

function bodiesAt(ask: Ask, placed: Placements, i: number, props: readonly Bodies[]): ClosedMesh[] {
  const { origin, shapes, prop } = placed;
  const entry = entryOf(shapes, i);
  if (!shapes || entry < 0) {
    const matrix = worldMatrix(placed, i);
    return props[prop[i]].bodies.map(({ mesh }) => movedBody(mesh, matrix));
  }
  const mesh = ask(things.preparedMesh, placed.props[prop[i]]);
  if (!mesh) return [];
  const frame = shapes.frame.subarray(7 * entry, 7 * entry + 7);
  const position = add(origin, vectorAt(frame, 0));
  const rotation: Quat = [frame[3], frame[4], frame[5], frame[6]];
  const { bodies } = closedBodies(shapedMesh(mesh, shapes, shapes.form[entry]));
  return bodies.map((body) => standingBody(body, { position, rotation, scale: 1 }));
}

interface Wanted {
  job: SolidJob | null;
  troubles: SolidTrouble[];
}

const wantedOf = (steps: JoinStep[], troubles: readonly SolidTrouble[]): Wanted => {
  const all = steps.flatMap(({ bodies }) => bodies);
  const triangles = all.reduce((sum, { mesh }) => sum + mesh.index.length / 3, 0);
  if (all.length > MOST_BODIES || triangles > MOST_TRIANGLES)
    return { job: null, troubles: [...troubles, { kind: "many", bodies: all.length, triangles }] };
  if (steps.length === 0 || steps[0].bodies.length === 0) return { job: null, troubles: [...troubles] };
  const said = steps.map(({ how, bodies }) => `${how} ${bodies.map(({ name }) => name).join(" ")}`).join("\n");
  return { job: { name: hashOf(new TextEncoder().encode(said)), steps }, troubles: [...troubles] };
};

/** What is to be joined for a surface. */
export const wanted = query("solid wanted", (ask, id): Wanted => {
  const own = ask(made, id);
  if (own?.kind !== "solid") {
    const { bodies, troubles } = ask(ownBodies, id);
    return wantedOf(bodies.length > 0 ? [{ how: "join", bodies: [...bodies] }] : [], troubles);
  }
  const troubles: SolidTrouble[] = [];
  const steps = own.parts.flatMap(({ how, of }): JoinStep[] => {
    if (hangsOn(ask, of, id)) {
      troubles.push({ kind: "circle", of });
      return [];
    }
    const found = ask(ownDressing, of) ? ask(placedBodies, of) : ask(worldBodies, of);
    troubles.push(...found.troubles);
    return found.bodies.length > 0 ? [{ how, bodies: [...found.bodies] }] : [];
  });
  // Until something is joined there is nothing to cut from.
  const first = steps.findIndex((step) => step.how === "join");
  return wantedOf(first < 0 ? [] : steps.slice(first), troubles);
});

/** Bodies side by side, as they are before they are joined. */
function sideBySide(ask: Ask, bodies: readonly NamedMesh[]): Shape {
  const parts = bodies.map(({ mesh }) => ask.step(creasedStep, mesh));
  const { position, index } = gathered(parts);
  const normal = new Float32Array(position.length);
  let p = 0;
  for (const { attributes } of parts) {
    normal.set(attributes[0].array, p);
    p += attributes[0].array.length;
  }
  return { position, index, attributes: [{ name: "NORMAL", width: 3, array: normal }] };
}

things.solidMesh.is((ask, id) => {
  const { job } = ask(wanted, id);
  const last = ask(solvedInput, id);
  if (!job) return undefined;
  if (last?.name === job.name) return last.mesh;
  const onlyJoins = job.steps.every(({ how }) => how === "join");
  if (!onlyJoins && last) return last.mesh;
  return sideBySide(ask, onlyJoins ? job.steps.flatMap(({ bodies }) => bodies) : job.steps[0].bodies);
});

things.solidName.is((ask, id) => {
  const { job } = ask(wanted, id);
  return job && ask(solvedInput, id)?.name === job.name ? job.name : null;
});

export const solidState = query("solid state", (ask, id): SolidState => {
  const { job, troubles } = ask(wanted, id);
  const last = ask(solvedInput, id);
  return { job: job?.name ?? null, troubles, solved: last ? { name: last.name, facts: last.facts } : null };
});
