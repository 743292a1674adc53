/**
 * Version 9 knew the places of a patch by the surface that carried it as well. They are a layout's own: from version 10 on
 * they stay what they are on whatever surface it lies.
 */
type Json = Record<string, unknown>;

const isObject = (value: unknown): value is Json =>
  typeof value === "object" && value !== null && !Array.isArray(value);
/** Changes the objects of a list; whatever is none is left for the checks that follow. */
const each = (list: unknown, change: (thing: Json) => Json): unknown =>
  Array.isArray(list) ? list.map((thing: unknown) => (isObject(thing) ? change(thing) : thing)) : list;

/** The first 12 bits of a key are its surface's; those of what was added by hand are all set. */
const ADDED = "fff";
const OF_PATCH = "000";
const onAny = (key: string): string => (key.startsWith(ADDED) ? key : OF_PATCH + key.slice(OF_PATCH.length));

/** The scene with the pegs of its patches, and what is held by their placements, by the keys of version 10. */
export function patchesByPlace(scene: Json): Json {
  const patches = new Set<unknown>();
  const dressings = each(scene.dressings, (dressing) => {
    if (!isObject(dressing.where) || dressing.where.kind !== "patch") return dressing;
    patches.add(dressing.id);
    if (!isObject(dressing.pegs)) return dressing;
    const pegs = Object.fromEntries(Object.entries(dressing.pegs).map(([key, peg]) => [onAny(key), peg]));
    return { ...dressing, pegs };
  });
  if (patches.size === 0) return scene;
  const held = (thing: Json): Json => {
    const tie = thing.held;
    if (!isObject(tie) || !patches.has(tie.dressing) || typeof tie.key !== "string") return thing;
    return { ...thing, held: { ...tie, key: onAny(tie.key.padStart(16, "0")) } };
  };
  const lines = each(scene.lines, (line) => ({ ...line, knots: each(line.knots, held) }));
  return { ...scene, dressings, lines, surfaces: each(scene.surfaces, held) };
}
