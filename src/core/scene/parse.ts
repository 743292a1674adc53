/** Reading a scene from outside: version, migrations, validation. */
import { InputError, sentenceOf } from "../schema";
import { patchesByPlace } from "./patches-of-9";
import { allParts } from "./assemblies";
import { pegsByKey } from "./pegs-of-5";
import { COURSED, coursesComplaint } from "./course-paths";
import { SCENE_VERSION, sceneSchema, type Scene } from "./schema";

type Json = Record<string, unknown>;

/** Brings a scene of version `n` to version `n + 1`, by its index `n`. Version 1 is the first. */
const MIGRATIONS: Readonly<Record<number, (scene: Json) => Json>> = {
  1: meetsBySide,
  // Version 3 knows ground: what version 2 had stays as it is, and nothing is dropped.
  2: (scene) => ({ ...scene, version: 3 }),
  // Version 4 spreads things over surfaces: what version 3 had runs along lines.
  3: (scene) => ({ ...scene, version: 4 }),
  // Version 5 makes surfaces and fills spaces: what version 4 had comes from files.
  4: (scene) => ({ ...scene, version: 5 }),
  5: (scene) => pegsByKey(withLineNumbers(scene)),
  // Version 7 knows time: what version 6 had stands still.
  6: (scene) => ({ ...scene, version: 7 }),
  // Version 8 knows movers: what version 7 had keeps its shape.
  7: (scene) => ({ ...scene, version: 8 }),
  // Version 9 knows ties and clips: what version 8 had is held by nothing and stands as at rest.
  8: (scene) => ({ ...scene, version: 9 }),
  9: (scene) => ({ ...patchesByPlace(scene), version: 10 }),
  // Version 11 wraps layouts round surfaces and bends things over them: what version 10 had lies as it did, and stays stiff there.
  10: (scene) => ({ ...stiffOverSurfaces(scene), version: 11 }),
  // Version 12 makes surfaces of closed bodies: tubes, shells, solids.
  11: (scene) => ({ ...scene, version: 12 }),
  // Version 13 knows snap points and lines between them: what version 12 had has none, and its ties hold as they did.
  12: (scene) => ({ ...scene, version: 13 }),
  // Version 14 knows assemblies: what version 13 had are props from files.
  13: (scene) => ({ ...scene, version: 14 }),
};

/** Version 1 knew only whether props stand or hang; from 2 on any side of a prop may meet the line. */
function meetsBySide(scene: Json): Json {
  const side = (dressing: unknown): unknown => {
    if (!isObject(dressing) || !isObject(dressing.stance)) return dressing;
    const { meets, ...stance } = dressing.stance;
    const meetsUp = meets === undefined ? {} : { meetsUp: { stand: "bottom", hang: "top" }[meets as string] ?? meets };
    return { ...dressing, stance: { ...stance, ...meetsUp } };
  };
  return {
    ...scene,
    version: 2,
    dressings: Array.isArray(scene.dressings) ? scene.dressings.map(side) : scene.dressings,
  };
}

/** Until version 10 bending meant nothing but along lines, wherever its switch was left. */
function stiffOverSurfaces(scene: Json): Json {
  const stiff = (dressing: unknown): unknown => {
    if (!isObject(dressing) || !isObject(dressing.where) || !isObject(dressing.fit)) return dressing;
    const { kind = "along" } = dressing.where;
    return kind === "along" ? dressing : { ...dressing, fit: { ...dressing.fit, bend: false } };
  };
  return { ...scene, dressings: Array.isArray(scene.dressings) ? scene.dressings.map(stiff) : scene.dressings };
}

const isObject = (value: unknown): value is Json =>
  typeof value === "object" && value !== null && !Array.isArray(value);

/**
 * The scene that `data` describes, brought up to the present version, with defaults filled in.
 *
 * @throws InputError when it is no scene, of an unknown newer version, or has a field out of its limits
 */
export function parseScene(data: unknown): Scene {
  if (typeof data !== "object" || data === null || Array.isArray(data)) {
    throw new InputError("This is not a scene: scene.json does not hold an object.");
  }
  const scene = data as Json;
  const version = scene.version;
  if (typeof version !== "number" || !Number.isInteger(version) || version < 1) {
    throw new InputError("This is not a scene: it has no version number.");
  }
  if (version > SCENE_VERSION) {
    throw new InputError(
      `This scene was written by a newer Clothesline (version ${version}; this one reads up to ${SCENE_VERSION}). Open it with the newer one.`,
    );
  }
  const result = checked(scene, version);
  if (!result.success) throw new InputError(`The scene cannot be read: ${sentenceOf(result.error)}.`);
  const wrong = coursesOf(result.data);
  if (wrong) throw new InputError(`The scene cannot be read: ${wrong}.`);
  return result.data;
}

/** What is wrong with the courses of a scene's things, or null. */
function coursesOf(scene: Scene): string | null {
  const all = allParts(scene);
  for (const list of COURSED) {
    for (const thing of all[list]) {
      const wrong = coursesComplaint(list, thing);
      if (wrong) return `of “${thing.name}” ${wrong}`;
    }
  }
  return null;
}

function checked(scene: Json, version: number): ReturnType<typeof sceneSchema.safeParse> {
  try {
    let now = scene;
    for (let v = version; v < SCENE_VERSION; v++) now = MIGRATIONS[v](now);
    return sceneSchema.safeParse(numbered(now), { reportInput: true });
  } catch (error) {
    // With more faults than fit the stack there is no list of them.
    if (error instanceof RangeError)
      throw new InputError("The scene cannot be read: it is damaged in too many places.");
    throw error;
  }
}

/** The same in all assemblies. */
function numbered(scene: Json): Json {
  const props = Array.isArray(scene.props)
    ? scene.props.map((prop: unknown) =>
        isObject(prop) && isObject(prop.assembly) ? { ...prop, assembly: withLineNumbers(prop.assembly) } : prop,
      )
    : scene.props;
  return withLineNumbers({ ...scene, props });
}

/** Lines written by hand may leave out their number: they get the next free ones in their order. */
function withLineNumbers(scene: Json): Json {
  if (!Array.isArray(scene.lines)) return scene;
  const lines = scene.lines as Json[];
  let next = 0;
  for (const line of lines) if (typeof line?.number === "number") next = Math.max(next, line.number);
  return {
    ...scene,
    lines: lines.map((line) =>
      typeof line === "object" && line !== null && line.number === undefined ? { ...line, number: ++next } : line,
    ),
  };
}
