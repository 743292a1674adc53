/** *A mesh in the making*: shapes in plain colours, gathered by material, written as one GLB. */
import { Document, WebIO, type Buffer, type Mesh, type TypedArray } from "@gltf-transform/core";
import { normalize, cross, subtract, type Vec3 } from "@/core/math";

export interface Paint {
  /** Linear base colour, 0 to 1. */
  color: readonly [number, number, number];
  roughness?: number;
  metal?: number;
  glow?: readonly [number, number, number];
  doubleSided?: boolean;
  opacity?: number;
}

/** A colour as written for screens, `#rrggbb`, in linear light. */
export function hex(text: string): [number, number, number] {
  const channel = (k: number) => {
    const c = parseInt(text.slice(1 + 2 * k, 3 + 2 * k), 16) / 255;
    return c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4;
  };
  return [channel(0), channel(1), channel(2)];
}

interface Part {
  paint: Paint;
  position: number[];
  normal: number[];
  color: number[];
  /** Texture coordinates; empty where it has none. */
  uv: number[];
  index: number[];
}

const WHITE: Vec3 = [1, 1, 1];

export class MeshBuilder {
  readonly #parts = new Map<Paint, Part>();

  #part(paint: Paint): Part {
    let part = this.#parts.get(paint);
    if (!part) this.#parts.set(paint, (part = { paint, position: [], normal: [], color: [], uv: [], index: [] }));
    return part;
  }

  /** A flat polygon, convex, its corners counter-clockwise seen from the front; `tint` multiplies the paint. */
  polygon(paint: Paint, corners: readonly Vec3[], tint: Vec3 = WHITE): this {
    const part = this.#part(paint);
    const normal = normalize(cross(subtract(corners[1], corners[0]), subtract(corners[2], corners[0])));
    const first = part.position.length / 3;
    for (const corner of corners) {
      part.position.push(...corner);
      part.normal.push(...normal);
      part.color.push(...tint);
    }
    for (let i = 2; i < corners.length; i++) part.index.push(first, first + i - 1, first + i);
    return this;
  }

  /** A box between two corners. */
  box(paint: Paint, [x0, y0, z0]: Vec3, [x1, y1, z1]: Vec3, tint: Vec3 = WHITE): this {
    this.polygon(
      paint,
      [
        [x0, y0, z1],
        [x1, y0, z1],
        [x1, y1, z1],
        [x0, y1, z1],
      ],
      tint,
    );
    this.polygon(
      paint,
      [
        [x1, y0, z0],
        [x0, y0, z0],
        [x0, y1, z0],
        [x1, y1, z0],
      ],
      tint,
    );
    this.polygon(
      paint,
      [
        [x1, y0, z1],
        [x1, y0, z0],
        [x1, y1, z0],
        [x1, y1, z1],
      ],
      tint,
    );
    this.polygon(
      paint,
      [
        [x0, y0, z0],
        [x0, y0, z1],
        [x0, y1, z1],
        [x0, y1, z0],
      ],
      tint,
    );
    this.polygon(
      paint,
      [
        [x0, y1, z1],
        [x1, y1, z1],
        [x1, y1, z0],
        [x0, y1, z0],
      ],
      tint,
    );
    this.polygon(
      paint,
      [
        [x0, y0, z0],
        [x1, y0, z0],
        [x1, y0, z1],
        [x0, y0, z1],
      ],
      tint,
    );
    return this;
  }

  /**
   * A profile of (radius, height) pairs, from below upwards, turned about Y at (x, z). Each stretch of the profile is smooth
   * around and hard against the next one.
   */
  lathe(paint: Paint, profile: readonly (readonly [number, number])[], segments = 24, x = 0, z = 0): this {
    const part = this.#part(paint);
    for (let k = 1; k < profile.length; k++) {
      const [[r0, y0], [r1, y1]] = [profile[k - 1], profile[k]];
      const slope = normalize([y1 - y0, r0 - r1, 0], [1, 0, 0]);
      const first = part.position.length / 3;
      for (let i = 0; i <= segments; i++) {
        const angle = (2 * Math.PI * i) / segments;
        const [c, s] = [Math.cos(angle), Math.sin(angle)];
        for (const [r, y] of [
          [r0, y0],
          [r1, y1],
        ]) {
          part.position.push(x + r * c, y, z - r * s);
          part.normal.push(slope[0] * c, slope[1], -slope[0] * s);
          part.color.push(1, 1, 1);
        }
      }
      for (let i = 0; i < segments; i++) {
        const a = first + 2 * i;
        if (r0 > 0) part.index.push(a, a + 2, a + 1);
        if (r1 > 0) part.index.push(a + 1, a + 2, a + 3);
      }
    }
    return this;
  }

  /** A surface y = height(x, z) over a grid, smooth, with a tint for each point. */
  field(
    paint: Paint,
    xs: readonly number[],
    zs: readonly number[],
    height: (x: number, z: number) => number,
    tint: (x: number, z: number) => Vec3 = () => WHITE,
  ): this {
    const part = this.#part(paint);
    const first = part.position.length / 3;
    const step = 1e-3;
    for (const z of zs) {
      for (const x of xs) {
        const slopeX = (height(x + step, z) - height(x - step, z)) / (2 * step);
        const slopeZ = (height(x, z + step) - height(x, z - step)) / (2 * step);
        part.position.push(x, height(x, z), z);
        part.normal.push(...normalize([-slopeX, 1, -slopeZ]));
        part.color.push(...tint(x, z));
      }
    }
    for (let j = 0; j + 1 < zs.length; j++) {
      for (let i = 0; i + 1 < xs.length; i++) {
        const a = first + j * xs.length + i;
        const b = a + xs.length;
        part.index.push(a, b, a + 1, a + 1, b, b + 1);
      }
    }
    return this;
  }

  /**
   * A flat cloth of `columns` by `rows` squares with texture coordinates, or a part of one: u to the right and v up, seen from
   * its front; pictures count v from above.
   */
  cloth(
    paint: Paint,
    columns: number,
    rows: number,
    at: (uv: readonly [number, number]) => { point: Vec3; tint?: Vec3 },
    [[u0, v0], [u1, v1]]: readonly [readonly [number, number], readonly [number, number]] = [
      [0, 0],
      [1, 1],
    ],
  ): this {
    const part = this.#part(paint);
    const first = part.position.length / 3;
    const place = (i: number, j: number) => at([u0 + (u1 - u0) * (i / columns), v0 + (v1 - v0) * (j / rows)]);
    const normal = normalize(
      cross(subtract(place(1, 0).point, place(0, 0).point), subtract(place(0, 1).point, place(0, 0).point)),
    );
    for (let j = 0; j <= rows; j++) {
      for (let i = 0; i <= columns; i++) {
        const { point, tint = WHITE } = place(i, j);
        part.position.push(...point);
        part.normal.push(...normal);
        part.color.push(...tint);
        part.uv.push(u0 + (u1 - u0) * (i / columns), v0 + (v1 - v0) * (j / rows));
        if (i === columns || j === rows) continue;
        const a = first + j * (columns + 1) + i;
        part.index.push(a, a + 1, a + columns + 2, a, a + columns + 2, a + columns + 1);
      }
    }
    return this;
  }

  async toGlb(name: string): Promise<Uint8Array> {
    const document = new Document();
    document.getRoot().getAsset().generator = "Clothesline";
    const mesh = this.meshIn(document, document.createBuffer(), name);
    document.createScene(name).addChild(document.createNode(name).setMesh(mesh));
    return new WebIO().writeBinary(document);
  }

  /** Its shapes as a mesh of a document. */
  meshIn(document: Document, buffer: Buffer, name: string): Mesh {
    const accessor = (type: "SCALAR" | "VEC2" | "VEC3", array: TypedArray) =>
      document
        .createAccessor()
        .setType(type)
        .setArray(array as Float32Array<ArrayBuffer>)
        .setBuffer(buffer);
    const mesh = document.createMesh(name);
    for (const { paint, position, normal, color, uv, index } of this.#parts.values()) {
      const material = document
        .createMaterial()
        .setBaseColorFactor([...paint.color, paint.opacity ?? 1])
        .setAlphaMode(paint.opacity === undefined ? "OPAQUE" : "BLEND")
        .setRoughnessFactor(paint.roughness ?? 0.85)
        .setMetallicFactor(paint.metal ?? 0)
        .setEmissiveFactor([...(paint.glow ?? [0, 0, 0])])
        .setDoubleSided(paint.doubleSided ?? false);
      const primitive = document
        .createPrimitive()
        .setMaterial(material)
        .setAttribute("POSITION", accessor("VEC3", Float32Array.from(position)))
        .setAttribute("NORMAL", accessor("VEC3", Float32Array.from(normal)))
        .setIndices(
          accessor("SCALAR", position.length / 3 > 65535 ? Uint32Array.from(index) : Uint16Array.from(index)),
        );
      if (uv.length > 0) primitive.setAttribute("TEXCOORD_0", accessor("VEC2", Float32Array.from(uv)));
      if (color.some((value) => value !== 1))
        primitive.setAttribute(
          "COLOR_0",
          accessor(
            "VEC3",
            Float32Array.from(color, (share) => Math.min(1, share)),
          ),
        );
      mesh.addPrimitive(primitive);
    }
    return mesh;
  }
}
