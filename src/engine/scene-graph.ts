/** *A scene in a graph*: what an engine knows of it besides its dressings. Told what differs, it works out only what hangs on that. */
import { isWorthKeeping, unrollingsOf } from "./unrollings";
import { isPointCache, readPointCache, readTriangleMesh } from "@/core/files";
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
import { type MovedVertices, type PropBounds, type Shape, type Stand, type Unrolled } from "@/core/mesh";
import { isSolid } from "@/core/made";
import { stillKey, type Inside } from "@/core/place";
import { omit } from "@/core/schema";
import { movedShape, type MovedShape } from "@/core/movers";
import {
  applyChange,
  EMPTY_SCENE,
  isAssembled,
  seenParts,
  type Carries,
  type Prop,
  type PlacedScene,
  type SceneChange,
  type Surface,
} from "@/core/scene";
import { rawInside } from "./assemblies";
import { reached } from "./reached";
import { give } from "./given";
import { WHOLE } from "./scopes";
import { solidState, solvedInput, wanted, type SolidJob, type SolidState, type Solved } from "./solids";
import * as things from "./things";
import { members } from "./families";
import { carries } from "./ties";
import { toldSince, type Told } from "./told";

/** The scene that an engine holds, and what becomes of its lines, surfaces and props. */
export class SceneGraph {
  protected readonly graph: Graph;
  protected scene: PlacedScene = EMPTY_SCENE;
  #revision = 0;
  /** Where the vertices of surfaces that move were last. */
  #moved: ReadonlyMap<string, MovedVertices> = new Map();
  readonly #toldUnrolled = new WeakSet<Unrolled>();

  /** @param ignoring for tests: what does not count as an input */
  constructor(ignoring: Ignoring | null = null) {
    this.graph = new Graph(ignoring);
  }

  /** Takes in what differs from the scene that it has. @returns the ids of what is gone */
  protected give(change: SceneChange): ReturnType<typeof give> {
    const before = this.scene;
    this.scene = applyChange(before, change);
    this.#revision = change.revision;
    return give(this.graph, before, this.scene);
  }

  /** Counts the changes that it has been told. */
  get revision(): number {
    return this.#revision;
  }

  /** Names of the nodes and steps that ran for the last results. */
  get ran(): readonly string[] {
    return this.graph.ran;
  }

  /** Whether the mesh, picture or point cache of an asset is known. */
  knows(asset: string): boolean {
    return [things.meshInput, things.imageInput, things.cacheInput].some(
      (of) => this.graph.get<unknown>(of, asset) !== undefined,
    );
  }

  /**
   * Takes in the file of an asset: a mesh, a picture or a point cache.
   *
   * @throws InputError when it is damaged
   */
  async learnFile(asset: string, bytes: Uint8Array): Promise<void> {
    if (isPng(bytes)) this.graph.set(things.imageInput, asset, readRaster(bytes, "A mask"));
    else if (isPointCache(bytes)) this.graph.set(things.cacheInput, asset, readPointCache(bytes, "A point cache"));
    else this.learn(asset, await readTriangleMesh(bytes, "A surface's file"));
  }

  /** Takes in the mesh of an asset, for whatever stands on it or is dropped. */
  learn(asset: string, mesh: Shape): void {
    this.graph.set(things.meshInput, asset, mesh);
  }

  /** The assembly that is open, or the scene. */
  protected get scope(): string {
    return this.scene.beyond?.opened ?? WHOLE;
  }

  /** What the families of lines come to, by their ids. */
  get families(): ReadonlyMap<string, Members> {
    const families = (this.scene.lines as Line[]).filter(isFamily);
    return new Map(families.map(({ id }) => [id, this.graph.get(members, id)]));
  }

  /** All lines, for each family its members under its name and a number. */
  lines(): readonly Line[] {
    return (this.scene.lines as Line[]).flatMap((line): Line[] =>
      isFamily(line)
        ? this.graph.get(members, line.id).lines.map((one, i) => ({ ...one, name: nameOfMember(line.name, i) }))
        : [line],
    );
  }

  /** Where the lines lie that have been laid onto surfaces, by their ids. */
  get tracks(): ReadonlyMap<string, LaidTrack> {
    return new Map(
      this.lines().flatMap(({ id, laid }): [string, LaidTrack][] => {
        const track = laid && this.graph.get(things.track, id);
        return track ? [[id, track]] : [];
      }),
    );
  }

  /** How far all that is held has been carried, by the names of ties. */
  get carries(): Carries {
    return new Map(this.graph.get(carries, this.scope));
  }

  /** What assemblies hold as they are by themselves, in the coordinates of their dressings, by their ids. */
  get insides(): ReadonlyMap<string, Inside> {
    return new Map(
      this.scene.props.filter(isAssembled).flatMap(({ id }): [string, Inside][] => {
        const inside = this.graph.get(rawInside, id);
        return inside ? [[id, inside]] : [];
      }),
    );
  }

  /** The box of what an assembly holds, in the same coordinates; undefined where it is empty. */
  boxOf(id: string): PropBounds | undefined {
    return this.graph.get(things.insideBox, id);
  }

  /** A surface that is part of an assembly, as a prop; null as long as its mesh is not known. */
  partOf(id: string): Prop | null {
    return this.graph.get(things.prop, id) ?? null;
  }

  /** The mesh of a surface at rest, in its own coordinates; null as long as it is not known. */
  restMesh(id: string): Shape | null {
    return this.graph.get(things.restMesh, id)?.mesh ?? null;
  }

  /** Where a surface stands, with whatever holds it; null where there is none. */
  standOf(id: string): Stand | null {
    return this.graph.get(things.stand, id) ?? null;
  }

  /** What a prop's file looks like at a moment of one of its clips, with its {@link stillKey}; null where it has no such clip. */
  still(prop: string, clip: number, moment: number | null): [key: string, shape: MovedShape] | null {
    const asset = this.scene.props.find(({ id }) => id === prop)?.asset ?? null;
    if (asset === null || moment === null) return null;
    const key = stillKey(asset, clip, moment);
    const shape = this.graph.get(things.still, key);
    return shape ? [key, shape] : null;
  }

  /** The surfaces of what is open, and those that are seen in the assemblies there are. */
  get #seen(): readonly Surface[] {
    const parts = seenParts(this.scene.props.filter(({ id }) => id !== this.scope));
    return parts.length > 0 ? [...this.scene.surfaces, ...parts] : this.scene.surfaces;
  }

  /** The meshes of surfaces that are made of numbers and lines, in their own coordinates, by their ids. */
  get made(): ReadonlyMap<string, Shape> {
    return new Map(
      this.#seen.flatMap(({ id, made }): [string, Shape][] => {
        const rest = made && this.graph.get(things.restMesh, id);
        return rest ? [[id, rest.mesh]] : [];
      }),
    );
  }

  /** The meshes at rest of surfaces that have movers, in the coordinates of their files, by their ids. */
  get movable(): ReadonlyMap<string, Shape> {
    return new Map(
      this.#seen.flatMap(({ id, movers, made }): [string, Shape][] => {
        const rest = (movers.length > 0 || made?.kind === "band") && this.graph.get(things.restMesh, id);
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
      this.#seen.flatMap(({ id }): [string, MovedVertices][] => {
        const moved = this.graph.get(things.moved, id);
        return moved ? [[id, moved]] : [];
      }),
    );
    const { changed, gone } = toldSince(this.#moved, now);
    this.#moved = now;
    return {
      changed: changed.map(([id, moved]) => [
        id,
        movedShape(this.graph.get(things.restMesh, id)!, moved, this.graph.get(things.size, id)!),
      ]),
      gone,
    };
  }

  /** What is known of the surfaces that are made of closed bodies, by their ids. */
  get solids(): ReadonlyMap<string, SolidState> {
    const made = this.#seen.filter((one) => one.made !== null && isSolid(one.made));
    return new Map(made.map(({ id }) => [id, this.graph.get(solidState, id)]));
  }

  /** Whether any of some dressings hangs on a surface that is made of closed bodies. */
  hangOnSolids(dressings: readonly string[]): boolean {
    const solids = this.#seen.filter(({ made }) => made !== null && isSolid(made));
    if (solids.some(({ part }) => part)) return true;
    return dressings.some((id) => solids.some((one) => this.graph.get(reached, id).has(one.id)));
  }

  /** What is to be joined for a surface; null where there is nothing. */
  solidJob(id: string): SolidJob | null {
    return this.graph.get(wanted, id).job;
  }

  /** Takes in what was joined for a surface. */
  learnSolid(id: string, solved: Solved): void {
    this.graph.set(solvedInput, id, solved);
  }

  /** The mesh of a surface that is made; null for any other. */
  madeMesh(id: string): Shape | null {
    const made = this.scene.surfaces.some((one) => one.id === id && one.made !== null);
    return (made && this.graph.get(things.restMesh, id)?.mesh) || null;
  }

  /** The shape of a surface that has another one than at rest; null for any other. */
  shapeOf(id: string): MovedShape | null {
    const [moved, rest] = [this.graph.get(things.moved, id), this.graph.get(things.restMesh, id)];
    return moved && rest ? movedShape(rest, moved, this.graph.get(things.size, id)!) : null;
  }

  /** A line as it is drawn; null where there is none. */
  drawnLine(id: string): DrawnLine | null {
    const line = this.graph.get(things.line, id);
    const guide = line && this.graph.get(things.guide, id);
    return line && guide ? polygonOf(line, guide.curve, this.graph.get(things.track, id)) : null;
  }

  /** Takes in how a mesh was unrolled at another time, before it is needed. */
  learnUnrolling(name: string, unrolled: Unrolled): void {
    this.graph.set(things.keptInput, name, unrolled);
  }

  /** What has been unrolled here since the last call and is worth keeping, by its name. */
  unrolledSince(): [string, Unrolled][] {
    const solid = (id: string) => this.graph.get(things.solidName, id);
    return [...unrollingsOf(this.scene, solid)].flatMap(([id, name]): [string, Unrolled][] => {
      const unrolled = this.graph.get(things.restMesh, id)?.unrolledHere;
      if (!unrolled || this.#toldUnrolled.has(unrolled) || !isWorthKeeping(unrolled)) return [];
      this.#toldUnrolled.add(unrolled);
      return [[name, unrolled]];
    });
  }
}
