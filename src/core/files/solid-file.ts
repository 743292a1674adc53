/** Solids as files to be printed or worked on: closed meshes, each vertex once where the form has vertices. */
import { strToU8, zipSync } from "fflate";
import { Document, WebIO } from "@gltf-transform/core";
import { standingBody, uncreased, type ClosedMesh } from "../solid";
import type { Stand } from "./evaluated";
import type { SolidForm } from "./solid-formats";
import type { TriangleMesh } from "../mesh";

/** Forms without a unit of their own are in millimetres, as all who print take them to be; their z points up. */
const MILLIMETRES = 1000;

type Write = (mesh: TriangleMesh, stand: Stand, name: string) => Uint8Array | Promise<Uint8Array>;

const WRITING: Readonly<Record<SolidForm, Write>> = {
  stl: (mesh, stand) => writeStl(uprightIn(mesh, stand)),
  "3mf": (mesh, stand, name) => write3mf(uprightIn(mesh, stand), name),
  glb: writeGlb,
};

export const writeSolid = async (form: SolidForm, ...about: Parameters<Write>): Promise<Uint8Array> =>
  WRITING[form](...about);

/** A mesh where it stands, in millimetres, with z up. */
function uprightIn(mesh: TriangleMesh, stand: Stand): ClosedMesh {
  const { position: P, index } = standingBody(uncreased(mesh), stand);
  const position = new Float32Array(P.length);
  for (let p = 0; p < P.length; p += 3) {
    position[p] = MILLIMETRES * P[p];
    position[p + 1] = -MILLIMETRES * P[p + 2];
    position[p + 2] = MILLIMETRES * P[p + 1];
  }
  return { position, index };
}

/** Binary STL: 80 bytes that say nothing, a count, and 50 bytes a triangle. */
function writeStl({ position: P, index }: ClosedMesh): Uint8Array {
  const bytes = new Uint8Array(84 + (50 * index.length) / 3);
  const view = new DataView(bytes.buffer);
  view.setUint32(80, index.length / 3, true);
  for (let t = 0, at = 84; t < index.length; t += 3, at += 50) {
    const corner = (k: number, c: number) => P[3 * index[t + k] + c];
    const [u, v] = [1, 2].map((k) => [0, 1, 2].map((c) => corner(k, c) - corner(0, c)));
    const normal = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
    const size = Math.hypot(...normal) || 1;
    for (let c = 0; c < 3; c++) view.setFloat32(at + 4 * c, normal[c] / size, true);
    for (let k = 0; k < 3; k++)
      for (let c = 0; c < 3; c++) view.setFloat32(at + 12 + 12 * k + 4 * c, corner(k, c), true);
  }
  return bytes;
}

const XML = '<?xml version="1.0" encoding="UTF-8"?>\n';
const escaped = (text: string): string =>
  text.replace(/[&<>"]/g, (sign) => ({ "&": "&amp;", "<": "&lt;", ">": "&gt;", '"': "&quot;" })[sign]!);

/** 3MF, the core specification: one object of one mesh. */
function write3mf({ position: P, index }: ClosedMesh, name: string): Uint8Array {
  const lines: string[] = [
    `${XML}<model unit="millimeter" xml:lang="en" xmlns="http://schemas.microsoft.com/3dmanufacturing/core/2015/02">`,
    `<metadata name="Title">${escaped(name)}</metadata>`,
    `<resources><object id="1" type="model" name="${escaped(name)}"><mesh><vertices>`,
  ];
  for (let p = 0; p < P.length; p += 3) lines.push(`<vertex x="${P[p]}" y="${P[p + 1]}" z="${P[p + 2]}"/>`);
  lines.push("</vertices><triangles>");
  for (let t = 0; t < index.length; t += 3)
    lines.push(`<triangle v1="${index[t]}" v2="${index[t + 1]}" v3="${index[t + 2]}"/>`);
  lines.push('</triangles></mesh></object></resources><build><item objectid="1"/></build></model>');
  const types = `${XML}<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="model" ContentType="application/vnd.ms-package.3dmanufacturing-3dmodel+xml"/></Types>`;
  const relations = `${XML}<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Target="/3D/3dmodel.model" Id="rel0" Type="http://schemas.microsoft.com/3dmanufacturing/2013/01/3dmodel"/></Relationships>`;
  return zipSync({
    "[Content_Types].xml": strToU8(types),
    "_rels/.rels": strToU8(relations),
    "3D/3dmodel.model": strToU8(lines.join("\n")),
  });
}

async function writeGlb(mesh: TriangleMesh, { position, rotation, scale }: Stand, name: string): Promise<Uint8Array> {
  const document = new Document();
  const buffer = document.createBuffer();
  const accessor = (type: "VEC3" | "SCALAR", array: Float32Array | Uint32Array) =>
    document
      .createAccessor()
      .setType(type)
      .setArray(array as Float32Array<ArrayBuffer>)
      .setBuffer(buffer);
  const primitive = document
    .createPrimitive()
    .setIndices(accessor("SCALAR", mesh.index))
    .setAttribute("POSITION", accessor("VEC3", mesh.position))
    .setMaterial(document.createMaterial(name).setBaseColorFactor([0.62, 0.55, 0.41, 1]).setMetallicFactor(0));
  for (const { name: attribute, array } of mesh.attributes)
    if (attribute === "NORMAL") primitive.setAttribute(attribute, accessor("VEC3", array));
  const node = document
    .createNode(name)
    .setMesh(document.createMesh(name).addPrimitive(primitive))
    .setTranslation([...position])
    .setRotation([...rotation])
    .setScale([scale, scale, scale]);
  document.createScene(name).addChild(node);
  return new WebIO().writeBinary(document);
}
