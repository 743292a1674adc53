/**
 * *A mesh at rest*, in the coordinates of its file: what is worked out of it alone hangs on it, and stays when the surface
 * that shows it is moved, turned or sized.
 */
import { trianglesBeyond } from "./adjacency";
import { chartByUvs, chartRound, chartUnrolled, type ChartBy, type ChartTable } from "./chart-table";
import { edgeMapOf, type EdgeMap } from "./edge-map";
import type { LaidBy } from "./laying";
import type { Rig } from "../rig";
import type { Points } from "./facets";
import type { TriangleMesh } from "./mesh";
import { unroll, type Unrolled } from "./unroll";
import { cornerWeightsOf, writeVertexNormals, type CornerWeights } from "./vertex-normals";

/** A mesh whose positions may be of either precision. */
export type Shape = Points &
  Pick<TriangleMesh, "attributes" | "faces" | "cut" | "metric"> & {
    /** What its file moves by itself, its parts in the order of the vertices. */
    rig?: Rig;
  };

const MADE: readonly ChartBy[] = ["round", "uv", "unrolled"];
const FOUND: readonly ChartBy[] = ["uv", "round", "unrolled"];

const CHARTING: Readonly<Record<ChartBy, (rest: RestMesh) => ChartTable | null>> = {
  uv: ({ mesh, uv }) => uv && chartByUvs(mesh, uv),
  round: ({ mesh }) => chartRound(mesh, mesh.metric),
  unrolled: ({ mesh, unrolled }) => unrolled && chartUnrolled(mesh, unrolled),
};

export class RestMesh {
  readonly mesh: Shape;
  /** Texture coordinates of the vertices, 2v; null where the mesh has none. */
  readonly uv: Float32Array | null;
  /** Colours of the vertices, 3v, from 0 to 1; null where the mesh has none. */
  readonly colour: Float32Array | null;
  /** The normals that its file gives the vertices, 3v; null where it gives none. */
  readonly normal: Float32Array | null;
  #edges: EdgeMap | undefined;
  #beyond: Int32Array | undefined;
  readonly #charts = new Map<ChartBy, ChartTable | null>();
  #corners: CornerWeights | undefined;
  #smooth: Float32Array | undefined;

  /** Edges at which it is cut open to be unrolled, see `unroll`; none for those that serve it best. */
  readonly #seams: Uint32Array;
  /** Undefined as long as it has not been unrolled here. */
  #unrolled: Unrolled | null | undefined;
  readonly #kept: Unrolled | null;

  /** @param kept how it was unrolled at another time */
  constructor(mesh: Shape, seams = new Uint32Array(0), kept: Unrolled | null = null) {
    this.mesh = mesh;
    this.#seams = seams;
    this.#kept = kept;
    const named = (name: string) => mesh.attributes.find((one) => one.name === name)?.array ?? null;
    this.uv = named("TEXCOORD_0");
    this.colour = named("COLOR_0");
    this.normal = named("NORMAL");
  }

  get edges(): EdgeMap {
    return (this.#edges ??= edgeMapOf(Float64Array.from(this.mesh.position), this.mesh.index));
  }

  /** The triangle beyond each edge, -1 where there is none: 3m. */
  get beyond(): Int32Array {
    return (this.#beyond ??= trianglesBeyond(Float64Array.from(this.mesh.position), this.mesh.index));
  }

  /** Smooth normals of the vertices: 3v. */
  get smoothNormals(): Float32Array {
    if (!this.#smooth) {
      this.#smooth = new Float32Array(this.mesh.position.length);
      writeVertexNormals(Float64Array.from(this.mesh.position), this.corners, this.#smooth);
    }
    return this.#smooth;
  }

  /** How much its triangles count at their corners, for smooth normals wherever it goes. */
  get corners(): CornerWeights {
    return (this.#corners ??= cornerWeightsOf(this.mesh));
  }

  /** The mesh laid flat by its UVs; null where it has none, or ones that have no area. */
  get uvChart(): ChartTable | null {
    return this.#charted("uv");
  }

  /** The mesh unrolled; null for one that cannot be. */
  get unrolled(): Unrolled | null {
    if (this.#kept) return this.#kept;
    if (this.#unrolled === undefined)
      this.#unrolled = unroll(Float64Array.from(this.mesh.position), this.mesh.index, this.#seams);
    return this.#unrolled;
  }

  /** What is worth keeping for another time: how it was unrolled here, if it was. */
  get unrolledHere(): Unrolled | null {
    return this.#unrolled ?? null;
  }

  /**
   * The mesh laid flat as is wished, or else as serves it: by how it was made, its UVs, the way it was turned round an axis, or
   * unrolled; null where none of that can be.
   */
  chart(by: LaidBy): ChartTable | null {
    const ways = by === "best" ? (this.mesh.metric ? MADE : FOUND) : [by, ...FOUND];
    for (const way of ways) {
      const table = this.#charted(way);
      if (table) return table;
    }
    return null;
  }

  #charted(by: ChartBy): ChartTable | null {
    let table = this.#charts.get(by);
    if (table === undefined) this.#charts.set(by, (table = CHARTING[by](this)));
    return table;
  }
}
