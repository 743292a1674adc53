/**
 * The meshes that a GLB needs of each prop, each made when it is first asked for: as it is prepared, in its mirror image, in
 * a tint, and in the shapes of placements that are bent or clipped.
 */
import {
  type Buffer,
  type Document,
  type mat4,
  type Material,
  type Mesh,
  type Node,
  type Primitive,
} from "@gltf-transform/core";
import { toLinear } from "../image";
import { shapedMesh, type TriangleMesh, type Shapes } from "../mesh";
import type { MovedShape } from "../movers";
import { transformedMesh } from "./gltf";
import { dress, type Moving } from "./motion";
import { takenOn } from "./poses";
import { plainArrays } from "./triangle-mesh";

/** What a placement's mesh is besides its prop. */
export interface Look {
  mirrored: boolean;
  /** `#rrggbb`; white for none. */
  tint: string;
}

export class Variants {
  readonly #document: Document;
  readonly #buffer: Buffer;
  /** Meshes of props as they are prepared. */
  readonly #prepared: ReadonlyMap<string, Mesh>;
  readonly #meshes = new Map<string, Mesh>();
  readonly #materials = new Map<string, Material | null>();
  readonly #solids = new Map<string, { primitive: Primitive; mesh: TriangleMesh }[]>();
  /** The shapes that props take on while the scene moves, by their ids. */
  readonly #takenOn: ReadonlyMap<string, readonly MovedShape[]>;
  readonly #moving: Moving | null;
  /** Shapes have no name of their own. */
  readonly #numbers = new Map<Shapes, number>();

  constructor(
    document: Document,
    buffer: Buffer,
    prepared: ReadonlyMap<string, Mesh>,
    takenOn: ReadonlyMap<string, readonly MovedShape[]>,
    moving: Moving | null,
  ) {
    this.#document = document;
    this.#buffer = buffer;
    this.#prepared = prepared;
    this.#takenOn = takenOn;
    this.#moving = moving;
  }

  /** Gives a node one of the meshes, with the shapes that this takes on. */
  dress = (node: Node, mesh: Mesh): void => dress(node, mesh, this.#moving);

  /** The mesh of a prop that stands as it is; undefined for one that no file was read for. */
  stiff(prop: string, look: Look): Mesh | undefined {
    const mesh = this.#asAtRest(prop, look);
    const shapes = this.#takenOn.get(prop);
    if (mesh && shapes && shapes.length > 1 && !this.#moving?.isShaped(mesh))
      takenOn(this.#document, mesh, look.mirrored ? shapes.map(mirroredShape) : shapes, this.#moving);
    return mesh;
  }

  #asAtRest(prop: string, { mirrored, tint }: Look): Mesh | undefined {
    const base = this.#prepared.get(prop);
    if (!base || (!mirrored && tint === WHITE)) return base;
    return this.#once(`${prop} ${mirrored} ${tint}`, () => {
      const mesh = mirrored
        ? this.#once(`${prop} mirrored`, () => transformedMesh(this.#document, base, MIRROR, base.getName()))
        : base;
      return tint === WHITE ? mesh : this.#tinted(mesh, tint);
    });
  }

  /** The mesh of one form of the given shapes; undefined where nothing is left of it. */
  shaped(prop: string, shapes: Shapes, form: number, { tint }: Look): Mesh | undefined {
    const base = this.#prepared.get(prop);
    if (!base) return undefined;
    if (!this.#numbers.has(shapes)) this.#numbers.set(shapes, this.#numbers.size);
    const mesh = this.#once(`${prop} shape ${this.#numbers.get(shapes)} ${form}`, () => {
      const made = this.#document.createMesh(base.getName());
      for (const { primitive, mesh: solid } of this.#solidOf(prop, base)) {
        const shaped = shapedMesh(solid, shapes, form);
        if (shaped.index.length > 0) made.addPrimitive(this.#primitive(shaped, primitive.getMaterial()));
      }
      return made;
    });
    if (mesh.listPrimitives().length === 0) return undefined;
    if (tint === WHITE) return mesh;
    return this.#once(`${prop} shape ${this.#numbers.get(shapes)} ${form} ${tint}`, () => this.#tinted(mesh, tint));
  }

  #once(name: string, make: () => Mesh): Mesh {
    let mesh = this.#meshes.get(name);
    if (!mesh) this.#meshes.set(name, (mesh = make()));
    return mesh;
  }

  #tinted(mesh: Mesh, tint: string): Mesh {
    const made = this.#document.createMesh(mesh.getName());
    for (const primitive of mesh.listPrimitives()) {
      made.addPrimitive(primitive.clone().setMaterial(this.#tintedMaterial(primitive.getMaterial(), tint)));
    }
    return made;
  }

  #tintedMaterial(material: Material | null, tint: string): Material {
    const name = `${material ? this.#document.getRoot().listMaterials().indexOf(material) : "none"} ${tint}`;
    let tinted = this.#materials.get(name);
    if (!tinted) {
      tinted = material ? material.clone() : this.#document.createMaterial();
      const [r, g, b, a] = tinted.getBaseColorFactor();
      const [x, y, z] = linear(tint);
      tinted.setBaseColorFactor([r * x, g * y, b * z, a]);
      this.#materials.set(name, tinted);
    }
    return tinted;
  }

  /** The prepared mesh as plain arrays, a part for each of its primitives. */
  #solidOf(prop: string, base: Mesh): { primitive: Primitive; mesh: TriangleMesh }[] {
    let solids = this.#solids.get(prop);
    if (!solids) {
      solids = base.listPrimitives().map((primitive) => ({ primitive, mesh: plainArrays(primitive) }));
      this.#solids.set(prop, solids);
    }
    return solids;
  }

  #primitive({ position, index, attributes }: TriangleMesh, material: Material | null): Primitive {
    const accessor = (width: number, array: Float32Array | Uint32Array) =>
      this.#document
        .createAccessor()
        .setType(TYPES[width])
        .setArray(array as Float32Array<ArrayBuffer>)
        .setBuffer(this.#buffer);
    const primitive = this.#document.createPrimitive().setMaterial(material);
    primitive.setAttribute("POSITION", accessor(3, position)).setIndices(accessor(1, index));
    for (const { name, width, array } of attributes) primitive.setAttribute(name, accessor(width, array));
    return primitive;
  }
}

export const WHITE = "#ffffff";
const acrossX = (values: Float32Array<ArrayBuffer>) => values.map((value, k) => (k % 3 === 0 ? -value : value));
const mirroredShape = ({ position, normal }: MovedShape): MovedShape => ({
  position: acrossX(position),
  normal: acrossX(normal),
});
const MIRROR = [-1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1] as mat4;
const TYPES: Readonly<Record<number, "SCALAR" | "VEC2" | "VEC3" | "VEC4">> = {
  1: "SCALAR",
  2: "VEC2",
  3: "VEC3",
  4: "VEC4",
};

/** A colour as written for screens, in linear light. */
const linear = (tint: string): number[] => [1, 3, 5].map((k) => toLinear(parseInt(tint.slice(k, k + 2), 16) / 255));
