/**
 * *The engine: holds a scene, evaluates its dressings and remembers what it computed.* It runs in a worker for the
 * application and directly under Node; told what differs, it computes only what hangs on that.
 *
 *     const engine = new Engine();
 *     engine.update(changeBetween(null, scene, 1));
 *     engine.results(); // of all dressings; and the next time of those that came to something else
 */
import { isWorthKeeping, unrollingsOf } from "./unrollings";
import { flagged, type Finding } from "@/core/check";
import { isPointCache, readPointCache, readTriangleMesh, standing, type Nest } from "@/core/files";
import { Graph, type Ignoring } from "@/core/graph";
import { isPng, readRaster } from "@/core/image";
import {
  isFamily,
  nameOfMember,
  polygonOf,
  type DrawnLine,
  type LaidTrack,
  type Line,
  type Members,
} from "@/core/line";
import {
  Chart,
  type ChartTable,
  type MovedVertices,
  type PropBounds,
  type Shape,
  type Stand,
  type TriangleMesh,
  type Unrolled,
} from "@/core/mesh";
import { isSolid } from "@/core/made";
import {
  copyOf,
  drawnOf,
  FLAG,
  momentOfStill,
  stillKey,
  type Drawn,
  type Expanded,
  type Inside,
  type Placements,
  type Sight,
} from "@/core/place";
import { omit } from "@/core/schema";
import { movedShape, type MovedShape } from "@/core/movers";
import * as dressings from "./dressings";
import {
  applyChange,
  changeBetween,
  EMPTY_SCENE,
  isAssembled,
  type Carries,
  type PlacedScene,
  type SceneChange,
} from "@/core/scene";
import { apart, innerFindings, nest, rawInside, type InnerFinding } from "./assemblies";
import { reached } from "./reached";
import { give } from "./given";
import { isOfVariants, WHOLE } from "./scopes";
import { solidState, solvedInput, wanted, type SolidJob, type SolidState, type Solved } from "./solids";
import * as things from "./things";
import { members } from "./families";
import { carries } from "./ties";
import { isNews, toldSince, type Told } from "./told";

/** What one dressing came to. */
export interface DressingResult {
  id: string;
  placements: Placements;
  /** The same with all assemblies taken apart; null where there is none among them. */
  apart: Expanded | null;
  findings: Finding[];
}

/** A dressing's result as it is handed over, with what there is to be drawn. */
export interface ShownResult extends DressingResult {
  drawn: Drawn;
}

/** A dressing that the sheet shows, and whether its surfaces are laid flat there. */
export interface LookedAt {
  dressing: string;
  flat: boolean;
}

/** A surface's mesh as it is in its file, and how its UVs lay it flat. */
export interface ChartedSurface {
  mesh: Pick<TriangleMesh, "index"> & { position: ArrayLike<number> };
  table: ChartTable;
}

/** A result in which it is marked which placements findings name, and all that is in them. */
export function withFindings(result: DressingResult): DressingResult {
  const { apart, findings } = result;
  const placements = { ...result.placements, flags: flagged(result.placements, findings) };
  if (!apart || placements.flags === result.placements.flags) return { ...result, placements };
  const flags = apart.placements.flags.map((flag, k) => flag | (placements.flags[apart.of[k]] & FLAG.finding));
  return { ...result, placements, apart: { ...apart, placements: { ...apart.placements, flags } } };
}

/** Intermediate results are given up beyond so many bytes. */
const MEMORY = 384 * 2 ** 20;

export class Engine {
  readonly #graph: Graph;
  #scene: PlacedScene = EMPTY_SCENE;
  #revision = 0;
  /** Where the vertices of surfaces that move were last. */
  #moved: ReadonlyMap<string, MovedVertices> = new Map();
  /** What has been handed over last, by the ids of dressings. */
  #told = new Map<string, Omit<DressingResult, "id">>();

  /** @param ignoring for tests: what does not count as an input */
  constructor(ignoring: Ignoring | null = null) {
    this.#graph = new Graph(ignoring);
  }

  /** What families came to last. */
  #families: ReadonlyMap<string, Members> = new Map();
  readonly #toldUnrolled = new WeakSet<Unrolled>();

  /** Counts the changes that it has been told. */
  get revision(): number {
    return this.#revision;
  }

  /** Names of the nodes and steps that ran for the last results. */
  get ran(): readonly string[] {
    return this.#graph.ran;
  }

  /** Whether the mesh, picture or point cache of an asset is known. */
  knows(asset: string): boolean {
    return [things.meshInput, things.imageInput, things.cacheInput].some(
      (of) => this.#graph.get<unknown>(of, asset) !== undefined,
    );
  }

  /**
   * Takes in the file of an asset: a mesh, a picture or a point cache.
   *
   * @throws InputError when it is damaged
   */
  async learnFile(asset: string, bytes: Uint8Array): Promise<void> {
    if (isPng(bytes)) this.#graph.set(things.imageInput, asset, readRaster(bytes, "A mask"));
    else if (isPointCache(bytes)) this.#graph.set(things.cacheInput, asset, readPointCache(bytes, "A point cache"));
    else this.learn(asset, await readTriangleMesh(bytes, "A surface's file"));
  }

  /** Takes in the mesh of an asset, for whatever stands on it or is dropped. */
  learn(asset: string, mesh: Shape): void {
    this.#graph.set(things.meshInput, asset, mesh);
  }

  /** Takes in what differs from the scene that it has. */
  update(change: SceneChange): void {
    const [before, now] = [this.#scene, applyChange(this.#scene, change)];
    this.#scene = now;
    this.#revision = change.revision;
    for (const id of give(this.#graph, before, now)) this.#told.delete(id);
    // Whoever looks at something else is told all of it.
    if (before.beyond?.opened !== now.beyond?.opened) this.#told.clear();
  }

  /** The assembly that is open, or the scene. */
  get #scope(): string {
    return this.#scene.beyond?.opened ?? WHOLE;
  }

  /** {@link results} as they are handed over: copies, since what is remembered stays here, with what there is to be drawn. */
  shown(...args: Parameters<Engine["results"]>): ShownResult[] {
    return this.results(...args).map((result) => this.drawn(result));
  }

  /** A result as it is handed over. */
  drawn(result: DressingResult): ShownResult {
    const { placements, apart } = result;
    return {
      ...result,
      placements: copyOf(placements),
      apart: apart && { ...apart, of: apart.of.slice(), placements: copyOf(apart.placements) },
      drawn: drawnOf(apart?.placements ?? placements, (id) => this.#graph.get(things.drawnBounds, id)),
    };
  }

  /**
   * The results of all dressings that came to something else since the last call; of all at the first.
   *
   * @param progress is told which dressing is being placed and how far all the work has come, from 0 to 1
   * @param looks whether anything is looked for that is wrong; if not, what was found last still holds
   */
  results(progress?: (dressing: string, share: number) => void, looks = true): DressingResult[] {
    this.#graph.ran = [];
    const { sequence } = this.#graph.get(dressings.order, this.#scope);
    const names = progress && new Map(this.#scene.dressings.map(({ id, name }) => [id, name]));
    const found = new Map<string, DressingResult>();
    sequence.forEach((id, n) => {
      this.#graph.onProgress = (node, key, share) => {
        if (node === dressings.evaluated.name && key === id)
          progress?.(names?.get(id) ?? "", (n + share) / sequence.length);
      };
      const told = this.#told.get(id);
      const result = this.result(id, looks ? null : (told?.findings ?? []))!;
      const same = (["placements", "apart", "findings"] as const).every((part) => told?.[part] === result[part]);
      if (same) return;
      this.#told.set(id, { placements: result.placements, apart: result.apart, findings: result.findings });
      found.set(id, withFindings(result));
    });
    this.#graph.onProgress = null;
    this.#forgetMembers();
    if (this.#scene.props.some(({ assembly }) => assembly?.each === "varied")) this.#graph.forgetLoose(isOfVariants);
    return this.#scene.dressings.flatMap(({ id }) => found.get(id) ?? []);
  }

  /** The placements of one dressing, whatever is wrong with them; null where there is none. */
  placements(id: string): Placements | null {
    return this.#graph.get(dressings.placements, id) ?? null;
  }

  /** What the sheet shows of a dressing besides, see {@link Sight}; the same object as long as it is the same. */
  sight({ dressing, flat }: LookedAt): Sight | null {
    this.#graph.set(dressings.flatInput, dressing, flat);
    return this.#graph.get(dressings.sight, dressing);
  }

  /** How many props stand in a dressing in the end, those in assemblies each for itself. */
  standing(id: string): number {
    const placed = this.#graph.get(apart, id)?.placements ?? this.placements(id);
    return placed ? standing(placed) : 0;
  }

  /**
   * What one dressing comes to, worked out only as far as it is not known; null where there is none.
   *
   * @param found what is wrong with it, instead of looking
   */
  result(id: string, found: Finding[] | null = null): DressingResult | null {
    const placements = this.placements(id);
    const result = placements && {
      id,
      placements,
      apart: this.#graph.get(apart, id),
      findings: found ?? this.#graph.get(dressings.findings, id),
    };
    this.#graph.trim(MEMORY);
    return result ?? null;
  }

  /**
   * Takes in a scene as a whole and gives the results of the dressings that came to something else.
   *
   * @param progress as for {@link results}
   */
  evaluate(scene: PlacedScene, progress?: (dressing: string, share: number) => void): DressingResult[] {
    this.take(scene);
    return this.results(progress);
  }

  /** Takes in a scene as a whole: what of it is still the same object, or has the same content, counts as unchanged. */
  take(scene: PlacedScene): void {
    this.update(changeBetween(this.#scene, scene, this.#revision + 1));
  }

  /**
   * What pokes through surfaces, by the ids of dressings. It takes longer than all the rest, so it asks now and then whether
   * to go on; null once it is told not to, or when the scene changes meanwhile.
   *
   * @param only one dressing
   */
  async poking(goOn: () => Promise<boolean>, only?: string): Promise<Map<string, Finding[]> | null> {
    const found = new Map<string, Finding[]>();
    for (const { id } of this.#scene.dressings) {
      if (only !== undefined && id !== only) continue;
      const poke = await this.#graph.getSlowly(dressings.poking, id, goOn);
      if (!poke) return null;
      found.set(id, poke);
    }
    return found;
  }

  /** What the families of lines come to, by their ids. */
  get families(): ReadonlyMap<string, Members> {
    const families = (this.#scene.lines as Line[]).filter(isFamily);
    return new Map(families.map(({ id }) => [id, this.#graph.get(members, id)]));
  }

  /** All lines, for each family its members under its name and a number. */
  lines(): readonly Line[] {
    return (this.#scene.lines as Line[]).flatMap((line): Line[] =>
      isFamily(line)
        ? this.#graph.get(members, line.id).lines.map((one, i) => ({ ...one, name: nameOfMember(line.name, i) }))
        : [line],
    );
  }

  /** Where the lines lie that have been laid onto surfaces, by their ids. */
  get tracks(): ReadonlyMap<string, LaidTrack> {
    return new Map(
      this.lines().flatMap(({ id, laid }): [string, LaidTrack][] => {
        const track = laid && this.#graph.get(things.track, id);
        return track ? [[id, track]] : [];
      }),
    );
  }

  /** How far all that is held has been carried, by the names of ties. */
  get carries(): Carries {
    return new Map(this.#graph.get(carries, this.#scope));
  }

  /** A dressing with its assemblies as such; null where there is none, or what is in them stands by itself. */
  nestOf(id: string): Nest | null {
    return this.#graph.get(nest, id);
  }

  /** What assemblies hold as they are by themselves, in the coordinates of their dressings, by their ids. */
  get insides(): ReadonlyMap<string, Inside> {
    return new Map(
      this.#scene.props.filter(isAssembled).flatMap(({ id }): [string, Inside][] => {
        const inside = this.#graph.get(rawInside, id);
        return inside ? [[id, inside]] : [];
      }),
    );
  }

  /** The box of what an assembly holds, in the same coordinates; undefined where it is empty. */
  boxOf(id: string): PropBounds | undefined {
    return this.#graph.get(things.insideBox, id);
  }

  /** What is found inside the assemblies that stand in some dressings; in each assembly once, by the shortest way there. */
  innerFindings(ids = this.#scene.dressings.map(({ id }) => id)): readonly InnerFinding[] {
    const ways = new Map<string, InnerFinding["path"]>();
    const found = ids.flatMap((id) => this.#graph.get(innerFindings, id)).sort((a, b) => a.path.length - b.path.length);
    for (const { path } of found) if (!ways.has(path.at(-1)!)) ways.set(path.at(-1)!, path);
    return found.filter(({ path }) => ways.get(path.at(-1)!) === path);
  }

  /** Where a surface stands, with whatever holds it; null where there is none. */
  standOf(id: string): Stand | null {
    return this.#graph.get(things.stand, id) ?? null;
  }

  /** The stills that props stand in, by {@link stillKey}. */
  get stills(): ReadonlyMap<string, MovedShape> {
    const out = new Map<string, MovedShape>();
    for (const { id, variation } of this.#scene.dressings) {
      const placed = variation.pose === "off" ? null : this.placements(id);
      if (!placed?.posed) continue;
      const { poses } = placed.posed;
      placed.props.forEach((prop, p) => {
        for (let k = 0; k < poses.stills; k++) {
          const still = this.still(prop, poses.clip, momentOfStill(poses, p, k));
          if (still) out.set(...still);
        }
      });
    }
    return out;
  }

  /** What a prop's file looks like at a moment of one of its clips, with its {@link stillKey}; null where it has no such clip. */
  still(prop: string, clip: number, moment: number | null): [key: string, shape: MovedShape] | null {
    const asset = this.#scene.props.find(({ id }) => id === prop)?.asset ?? null;
    if (asset === null || moment === null) return null;
    const key = stillKey(asset, clip, moment);
    const shape = this.#graph.get(things.still, key);
    return shape ? [key, shape] : null;
  }

  /** The meshes of surfaces that are made of numbers and lines, in their own coordinates, by their ids. */
  get made(): ReadonlyMap<string, Shape> {
    return new Map(
      this.#scene.surfaces.flatMap(({ id, made }): [string, Shape][] => {
        const rest = made && this.#graph.get(things.restMesh, id);
        return rest ? [[id, rest.mesh]] : [];
      }),
    );
  }

  /** The meshes at rest of surfaces that have movers, in the coordinates of their files, by their ids. */
  get movable(): ReadonlyMap<string, Shape> {
    return new Map(
      this.#scene.surfaces.flatMap(({ id, movers, made }): [string, Shape][] => {
        const rest = (movers.length > 0 || made?.kind === "band") && this.#graph.get(things.restMesh, id);
        // What moves it stays here.
        return rest ? [[id, omit(rest.mesh, "rig")]] : [];
      }),
    );
  }

  /**
   * The surfaces that have another shape than when this was last asked, as they are drawn, by their ids; and those that are at
   * rest again.
   */
  movedSince(): Told<MovedShape> {
    const now = new Map(
      this.#scene.surfaces.flatMap(({ id }): [string, MovedVertices][] => {
        const moved = this.#graph.get(things.moved, id);
        return moved ? [[id, moved]] : [];
      }),
    );
    const { changed, gone } = toldSince(this.#moved, now);
    this.#moved = now;
    return {
      changed: changed.map(([id, moved]) => [
        id,
        movedShape(this.#graph.get(things.restMesh, id)!, moved, this.#graph.get(things.size, id)!),
      ]),
      gone,
    };
  }

  /** What is known of the surfaces that are made of closed bodies, by their ids. */
  get solids(): ReadonlyMap<string, SolidState> {
    const made = this.#scene.surfaces.filter((one) => one.made !== null && isSolid(one.made));
    return new Map(made.map(({ id }) => [id, this.#graph.get(solidState, id)]));
  }

  /** Whether any of some dressings hangs on a surface that is made of closed bodies. */
  hangOnSolids(dressings: readonly string[]): boolean {
    const solids = this.#scene.surfaces.filter(({ made }) => made !== null && isSolid(made));
    return dressings.some((id) => solids.some((one) => this.#graph.get(reached, id).has(one.id)));
  }

  /** What is to be joined for a surface; null where there is nothing. */
  solidJob(id: string): SolidJob | null {
    return this.#graph.get(wanted, id).job;
  }

  /** Takes in what was joined for a surface. */
  learnSolid(id: string, solved: Solved): void {
    this.#graph.set(solvedInput, id, solved);
  }

  /** The mesh of a surface that is made; null for any other. */
  madeMesh(id: string): Shape | null {
    const made = this.#scene.surfaces.some((one) => one.id === id && one.made !== null);
    return (made && this.#graph.get(things.restMesh, id)?.mesh) || null;
  }

  /** The shape of a surface that has another one than at rest; null for any other. */
  shapeOf(id: string): MovedShape | null {
    const [moved, rest] = [this.#graph.get(things.moved, id), this.#graph.get(things.restMesh, id)];
    return moved && rest ? movedShape(rest, moved, this.#graph.get(things.size, id)!) : null;
  }

  /** A line as it is drawn; null where there is none. */
  drawnLine(id: string): DrawnLine | null {
    const line = this.#graph.get(things.line, id);
    const guide = line && this.#graph.get(things.guide, id);
    return line && guide ? polygonOf(line, guide.curve, this.#graph.get(things.track, id)) : null;
  }

  /** Takes in how a mesh was unrolled at another time, before it is needed. */
  learnUnrolling(name: string, unrolled: Unrolled): void {
    this.#graph.set(things.keptInput, name, unrolled);
  }

  /** What has been unrolled here since the last call and is worth keeping, by its name. */
  unrolledSince(): [string, Unrolled][] {
    return [...unrollingsOf(this.#scene)].flatMap(([id, name]): [string, Unrolled][] => {
      const unrolled = this.#graph.get(things.restMesh, id)?.unrolledHere;
      if (!unrolled || this.#toldUnrolled.has(unrolled) || !isWorthKeeping(unrolled)) return [];
      this.#toldUnrolled.add(unrolled);
      return [[name, unrolled]];
    });
  }

  /** The surfaces that a dressing is charted on, where it is looked at so. */
  chartsUnder(looked: LookedAt): [string, ChartedSurface][] {
    const placed = this.placements(looked.dressing);
    if (!placed || !this.sight(looked)?.charted) return [];
    return placed.fields.flatMap((id): [string, ChartedSurface][] => {
      const ground = this.#graph.get(things.worldMesh, id);
      const chart = ground && Chart.of(ground);
      return chart ? [[id, { mesh: ground.rest.mesh, table: chart.table }]] : [];
    });
  }

  /** Forgets members of families that are there no more. */
  #forgetMembers(): void {
    const now = this.families;
    if (!isNews(toldSince(this.#families, now))) return;
    const present = new Set([...now.values()].flatMap(({ lines }) => lines.map(({ id }) => id)));
    for (const { lines } of this.#families.values())
      for (const { id } of lines) if (!present.has(id)) this.#graph.forget(id);
    this.#families = now;
  }
}
