/**
 * *The engine: holds a scene, evaluates its dressings and remembers what it computed.* It runs in a worker for the
 * application and directly under Node; told what differs, it computes only what hangs on that.
 *
 *     const engine = new Engine();
 *     engine.update(changeBetween(null, scene, 1));
 *     engine.results(); // of all dressings; and the next time of those that came to something else
 */
import { flagged, type Finding } from "@/core/check";
import { standing, type Nest } from "@/core/files";
import { type Members } from "@/core/line";
import { Chart, type ChartTable, type TriangleMesh } from "@/core/mesh";
import { copyOf, drawnOf, FLAG, stillAt, type Drawn, type Expanded, type Placements, type Sight } from "@/core/place";
import { type MovedShape } from "@/core/movers";
import * as dressings from "./dressings";
import { changeBetween, type PlacedScene, type SceneChange } from "@/core/scene";
import { apart, innerFindings, nest, type InnerFinding } from "./assemblies";
import { isOfVariants } from "./scopes";
import * as things from "./things";
import { isNews, toldSince } from "./told";

import { SceneGraph } from "./scene-graph";

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

export class Engine extends SceneGraph {
  /** What has been handed over last, by the ids of dressings. */
  #told = new Map<string, Omit<DressingResult, "id">>();
  /** What families came to last. */
  #families: ReadonlyMap<string, Members> = new Map();

  /** Takes in what differs from the scene that it has. */
  update(change: SceneChange): void {
    const before = this.scene.beyond?.opened;
    for (const id of this.give(change)) this.#told.delete(id);
    // Whoever looks at something else is told all of it.
    if (before !== this.scene.beyond?.opened) this.#told.clear();
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
      drawn: drawnOf(apart?.placements ?? placements, (id) => this.graph.get(things.drawnBounds, id)),
    };
  }

  /**
   * The results of all dressings that came to something else since the last call; of all at the first.
   *
   * @param progress is told which dressing is being placed and how far all the work has come, from 0 to 1
   * @param looks whether anything is looked for that is wrong; if not, what was found last still holds
   */
  results(progress?: (dressing: string, share: number) => void, looks = true): DressingResult[] {
    this.graph.ran = [];
    const { sequence } = this.graph.get(dressings.order, this.scope);
    const names = progress && new Map(this.scene.dressings.map(({ id, name }) => [id, name]));
    const found = new Map<string, DressingResult>();
    sequence.forEach((id, n) => {
      this.graph.onProgress = (node, key, share) => {
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
    this.graph.onProgress = null;
    this.#forgetMembers();
    if (this.scene.props.some(({ assembly }) => assembly?.each === "varied")) this.graph.forgetLoose(isOfVariants);
    return this.scene.dressings.flatMap(({ id }) => found.get(id) ?? []);
  }

  /** The placements of one dressing, whatever is wrong with them; null where there is none. */
  placements(id: string): Placements | null {
    return this.graph.get(dressings.placements, id) ?? null;
  }

  /** What the sheet shows of a dressing besides, see {@link Sight}; the same object as long as it is the same. */
  sight({ dressing, flat }: LookedAt): Sight | null {
    this.graph.set(dressings.flatInput, dressing, flat);
    return this.graph.get(dressings.sight, dressing);
  }

  /** How many props stand in a dressing in the end, those in assemblies each for itself. */
  standing(id: string): number {
    const placed = this.graph.get(apart, id)?.placements ?? this.placements(id);
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
      apart: this.graph.get(apart, id),
      findings: found ?? this.graph.get(dressings.findings, id),
    };
    this.graph.trim(MEMORY);
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
    this.update(changeBetween(this.scene, scene, this.revision + 1));
  }

  /**
   * What pokes through surfaces, by the ids of dressings. It takes longer than all the rest, so it asks now and then whether
   * to go on; null once it is told not to, or when the scene changes meanwhile.
   *
   * @param only one dressing
   */
  async poking(goOn: () => Promise<boolean>, only?: string): Promise<Map<string, Finding[]> | null> {
    const found = new Map<string, Finding[]>();
    for (const { id } of this.scene.dressings) {
      if (only !== undefined && id !== only) continue;
      const poke = await this.graph.getSlowly(dressings.poking, id, goOn);
      if (!poke) return null;
      found.set(id, poke);
    }
    return found;
  }

  /** A dressing with its assemblies as such; null where there is none, or what is in them stands by itself. */
  nestOf(id: string): Nest | null {
    return this.graph.get(nest, id);
  }

  /** What is found inside the assemblies that stand in some dressings; in each assembly once, by the shortest way there. */
  innerFindings(ids = this.scene.dressings.map(({ id }) => id)): readonly InnerFinding[] {
    const ways = new Map<string, InnerFinding["path"]>();
    const found = ids.flatMap((id) => this.graph.get(innerFindings, id)).sort((a, b) => a.path.length - b.path.length);
    for (const { path } of found) if (!ways.has(path.at(-1)!)) ways.set(path.at(-1)!, path);
    return found.filter(({ path }) => ways.get(path.at(-1)!) === path);
  }

  /** The stills that props stand in, by {@link stillKey}. */
  get stills(): ReadonlyMap<string, MovedShape> {
    const out = new Map<string, MovedShape>();
    for (const { id } of this.scene.dressings) {
      const placed = this.graph.get(apart, id)?.placements ?? this.placements(id);
      if (!placed?.posed) continue;
      const { poses } = placed.posed;
      placed.props.forEach((prop, p) => {
        for (let k = 0; k < poses.from[p + 1] - poses.from[p]; k++) {
          const at = stillAt(poses, p, k);
          const still = at && this.still(prop, at.clip, at.moment);
          if (still) out.set(...still);
        }
      });
    }
    return out;
  }

  /** The surfaces that a dressing is charted on, where it is looked at so. */
  chartsUnder(looked: LookedAt): [string, ChartedSurface][] {
    const placed = this.placements(looked.dressing);
    if (!placed || !this.sight(looked)?.charted) return [];
    return placed.fields.flatMap((id): [string, ChartedSurface][] => {
      const ground = this.graph.get(things.worldMesh, id);
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
      for (const { id } of lines) if (!present.has(id)) this.graph.forget(id);
    this.#families = now;
  }
}
