/**
 * *The engine: evaluates the dressings of a scene and remembers what it computed.* It runs in a worker for the application
 * and directly under Node; between two scenes it computes only what differs.
 */
import { isPng, readRaster, type Raster } from "@/core/image";
import { findings, poking, type Finding, type Wall } from "@/core/check";
import { readSolid } from "@/core/files";
import { groundsUnder, laidTrack } from "@/core/lay";
import { GuideLine, type Knot, type LaidTrack, type Line } from "@/core/line";
import { linesOf, madeMesh, type Made as MadeSurface } from "@/core/made";
import { add, scale, type Vec3 } from "@/core/math";
import {
  Body,
  Ground,
  UvChart,
  type ChartTable,
  type TriangleMesh,
  groundsFor,
  type GroundSurface,
  type PropBounds,
} from "@/core/mesh";
import {
  evaluateChanged,
  propsAsGround,
  StepMemory,
  type Dressing,
  type Placements,
  type PropsAsGround,
} from "@/core/place";
import { dressingsBefore, dressingsUnder, inOrder, measuredTo } from "./order";
import { bodyOf, prepareMesh, type PreparedMesh } from "./prepared-mesh";
import { isWall, propsCompared } from "./wanted";
import { placingBounds, preparationMatrix, type Prop, type Scene, type Surface } from "@/core/scene";

/** What one dressing came to. */
export interface DressingResult {
  id: string;
  placements: Placements;
  findings: Finding[];
}

/** A surface's mesh as it is in its file, and how its UVs lay it flat. */
export interface ChartedSurface {
  mesh: Pick<TriangleMesh, "position" | "index">;
  table: ChartTable;
}

/** The middles of lines and surfaces, which stances may point at. */
function middlesOf({ lines, surfaces }: Scene): Map<string, Vec3> {
  const middleOf = (knots: readonly Knot[]): Vec3 => {
    const sum = knots.reduce<Vec3>((total, { position }) => add(total, position), [0, 0, 0]);
    return scale(sum, 1 / knots.length);
  };
  return new Map([
    ...lines.map(({ id, knots }) => [id, middleOf(knots)] as const),
    ...surfaces.map(({ id, position }) => [id, position] as const),
  ]);
}

/** The lines, surfaces and areas that a dressing's findings may name. */
const guidesIn = ({ where }: Dressing): readonly string[] => [
  ...where.lines,
  ...where.surfaces,
  ...where.areas,
  ...where.volumes,
];

/** A copy of what is asked for later on, since the placements themselves go to another thread. */
const kept = (p: Placements): Placements => ({
  ...p,
  key: p.key.slice(),
  position: p.position.slice(),
  rotation: p.rotation.slice(),
  scale: p.scale.slice(),
  prop: p.prop.slice(),
  flags: p.flags.slice(),
});

const entryOf = <T>(id: string, value: T | undefined): [string, T][] => (value === undefined ? [] : [[id, value]]);

interface Remembered {
  memory: StepMemory;
  /** Names that findings speak of; when one changes, so do their sentences. */
  names: string;
  /** Its props, where another dressing's stand on them. */
  heap?: PropsAsGround;
  /** What it came to, where another dressing's props give way to them or they may poke through something. */
  placements?: Placements;
  /** What pokes through, and of what that was found. */
  poking?: { of: readonly unknown[]; found: Finding[] };
}

/** A line on surfaces, and what it was laid onto. */
interface LaidLine {
  /** The line as it is drawn. */
  drawn: GuideLine;
  under: readonly Ground[];
  track: LaidTrack | null;
  guide: GuideLine;
}

const sameItems = <T>(a: readonly T[], b: readonly T[]): boolean =>
  a.length === b.length && a.every((item, i) => item === b[i]);

/** What was made of a mesh, and with what. */
interface Made<T> {
  mesh: TriangleMesh;
  text: string;
  made: T;
}

export class Engine {
  #guides = new Map<string, { line: string; guide: GuideLine }>();
  readonly #meshes: Map<string, TriangleMesh>;
  readonly #images: Map<string, Raster>;
  #grounds = new Map<string, Made<Ground>>();
  #madeMeshes = new Map<string, { text: string; guides: (GuideLine | undefined)[]; mesh: TriangleMesh | null }>();
  #solids = new Map<string, Made<PreparedMesh>>();
  #laid = new Map<string, LaidLine>();

  /** @param other an engine whose meshes this one is to know too, and what was made of them and of lines */
  constructor(other?: Engine) {
    this.#meshes = other ? other.#meshes : new Map();
    this.#images = other ? other.#images : new Map();
    if (!other) return;
    this.#guides = other.#guides;
    this.#grounds = other.#grounds;
    this.#madeMeshes = other.#madeMeshes;
    this.#laid = other.#laid;
    this.#solids = other.#solids;
  }
  #dressings = new Map<string, Remembered>();

  /** Whether the mesh or picture of an asset is known. */
  knows(asset: string): boolean {
    return this.#meshes.has(asset) || this.#images.has(asset);
  }

  /**
   * Takes in the file of an asset, a mesh or a picture.
   *
   * @throws InputError when it is damaged
   */
  async learnFile(asset: string, bytes: Uint8Array): Promise<void> {
    if (isPng(bytes)) this.#images.set(asset, readRaster(bytes, "A mask"));
    else this.learn(asset, await readSolid(bytes, "A surface's file"));
  }

  /** Takes in the mesh of an asset, for whatever stands on it or is dropped. */
  learn(asset: string, mesh: TriangleMesh): void {
    this.#meshes.set(asset, mesh);
  }

  /**
   * The results of all dressings that changed since the last call; of all at the first.
   *
   * @param progress is told which dressing is being placed and how far all the work has come, from 0 to 1
   * @param onCharts the dressing whose surfaces are also to be laid out by their UVs
   */
  evaluate(
    scene: Scene,
    progress?: (dressing: string, share: number) => void,
    onCharts: string | null = null,
  ): DressingResult[] {
    const drawn = this.#guidesOf(scene.lines);
    const bounds = new Map<string, PropBounds>(scene.props.map((prop) => [prop.id, placingBounds(prop)]));
    const mixes = new Map(scene.mixes.map((mix) => [mix.id, mix.props]));
    const things = middlesOf(scene);
    const surfaces = this.#groundsOf(scene.surfaces, drawn);
    const guides = this.#laidOf(scene.lines, drawn, surfaces);
    const solids = this.#solidsOf(scene.props);
    const hulls = new Map([...solids].map(([id, { hull }]) => [id, hull]));
    const byMesh = new Set(scene.dressings.filter(({ fit }) => fit.clear === "mesh").flatMap(propsCompared(scene)));
    const bodies = new Map([...byMesh].flatMap((id) => entryOf(id, bodyOf(solids.get(id)))));
    const lineNames = new Map([...scene.surfaces, ...scene.lines].map(({ id, name }) => [id, name]));
    const present = new Map(scene.dressings.map((dressing) => [dressing.id, dressing]));
    for (const id of this.#dressings.keys()) if (!present.has(id)) this.#dressings.delete(id);
    const { dressings, circles } = inOrder(scene.dressings);
    const stoodOn = new Set(scene.dressings.flatMap(dressingsUnder));
    const before = new Set(
      scene.dressings.flatMap((dressing) => [
        ...dressingsBefore(dressing, scene.dressings),
        ...measuredTo(dressing, scene.dressings),
      ]),
    );
    const walls = scene.surfaces.some(isWall);
    const lineName = (id: string) => lineNames.get(id) ?? "a line";
    const line = (id: string) => guides.get(id);
    const box = (prop: string) => bounds.get(prop);

    const results = dressings.flatMap((dressing, n): DressingResult[] => {
      const pulse = progress && ((share: number) => progress(dressing.name, (n + share) / dressings.length));
      const circle = circles.get(dressing.id);
      const under = dressingsUnder(dressing).filter((id) => id !== circle?.id && present.has(id));
      const heapOf = (id: string) => this.#dressings.get(id)?.heap;
      const boxed = under.filter((id) => heapOf(id)?.boxed).map((id) => present.get(id)!.name);
      const names = JSON.stringify([guidesIn(dressing).map((id) => lineNames.get(id)), circle?.name, boxed]);
      let remembered = this.#dressings.get(dressing.id);
      // What others stand on or give way to, or may poke through something, has to be placed anew once it is not known how.
      const lost =
        (stoodOn.has(dressing.id) && !remembered?.heap) ||
        ((walls || before.has(dressing.id)) && !remembered?.placements);
      if (!remembered || remembered.names !== names || lost) {
        remembered = { memory: new StepMemory(), names };
        this.#dressings.set(dressing.id, remembered);
      }
      const propGrounds = under.flatMap((id) => heapOf(id)?.ground ?? []);
      const others = dressingsBefore(dressing, scene.dressings).flatMap((id) =>
        id === circle?.id ? [] : (this.#dressings.get(id)?.placements ?? []),
      );
      const placed = new Map(
        measuredTo(dressing, scene.dressings)
          .filter((id) => id !== circle?.id)
          .flatMap((id) => entryOf(id, this.#dressings.get(id)?.placements)),
      );
      const images = this.#images;
      const charted = dressing.id === onCharts;
      const around = {
        charted,
        placed,
        images,
        guides,
        bounds,
        mixes,
        things,
        surfaces,
        propGrounds,
        hulls,
        bodies,
        others,
        pulse,
      };
      const placements = evaluateChanged(dressing, around, remembered.memory);
      if (!placements) return [];
      pulse?.(0.9);
      const solid = (prop: string) => solids.get(prop)?.mesh;
      remembered.heap = stoodOn.has(dressing.id) ? propsAsGround(dressing.id, placements, solid, box) : undefined;
      remembered.placements = walls || before.has(dressing.id) ? kept(placements) : undefined;
      const grounds = dressing.fit.drop === "off" ? [] : groundsFor(dressing.fit, surfaces, propGrounds);
      const fields = new Map(placements.fields.flatMap((id) => entryOf(id, surfaces.get(id)?.mesh)));
      const body = (prop: string) => bodies.get(prop);
      const image = (asset: string) => images.has(asset);
      const checked = {
        dressing,
        placements,
        lineName,
        line,
        box,
        body,
        image,
        grounds,
        fields,
        circle: circle?.name,
        boxed,
      };
      return [{ id: dressing.id, placements, findings: findings(checked) }];
    });
    const place = new Map(scene.dressings.map(({ id }, i) => [id, i]));
    return results.sort((a, b) => place.get(a.id)! - place.get(b.id)!);
  }

  /**
   * What pokes through surfaces, by the ids of dressings, of a scene that has been evaluated. It takes longer than all the
   * rest, so it asks now and then whether to go on; null once it is told not to.
   */
  async poking(scene: Scene, goOn: () => Promise<boolean>): Promise<Map<string, Finding[]> | null> {
    const solids = this.#solidsOf(scene.props);
    const surfaces = this.#groundsOf(scene.surfaces, this.#guidesOf(scene.lines));
    const walls = scene.surfaces.filter(isWall).flatMap(({ id, name, ground }) => {
      const mesh = surfaces.get(id)?.mesh;
      return mesh ? [{ id, name, ground, mesh }] : [];
    });
    const found = new Map<string, Finding[]>();
    for (const dressing of scene.dressings) {
      const remembered = this.#dressings.get(dressing.id);
      const placements = remembered?.placements;
      if (!remembered || !placements) continue;
      const stoodOn = standsOn(dressing, scene);
      const bodies = placements.props.map((prop) => bodyOf(solids.get(prop)));
      const own = walls
        .filter(({ id }) => !dressing.where.volumes.includes(id) && stoodOn(id) !== "onLine")
        .map(({ id, ...wall }) => ({ ...wall, carries: stoodOn(id) === "stands" }));
      // Of the dressing itself what the check reads; all that moves placements has made them anew.
      const { fit, stance } = dressing;
      const said = [fit.sink, fit.play, fit.up, fit.drop, fit.dropBy, fit.dropRest, stance.up, stance.upBy];
      const of = [placements, ...said, ...bodies, ...own.flatMap((wall) => Object.values(wall))];
      if (!remembered.poking || !sameItems(remembered.poking.of, of)) {
        const against = own.map(({ name, ground, mesh, carries }): Wall => {
          return { name, body: Body.of(mesh), under: ground || carries, carries };
        });
        const poke = await poking(dressing, placements, bodies, against, goOn);
        if (!poke) return null;
        remembered.poking = { of, found: poke };
      }
      found.set(dressing.id, remembered.poking.found);
    }
    return found;
  }

  /** The scene's lines as guides; a line that did not change keeps the guide that it had. */
  #guidesOf(lines: readonly Line[]): Map<string, GuideLine> {
    const next = new Map<string, { line: string; guide: GuideLine }>();
    for (const line of lines) {
      const text = JSON.stringify({ ...line, name: "" });
      const known = this.#guides.get(line.id);
      next.set(line.id, known?.line === text ? known : { line: text, guide: new GuideLine(line) });
    }
    this.#guides = next;
    return new Map([...next].map(([id, { guide }]) => [id, guide]));
  }

  /** The lines laid onto their surfaces; one for which nothing changed keeps its guide. Surfaces are made of lines as drawn. */
  #laidOf(
    lines: readonly Line[],
    drawn: ReadonlyMap<string, GuideLine>,
    surfaces: ReadonlyMap<string, GroundSurface>,
  ): Map<string, GuideLine> {
    const guides = new Map(drawn);
    const next = new Map<string, LaidLine>();
    for (const line of lines) {
      if (!line.laid) continue;
      const under = groundsUnder(line, surfaces);
      const own = drawn.get(line.id)!;
      const known = this.#laid.get(line.id);
      const same = known?.drawn === own && sameItems(known.under, under);
      let laid = same ? known : null;
      if (!laid) {
        const track = laidTrack(line, own, under);
        laid = { drawn: own, under, track, guide: track ? new GuideLine(line, track) : own };
      }
      next.set(line.id, laid);
      guides.set(line.id, laid.guide);
    }
    this.#laid = next;
    return guides;
  }

  /** Where the lines lie that have been laid onto surfaces, by their ids, as of the last evaluation. */
  get tracks(): ReadonlyMap<string, LaidTrack> {
    return new Map([...this.#laid].flatMap(([id, { track }]) => (track ? [[id, track] as const] : [])));
  }

  /** The surfaces that placements are charted on. */
  chartsUnder({ charted, fields }: Placements): [string, ChartedSurface][] {
    if (!charted) return [];
    return fields.flatMap((id): [string, ChartedSurface][] => {
      const known = this.#grounds.get(id);
      const chart = known && UvChart.of(known.made);
      return chart ? [[id, { mesh: known.mesh, table: chart.table }]] : [];
    });
  }

  /** The surfaces whose meshes are known; one that did not change keeps what was worked out of it. */
  #groundsOf(surfaces: readonly Surface[], guides: ReadonlyMap<string, GuideLine>): Map<string, GroundSurface> {
    const next = new Map<string, Made<Ground>>();
    const found = new Map<string, GroundSurface>();
    for (const { id, asset, standIn, made, position, rotation, scale, ground } of surfaces) {
      const mesh = made ? this.#madeMesh(id, made, guides) : this.#meshes.get(standIn ?? asset ?? "");
      if (!mesh) continue;
      const text = JSON.stringify([position, rotation, scale]);
      const known = this.#grounds.get(id);
      const same = known?.text === text && known.mesh === mesh;
      const one = same ? known : { text, mesh, made: Ground.of(id, mesh, { position, rotation, scale }) };
      next.set(id, one);
      found.set(id, { mesh: one.made, ground });
    }
    this.#grounds = next;
    return found;
  }

  /** The mesh of a made surface, made anew only when its numbers or lines are others. */
  #madeMesh(id: string, made: MadeSurface, guides: ReadonlyMap<string, GuideLine>): TriangleMesh | null {
    const text = JSON.stringify(made);
    const lines = linesOf(made).map((line) => guides.get(line));
    const known = this.#madeMeshes.get(id);
    if (known?.text === text && sameItems(known.guides, lines)) return known.mesh;
    const mesh = madeMesh(made, guides);
    this.#madeMeshes.set(id, { text, guides: lines, mesh });
    return mesh;
  }

  /** The props whose meshes are known, as they are prepared. */
  #solidsOf(props: readonly Prop[]): Map<string, PreparedMesh> {
    const next = new Map<string, Made<PreparedMesh>>();
    for (const prop of props) {
      const mesh = this.#meshes.get(prop.asset);
      if (!mesh) continue;
      const matrix = preparationMatrix(prop);
      const text = matrix.join(" ");
      const known = this.#solids.get(prop.id);
      const same = known?.text === text && known.mesh === mesh;
      next.set(prop.id, same ? known : { text, mesh, made: prepareMesh(mesh, matrix) });
    }
    this.#solids = next;
    return new Map([...next].map(([id, { made }]) => [id, made]));
  }
}

/**
 * How a dressing's props are at a surface: they stand on what they are dropped onto or spread over, and are pinned to what
 * their lines lie on, wherever they have their pivots.
 */
function standsOn({ where, fit }: Dressing, { lines, surfaces }: Scene): (id: string) => "stands" | "onLine" | null {
  const grounds = surfaces.flatMap(({ id, ground }) => (ground ? id : []));
  const dropped = fit.drop === "off" ? [] : fit.onto.length > 0 ? fit.onto : grounds;
  const standing = new Set([...dropped, ...where.surfaces]);
  const laid = new Set(lines.flatMap(({ id, laid }) => (laid && where.lines.includes(id) ? laid.on : [])));
  return (id) => (standing.has(id) ? "stands" : laid.has(id) && fit.drop === "off" ? "onLine" : null);
}
