/** OBJ, with its MTL and pictures where they came along (Wavefront's text format, in the common part of it). */
import type { Document, Material } from "@gltf-transform/core";
import { normalize, type Vec3 } from "../../math";
import { InputError } from "../../schema";
import { companion, type GivenFile } from "./given";
import { materialsOf } from "./mtl";
import { addPart, emptyDocument, emptyPart, greyOf, newell, trianglesOf, upsideDown, type Part } from "./soup";
import { toLinear } from "../../image";
import type { GltfFile } from "../gltf";

/** What has no direction of its own faces up. */
const UP: Vec3 = [0, 1, 0];
/** A face has no more corners than this. */
const MOST_CORNERS = 10_000;

/** A part as it grows, with where each of its corners' combinations went. */
interface Growing extends Part {
  known: Map<number, number>;
}

/** @throws InputError when it holds no faces, or one names what is not there */
export function readObj(main: GivenFile, others: readonly GivenFile[]): GltfFile {
  const document = emptyDocument();
  const notes: GltfFile["notes"] = [];
  const lines = new TextDecoder()
    .decode(main.bytes)
    .replace(/\\\r?\n/g, " ")
    .split(/\r?\n/);
  const position: number[] = [];
  const colour: number[] = [];
  const uv: number[] = [];
  const normal: number[] = [];
  let materials = new Map<string, Material>();
  const plain = greyOf(document);
  const parts = new Map<string, Growing>();
  let [object, using, smooth, strays] = ["", "", false, 0];
  let faces = 0;

  const damaged = (line: number, why: string) =>
    new InputError(`“${main.name}” cannot be read: line ${(line + 1).toLocaleString("en")} ${why}.`);
  const numbers = (words: readonly string[], n: number, line: number): number[] => {
    const found = words.slice(1, 1 + n).map(Number);
    if (found.length < n || !found.every(Number.isFinite)) throw damaged(line, "holds something that is no number");
    return found;
  };
  /** Counted from 1, or from the last one backwards. */
  const place = (word: string | undefined, n: number, line: number): number => {
    if (!word) return -1;
    const k = Number(word);
    const i = k < 0 ? n + k : k - 1;
    if (!Number.isInteger(k) || k === 0 || i < 0 || i >= n)
      throw damaged(line, `asks for ${word.slice(0, 20)}, which is not there`);
    return i;
  };

  lines.forEach((text, line) => {
    const words = text.trim().split(/\s+/);
    switch (words[0]) {
      case "v":
        position.push(...numbers(words, 3, line));
        if (words.length >= 7) colour.push(...words.slice(4, 7).map((word) => toLinear(Number(word))));
        break;
      case "vt":
        uv.push(...upsideDown(numbers(words, 2, line)));
        break;
      case "vn":
        normal.push(...numbers(words, 3, line));
        break;
      case "o":
      case "g":
        object = words.slice(1).join(" ").slice(0, 80);
        break;
      case "s":
        smooth = words[1] !== undefined && words[1] !== "off" && words[1] !== "0";
        break;
      case "usemtl":
        using = words.slice(1).join(" ");
        break;
      case "mtllib": {
        const named = text.trim().slice(6).trim();
        const mtl = companion(others, main.name, named) ?? others.find(({ name }) => /\.mtl$/i.test(name));
        if (mtl) materials = materialsOf(document, mtl, others);
        else notes.push({ what: "missing", part: named.slice(0, 80) });
        break;
      }
      case "l":
      case "p":
        strays++;
        break;
      case "f": {
        const corners = words.slice(1);
        if (corners.length < 3) break;
        if (corners.length > MOST_CORNERS) throw damaged(line, "has a face of more corners than can be");
        faces++;
        const name = `${object} / ${using}`;
        let part = parts.get(name);
        if (!part) {
          const material = materials.get(using) ?? plain;
          parts.set(name, (part = { ...emptyPart(object || using || "Mesh", material), known: new Map() }));
        }
        const split = corners.map((corner) => corner.split("/"));
        const at = split.map(([v]) => place(v, position.length / 3, line));
        const uvs = split.map(([, t]) => place(t, uv.length / 2, line));
        const normals = split.map(([, , n]) => place(n, normal.length / 3, line));
        const flat = normals.some((n) => n < 0) && !smooth ? normalize(newell(position, at), UP) : null;
        const vertex = at.map((v, k) => {
          // Flat faces have corners of their own; others share what is the same in all.
          const combination = (v * (uv.length + 1) + uvs[k] + 1) * (normal.length + 1) + normals[k] + 1;
          const known = flat ? undefined : part.known.get(combination);
          if (known !== undefined) return known;
          const made = part.position.length / 3;
          if (!flat) part.known.set(combination, made);
          part.position.push(...position.slice(3 * v, 3 * v + 3));
          if (uvs[k] >= 0) part.uv.push(...uv.slice(2 * uvs[k], 2 * uvs[k] + 2));
          if (flat) part.normal.push(...flat);
          else if (normals[k] >= 0)
            part.normal.push(...normalize(normal.slice(3 * normals[k], 3 * normals[k] + 3) as unknown as Vec3, UP));
          if (colour.length === position.length) part.colour.push(...colour.slice(3 * v, 3 * v + 3));
          return made;
        });
        for (const k of trianglesOf(position, at)) part.index.push(vertex[k]);
        break;
      }
    }
  });
  if (faces === 0) throw new InputError(`“${main.name}” holds no faces.`);
  if (strays > 0) notes.push({ what: "lines", part: "" });
  for (const part of parts.values()) {
    if (part.normal.length !== part.position.length) part.normal = smoothNormals(part);
    addPart(document, part);
  }
  dropUnused(document, plain);
  return { document, notes, packed: true };
}

/** Normals of the triangles round each vertex, by their areas. */
function smoothNormals({ position, index }: Part): number[] {
  const sum = new Array<number>(position.length).fill(0);
  for (let t = 0; t < index.length; t += 3) {
    const corners = index.slice(t, t + 3);
    const area = newell(position, corners);
    for (const v of corners) for (let axis = 0; axis < 3; axis++) sum[3 * v + axis] += area[axis];
  }
  for (let v = 0; v < sum.length; v += 3) {
    const one = normalize(sum.slice(v, v + 3) as unknown as Vec3, UP);
    for (let axis = 0; axis < 3; axis++) sum[v + axis] = one[axis];
  }
  return sum;
}

/** What nothing is made of. */
function dropUnused(document: Document, material: Material): void {
  const used = document
    .getRoot()
    .listMeshes()
    .some((mesh) => mesh.listPrimitives().some((one) => one.getMaterial() === material));
  if (!used) material.dispose();
}
