/** What is worked out of the lines, surfaces and props of a scene: each a node by the thing's id. */
import { Space, Volume } from "@/core/host";
import { declared, input, query, step, type Ask } from "@/core/graph";
import type { Raster } from "@/core/image";
import { boundTrack, carriedTrack, edgesFollowed, laidTrack, surfacesUnder } from "@/core/lay";
import { GuideLine, isFamily, type Knot, type LaidOnEdges, type LaidTrack, type Line } from "@/core/line";
import { isSolid, linesOf, madeMesh, travelled } from "@/core/made";
import { add, scale, type Vec3 } from "@/core/math";
import {
  boxOfPlaces,
  Body,
  hullOf,
  RestMesh,
  WorldMesh,
  type MovedVertices,
  type PropBounds,
  type Shape,
  type Stand,
  type TriangleMesh,
  type Unrolled,
} from "@/core/mesh";
import type { PointCache } from "@/core/rig";
import {
  cacheOf,
  fileMotionSchema,
  holdingWeight,
  isOn,
  movedShape,
  movedVertices,
  weightInputs,
  weightsTogether,
  type MovedShape,
  type Mover,
  type Weight,
} from "@/core/movers";
import { known, sharesAtVertices, type Hosts } from "@/core/place";
import { pick } from "@/core/schema";
import {
  besideOf,
  isSeenPart,
  longestOf,
  movedLine,
  oddityOf,
  partAsProp,
  placingBounds,
  preparationMatrix,
  preparedBounds,
  snapPointsOf,
  tieOfSurface,
  type Mix,
  type Oddity,
  type Prop,
} from "@/core/scene";
import { carriedPoint, carriedTurn, type Carry, type SnapPoint } from "@/core/tie";
import { prepareMesh } from "./prepared-mesh";
import { idsIn, idsInput, ownLine, ownSurface, scopeOf, surfaceInput } from "./scopes";
import { formOf, nameOfMesh, nameOfUnrolling, seamsOf } from "./unrollings";

/** Inputs by ids; undefined for what the scene does not have. */
export const propInput = input<Prop | undefined>("prop");
export const mixInput = input<Mix | undefined>("mix");
/** What files hold, by the hashes of their bytes. */
export const meshInput = input<Shape>("mesh file");
export const imageInput = input<Raster>("picture file");
export const cacheInput = input<PointCache>("point cache");

/** How far what holds a thing has carried it since it took hold, by the tie's name; null for not at all. Said in `ties.ts`. */
export const carry = declared<Carry | null>("carry");

/** The member of a family with an id; undefined where there is none. Said in `families.ts`. */
export const member = declared<Line | undefined>("member");
/** The ids of a family's members; null for any other line. Said there, too. */
export const memberIds = declared<readonly string[] | null>("member ids");

/** Lines by ids, for each family its members instead. */
export const linesIn = (ask: Ask, ids: readonly string[]): readonly string[] => {
  const each = ids.map((id) => ask(memberIds, id) ?? [id]);
  return each.every((one) => one.length === 1) ? ids : each.flat();
};

/** A line without its name, which nothing that is placed hangs on; its knots where what holds them has carried them. */
export const line = query("line rules", (ask, id): Line | undefined => {
  const own = ask(ownLine, id);
  if (!own) return ask(member, id);
  return { ...movedLine(own, (name) => ask(carry, name) ?? undefined), name: "" };
});

/** A line as it is sketched, before it is laid onto anything. */
export const sketched = query("sketched line", (ask, id) => {
  const own = ask(line, id);
  // A family runs nowhere itself.
  return own && !isFamily(own) ? new GuideLine(own) : undefined;
});

const ground = query("is ground", (ask, id) => ask(ownSurface, id)?.ground === true);
/** All that is ground, by the scope. */
export const grounds = query("grounds", (ask, scope): readonly string[] =>
  idsIn(ask, "surfaces", scope).filter((id) => ask(ground, id)),
);
/** All that is ground where something is. */
export const groundsFor = (ask: Ask, id: string): readonly string[] => ask(grounds, ask(scopeOf, id));

const AT_ORIGIN = { position: [0, 0, 0], rotation: [0, 0, 0, 1] } as const;

const form = query("surface form", (ask, id) => {
  const surface = ask(ownSurface, id);
  return surface && formOf(surface);
});

/** The mesh of a surface that is made of closed bodies, in its own coordinates. Said in `solids.ts`. */
export const solidMesh = declared<Shape | undefined>("solid mesh");
/** The job that joined it; null where that is not what is there. Said there, too. */
export const solidName = declared<string | null>("solid name");

/** Copies of copies are made no deeper than this. */
const DEEPEST = 32;

/** What a smoothed copy is a copy of; undefined where it would be one of itself in the end, or of too many others. */
const source = query("source of copy", (ask, id): RestMesh | undefined => {
  const seen = new Set([id]);
  const next = (of: string) => {
    const made = ask(form, of)?.made;
    return made?.kind === "smoothed" ? made.of : null;
  };
  const first = next(id);
  for (let of = first; of !== null; of = next(of)) {
    if (seen.has(of) || seen.size > DEEPEST) return undefined;
    seen.add(of);
  }
  return first === null ? undefined : ask(restMesh, first);
});

/** The mesh of a surface as it is in its file, or as it is made; made of lines as they are sketched. */
const uncutMesh = query("uncut mesh", (ask, id): RestMesh | undefined => {
  const { made, asset } = ask(form, id) ?? { made: null, asset: null };
  if (made && isSolid(made)) {
    const solid = ask(solidMesh, id);
    return solid && new RestMesh(solid);
  }
  const guides = made ? known(linesOf(made), (one) => ask(sketched, one)) : null;
  const mesh = made
    ? madeMesh(made, guides!, made.kind === "smoothed" ? ask(source, id)?.mesh : undefined)
    : asset === null
      ? undefined
      : ask(meshInput, asset);
  return mesh ? new RestMesh(mesh) : undefined;
});

const laying = query("laying", (ask, id) => ask(ownSurface, id)?.laying);

const cutMesh = step("cut mesh", (rest: RestMesh, taken: readonly LaidOnEdges[], kept: Unrolled | null): RestMesh => {
  if (kept) return new RestMesh(rest.mesh, undefined, kept);
  const own = WorldMesh.of("", rest, { ...AT_ORIGIN, scale: 1 });
  return new RestMesh(rest.mesh, Uint32Array.from(taken.flatMap((laid) => [...edgesFollowed(laid, own)])));
});

/** How meshes were unrolled at another time, by names; see `unrollings.ts`. */
export const keptInput = input<Unrolled | undefined>("kept unrolling");

/** What a surface's mesh is known by. */
const meshName = query("name of mesh", (ask, id): string | null =>
  nameOfMesh(
    id,
    (of) => ask(form, of),
    (line) => ask(ownLine, line),
    (of) => ask(solidName, of),
  ),
);

/** How the lines go along a surface's edges at which it is cut open. */
const seams = query("seams", (ask, id): readonly LaidOnEdges[] =>
  seamsOf(id, ask(laying, id), (line) => ask(ownLine, line)),
);

/** The same with the seams that were picked by hand. */
export const restMesh = query("rest mesh", (ask, id): RestMesh | undefined => {
  const rest = ask(uncutMesh, id);
  if (!rest) return undefined;
  const taken = ask(seams, id);
  const mesh = ask(meshName, id);
  const kept = mesh === null ? undefined : ask(keptInput, nameOfUnrolling(mesh, taken));
  return taken.length > 0 || kept ? ask.step(cutMesh, rest, taken, kept ?? null) : rest;
});

/** Where a surface stands by itself, whatever holds it. */
const ownStand = query("own stand", (ask, id): Stand | undefined => {
  const surface = ask(ownSurface, id);
  return surface && pick(surface, ["position", "rotation", "scale"]);
});

export const stand = query("stand", (ask, id): Stand | undefined => {
  const own = ask(ownStand, id);
  const by = own && ask(ownSurface, id)?.held ? ask(carry, tieOfSurface(id)) : null;
  return own && by
    ? { ...own, position: carriedPoint(by, own.position), rotation: carriedTurn(by, own.rotation) }
    : own;
});

/** Where a surface stands at the first moment. */
export const standAtRest = query("stand at rest", (ask, id) => ask(ownSurface, id)?.rest ?? ask(ownStand, id));

/** A surface before it moves: what lies on it is worked out there. */
export const meshAtRest = query("mesh at rest", (ask, id): WorldMesh | undefined => {
  const rest = ask(restMesh, id);
  return rest && WorldMesh.of(id, rest, ask(standAtRest, id)!, ask(laying, id));
});

const NO_MOVERS: readonly Mover[] = [];
const movers = query("movers", (ask, id) => (ask(ownSurface, id)?.movers ?? NO_MOVERS).filter(isOn));
const isBand = query("is band", (ask, id) => ask(ownSurface, id)?.made?.kind === "band");
const bends = query("bends", (ask, id) => ask(movers, id).length > 0 || ask(isBand, id));

/** Where the vertices of a surface are that travels, in its own metres; null for any other. */
const travelling = query("travelling vertices", (ask, id): Float64Array | null => {
  const made = ask(isBand, id) ? ask(ownSurface, id)?.made : null;
  return made
    ? travelled(
        made,
        known(linesOf(made), (one) => ask(sketched, one)),
      )
    : null;
});

/** What each mover's weight hangs on. */
const holdings = query("holdings", (ask, id) => ask(movers, id).map(weightInputs));
const limits = query("limits of movers", (ask, id) => ask(movers, id).map((mover) => mover.limits));

const weightStep = step("weight of mover", holdingWeight);
const limitStep = step("limits of mover", sharesAtVertices);

/** How much of each mover the vertices do. */
const weights = query("weights of movers", (ask, id): Weight[] => {
  const rest = ask(restMesh, id);
  if (!rest) return [];
  const within = ask(limits, id);
  return ask(holdings, id).map((holding, i) => {
    const held = holding && ask.step(weightStep, holding, rest, ask(size, id)!);
    const limit = within[i];
    if (!limit) return held;
    const to = limit.distances.map((distance) => distance.to);
    const around = {
      guides: known(to, (line) => ask(guideAtRest, line)),
      surfaces: known(to, (surface) => (surface === id ? undefined : ask(meshAtRest, surface))),
      placed: new Map(),
      images: known(
        limit.images.map(({ asset }) => asset),
        (asset) => ask(imageInput, asset),
      ),
    };
    return weightsTogether(held, ask.step(limitStep, limit, ask(meshAtRest, id)!, around));
  });
});

/** Where the vertices of a surface have gone, at its size and in its own directions; null where they have not. */
export const moved = query("moved vertices", (ask, id): MovedVertices | null => {
  const [all, from] = [ask(movers, id), ask(travelling, id)];
  const rest = all.length > 0 || from ? ask(restMesh, id) : undefined;
  if (!rest) return null;
  const each = ask(weights, id);
  return movedVertices(
    all.map((mover, i) => {
      const asset = cacheOf(mover);
      return { mover, weight: each[i], cache: asset === null ? undefined : ask(cacheInput, asset) };
    }),
    rest,
    ask(size, id)!,
    from ?? undefined,
  );
});

/** A surface as it is at the moment; the very same as at rest where it has not moved. */
export const worldMesh = query("world mesh", (ask, id): WorldMesh | undefined => {
  const [rest, now] = [ask(meshAtRest, id), ask(moved, id)];
  const elsewhere = ask(standAtRest, id) !== ask(stand, id);
  return rest && (now || elsewhere) ? rest.at(ask(stand, id)!, now) : rest;
});

/** Where a line lies that is laid onto surfaces at rest; null where it is not, or where there is nothing to lie on. */
const trackAtRest = query("track at rest", (ask, id): LaidTrack | null => {
  const own = ask(line, id);
  if (!own?.laid) return null;
  const under = surfacesUnder(own, { surface: (on) => ask(meshAtRest, on), grounds: () => groundsFor(ask, id) });
  return laidTrack(
    own,
    ask(sketched, id)!,
    under,
    under.some((mesh) => ask(bends, mesh.id)),
  );
});

const boundStep = step("bound track", boundTrack);

/** The same where its surfaces are at the moment. */
export const track = query("track", (ask, id): LaidTrack | null => {
  const own = ask(line, id);
  const rest = ask(trackAtRest, id);
  if (!own?.laid || !rest) return rest;
  const under = surfacesUnder(own, { surface: (on) => ask(meshAtRest, on), grounds: () => groundsFor(ask, id) });
  const now = under.map((mesh) => ask(worldMesh, mesh.id)!);
  return now.every((mesh, k) => mesh === under[k]) ? rest : carriedTrack(ask.step(boundStep, rest, under), now);
});

const onTrack = (ask: Ask, id: string, laid: LaidTrack | null): GuideLine | undefined =>
  laid ? new GuideLine(ask(line, id)!, laid) : ask(sketched, id);

/** A line as things are placed along it. */
export const guide = query("guide", (ask, id) => {
  const [laid, rest] = [ask(track, id), ask(trackAtRest, id)];
  return laid === rest ? ask(guideAtRest, id) : onTrack(ask, id, laid);
});

/** The same where its surfaces are at rest. */
export const guideAtRest = query("guide at rest", (ask, id) => onTrack(ask, id, ask(trackAtRest, id)));

export const size = query("surface size", (ask, id) => ask(ownSurface, id)?.scale);
const sizeAtRest = query("size at rest", (ask, id) => ask(standAtRest, id)?.scale);

/** The inside of a surface, wherever that stands. */
const space = query("space", (ask, id): Space | undefined => {
  const rest = ask(restMesh, id);
  const own = rest && WorldMesh.of(id, rest, { ...AT_ORIGIN, scale: ask(sizeAtRest, id)! });
  return own && new Space(own);
});

const volumeAtRest = query("volume at rest", (ask, id): Volume | undefined => {
  const mesh = ask(meshAtRest, id);
  return mesh && new Volume(mesh, ask(space, id));
});

/** The inside of a surface as it is at the moment. */
export const volume = query("volume", (ask, id): Volume | undefined => {
  const mesh = ask(worldMesh, id);
  const rest = ask(volumeAtRest, id);
  if (!mesh || mesh === rest?.ground) return rest;
  const stiff = !ask(bends, id) && ask(size, id) === ask(sizeAtRest, id);
  return stiff ? new Volume(mesh, ask(space, id)) : new Volume(mesh);
});

/** What things lie on before it moves. */
export const hostsAtRest = (ask: Ask): Hosts => ({
  guide: (id) => ask(guideAtRest, id),
  linesIn: (ids) => linesIn(ask, ids),
  surface: (id) => ask(meshAtRest, id),
  volume: (id) => ask(volumeAtRest, id),
});

/** Whether props may poke through a surface: not through water and what is only a space; and whether it is ground. */
export const wall = query("wall", (ask, id): { ground: boolean } | null => {
  const surface = ask(ownSurface, id);
  const solid = surface?.solid && !surface.hidden && !surface.outline;
  return solid ? { ground: surface.ground } : null;
});

export const wallBody = query("wall body", (ask, id): Body | undefined => {
  const mesh = ask(worldMesh, id);
  return mesh && new Body(mesh);
});

const middleOf = (knots: readonly Knot[]): Vec3 =>
  scale(
    knots.reduce<Vec3>((total, { position }) => add(total, position), [0, 0, 0]),
    1 / knots.length,
  );

/** The middle of a line or a surface, which stances may point at. */
export const middle = query("middle", (ask, id): Vec3 | undefined => {
  const knots = linesIn(ask, [id]).flatMap((one) => ask(line, one)?.knots ?? []);
  return ask(stand, id)?.position ?? (knots.length > 0 ? middleOf(knots) : undefined);
});

export const isAssembly = query("is assembly", (ask, id) => (ask(propInput, id)?.assembly ?? null) !== null);

/** The box of what an assembly holds, in the coordinates of its dressings; undefined where it is empty. Said in `assemblies.ts`. */
export const insideBox = declared<PropBounds | undefined>("box of assembly");
/** The mesh of all that an assembly holds, as it is prepared; undefined where that is too much. Said there, too. */
export const insideMesh = declared<TriangleMesh | undefined>("mesh of assembly");

/** A surface that is part of an assembly, as a prop; undefined for what is none, or as long as its mesh is not known. */
const seenPart = query("seen part", (ask, id): Prop | undefined => {
  const surface = ask(surfaceInput, id);
  const mesh = surface && isSeenPart(surface) ? ask(restMesh, id)?.mesh : undefined;
  return surface && mesh && partAsProp(surface, boxOfPlaces(mesh.position));
});

/** A prop, an assembly as large as what is in it. */
export const prop = query("prop as it is", (ask, id): Prop | undefined => {
  const own = ask(propInput, id) ?? ask(seenPart, id);
  const bounds = own?.assembly ? ask(insideBox, id) : undefined;
  return own && bounds ? { ...own, bounds } : own;
});

export const bounds = query("bounds", (ask, id) => {
  const own = ask(prop, id);
  return own && placingBounds(own);
});

/** The box of a prop as it is drawn. */
export const drawnBounds = query("drawn bounds", (ask, id) => {
  const own = ask(prop, id);
  return own && preparedBounds(own);
});

/** The longest sides of all props, rising. */
const propSizes = query("prop sizes", (ask): readonly number[] =>
  (ask(idsInput, "props") ?? []).map((id) => longestOf(ask(prop, id)!)).sort((a, b) => a - b),
);

/** What is odd about a prop. */
export const oddity = query("oddity", (ask, id): (Oddity & { beside: number | null }) | null => {
  const own = ask(prop, id);
  // An assembly is as large as it is.
  if (!own || own.assembly) return null;
  const sizes = ask(propSizes, "");
  const beside = besideOf(sizes, longestOf(own));
  const found = oddityOf(own, sizes.length > 2 ? beside : null);
  return found && { ...found, beside };
});

/** The snap points of a prop as it is prepared. */
export const snapPoints = query("snap points", (ask, id): readonly SnapPoint[] => {
  const own = ask(prop, id);
  return own ? snapPointsOf(own) : [];
});

export const mix = query("mix of props", (ask, id) => ask(mixInput, id)?.props);

const prepareStep = step("prepared mesh", prepareMesh);

/** A prop's mesh as it is prepared, where its file is known. */
export const preparedMesh = query("prepared prop", (ask, id): TriangleMesh | undefined => {
  const own = ask(propInput, id) ?? ask(seenPart, id);
  if (!own || own.assembly) return own && ask(insideMesh, id);
  const mesh = own.asset === null ? ask(restMesh, id)?.mesh : ask(meshInput, own.asset);
  return mesh && ask.step(prepareStep, mesh, preparationMatrix(own));
});

/** How long the clips of a prop's file are, seconds, where its file is known. */
export const clips = query("clips", (ask, id): readonly number[] => {
  const asset = ask(propInput, id)?.asset ?? null;
  return (asset === null ? undefined : ask(meshInput, asset)?.rig?.clips.map(({ seconds }) => seconds)) ?? [];
});

const fileMesh = query("mesh of file", (ask, asset): RestMesh | undefined => {
  const mesh = ask(meshInput, asset);
  return mesh && new RestMesh(mesh);
});

/** What a prop's file looks like at a moment of one of its clips, by the asset, the clip and the moment in seconds. */
export const still = query("still", (ask, key): MovedShape | undefined => {
  const [asset, clip, moment] = key.split(" ");
  const rest = ask(fileMesh, asset);
  if (!rest?.mesh.rig) return undefined;
  const mover = { ...fileMotionSchema.parse({ kind: "file", clip: Number(clip) }), id: 0, gone: Number(moment) };
  return movedShape(rest, movedVertices([{ mover, weight: null }], rest, 1), 1);
});

/** Corners of a prop's hull, in its own metres. */
export const hull = query("hull", (ask, id): Float32Array | undefined => {
  const mesh = ask(preparedMesh, id);
  return mesh && hullOf(mesh.position);
});

export const body = query("body", (ask, id): Body | undefined => {
  const mesh = ask(preparedMesh, id);
  return mesh && new Body(mesh);
});
