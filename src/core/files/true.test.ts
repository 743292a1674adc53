/** What leaves is what is seen: every export is read by a reader that is not ours, and its triangles held against its normals. */
import { Document, type Accessor, type mat4, type TypedArray } from "@gltf-transform/core";
import { KHRMeshQuantization } from "@gltf-transform/extensions";
import fc from "fast-check";
import { Box3, InstancedMesh, Matrix4, Mesh, Vector3, type BufferAttribute } from "three";
import { GLTFLoader } from "three/examples/jsm/loaders/GLTFLoader.js";
import { validateBytes } from "gltf-validator";
import { MeshoptDecoder } from "meshoptimizer";
import { GuideLine } from "../line";
import { makeLine } from "../line/testing";
import { evaluate } from "../place/testing";
import { emptyScene, preparationMatrix, preparationSchema, sceneSchema } from "../scene";
import { evaluateAlone } from "./testing";
import { hashOf } from "./assets";
import { plainIO } from "./gltf";
import { bringInFile, FORMATS, readPropFile, readTriangleMesh } from ".";

/** Corners of a lopsided pyramid of four faces, each with its own three, seen from outside against the clock. */
const [A, B, C, D] = [
  [0, 0, 0],
  [2, 0, 0.3],
  [0.2, 0, -1],
  [0.5, 1.5, -0.2],
].map((corner) => new Vector3(...corner));
const FACES = [
  [A, B, D],
  [B, C, D],
  [C, A, D],
  [A, C, B],
];

interface Kind {
  nodes: { matrix: Matrix4; shared: boolean }[];
  indexed: boolean;
  normals: "float" | "int8" | "int16";
}

/** The pyramid in a file, under some nodes, with normals, UVs and tangents that belong to them. */
async function pyramidFile({ nodes, indexed, normals }: Kind): Promise<Uint8Array> {
  const document = new Document();
  const buffer = document.createBuffer();
  const accessor = (type: "VEC2" | "VEC3" | "VEC4" | "SCALAR", array: TypedArray): Accessor =>
    document
      .createAccessor()
      .setType(type)
      .setArray(array as Float32Array<ArrayBuffer>)
      .setBuffer(buffer);
  const make = () => {
    const position: number[] = [];
    const normal: number[] = [];
    const uv: number[] = [];
    const tangent: number[] = [];
    for (const [a, b, c] of FACES) {
      const n = b.clone().sub(a).cross(c.clone().sub(a)).normalize();
      const t = b.clone().sub(a).normalize();
      for (const corner of [a, b, c]) {
        position.push(...corner);
        normal.push(...n);
        tangent.push(...t, 1);
        uv.push(corner.clone().sub(a).dot(t), corner.clone().sub(a).dot(n.clone().cross(t)));
      }
    }
    const largest = { int8: 127, int16: 32767, float: 1 }[normals];
    const Whole = normals === "int8" ? Int8Array : Int16Array;
    const scaled = normal.map((x) => Math.round(largest * x));
    const written = normals === "float" ? new Float32Array(normal) : new Whole(scaled);
    const primitive = document
      .createPrimitive()
      .setAttribute("POSITION", accessor("VEC3", new Float32Array(position)))
      .setAttribute("NORMAL", accessor("VEC3", written).setNormalized(normals !== "float"))
      .setAttribute("TEXCOORD_0", accessor("VEC2", new Float32Array(uv)))
      .setAttribute("TANGENT", accessor("VEC4", new Float32Array(tangent)));
    if (indexed)
      primitive.setIndices(
        accessor(
          "SCALAR",
          Uint16Array.from({ length: 12 }, (_, i) => i),
        ),
      );
    return document.createMesh("Pyramid").addPrimitive(primitive);
  };
  if (normals !== "float") document.createExtension(KHRMeshQuantization).setRequired(true);
  const scene = document.createScene();
  const common = make();
  for (const { matrix, shared } of nodes) {
    const node = document.createNode("Node").setMatrix(matrix.toArray() as mat4);
    scene.addChild(node.setMesh(shared ? common : make()));
  }
  return plainIO().writeBinary(document);
}

interface Seen {
  triangles: number;
  /** Triangles that face against one of their normals, or whose normals have no length. */
  turned: number;
  /** Triangles whose tangents say another side than their UVs. */
  twisted: number;
  /** The box round all of them. */
  box: number[];
}

/** How a reader that is not ours finds the triangles of a GLB. */
async function seenIn(bytes: Uint8Array): Promise<Seen> {
  const { scene } = await new GLTFLoader().setMeshoptDecoder(MeshoptDecoder).parseAsync(bytes.slice().buffer, "");
  scene.updateMatrixWorld(true);
  const seen = { triangles: 0, turned: 0, twisted: 0 };
  const box = new Box3();
  scene.traverse((mesh) => {
    if (!(mesh instanceof Mesh)) return;
    const each = mesh instanceof InstancedMesh ? mesh.count : 1;
    for (let k = 0; k < each; k++) {
      const matrix = mesh.matrixWorld.clone();
      if (mesh instanceof InstancedMesh) {
        const own = new Matrix4();
        mesh.getMatrixAt(k, own);
        matrix.multiply(own);
      }
      look(mesh, matrix, seen, box);
    }
  });
  return { ...seen, box: [...box.min, ...box.max] };
}

function look(mesh: Mesh, matrix: Matrix4, seen: Omit<Seen, "box">, box: Box3): void {
  const get = (name: string, i: number) => {
    const attribute = mesh.geometry.getAttribute(name) as BufferAttribute;
    return new Vector3(attribute.getX(i), attribute.getY(i), attribute.itemSize > 2 ? attribute.getZ(i) : 0);
  };
  const index = mesh.geometry.index;
  const corners = index?.count ?? mesh.geometry.getAttribute("position").count;
  const mirrors = matrix.determinant() < 0;
  const normalMatrix = matrix.clone().invert().transpose();
  for (let i = 0; i < corners; i += 3) {
    const corner = [0, 1, 2].map((k) => (index ? index.getX(i + k) : i + k));
    const [a, b, c] = corner.map((v) => get("position", v).applyMatrix4(matrix));
    for (const place of [a, b, c]) box.expandByPoint(place);
    const [ab, ac] = [b.clone().sub(a), c.clone().sub(a)];
    const face = ab.clone().cross(ac);
    // A renderer takes what a mirror turns over for the other side.
    if (mirrors) face.negate();
    const normals = corner.map((v) => get("normal", v).transformDirection(normalMatrix));
    seen.triangles++;
    if (!normals.every((normal) => normal.dot(face) > 0.5 * face.length())) seen.turned++;
    const [u, v] = [0, 1].map((axis) => corner.map((one) => get("uv", one).getComponent(axis)));
    const area = (u[1] - u[0]) * (v[2] - v[0]) - (u[2] - u[0]) * (v[1] - v[0]);
    const towardsV = ac
      .multiplyScalar(u[1] - u[0])
      .sub(ab.multiplyScalar(u[2] - u[0]))
      .multiplyScalar(Math.sign(area));
    const tangent = get("tangent", corner[0]).transformDirection(matrix);
    const side = (mesh.geometry.getAttribute("tangent") as BufferAttribute).getW(corner[0]) * (mirrors ? -1 : 1);
    if (normals[0].clone().cross(tangent).multiplyScalar(side).dot(towardsV) <= 0) seen.twisted++;
  }
}

async function dressed(bytes: Uint8Array, mirror: number, prepared: object) {
  const line = makeLine({ kind: "polyline", knots: [[0, 0, 0], [9.5, 2, 0]] }); // prettier-ignore
  const prop = { id: "p", name: "Pyramid", asset: hashOf(bytes), prepared, ...(await readPropFile(bytes, "a.glb")) };
  const scene = sceneSchema.parse({
    ...emptyScene("Quay"),
    props: [prop],
    lines: [line],
    dressings: [
      {
        id: "d",
        name: "Row",
        where: { lines: ["line"] },
        what: { entries: [{ prop: "p" }] },
        spacing: { distance: 1 },
        variation: { mirror, tintOn: true },
      },
    ],
  });
  const guides = new Map([["line", new GuideLine(line)]]);
  const placements = evaluate(scene.dressings[0], { guides, bounds: new Map([["p", scene.props[0].bounds]]) });
  return { scene, dressings: [{ dressing: scene.dressings[0], placements }] };
}

const finite = (min: number, max: number) => fc.double({ min, max, noNaN: true });
const node = fc
  .record({
    turn: fc.tuple(finite(-3, 3), finite(-3, 3), finite(-3, 3)),
    scale: fc.tuple(...[0, 1, 2].map(() => fc.tuple(finite(0.3, 3), fc.boolean()))),
    at: fc.tuple(finite(-5, 5), finite(-5, 5), finite(-5, 5)),
    shared: fc.boolean(),
  })
  .map(({ turn, scale, at, shared }) => {
    const matrix = new Matrix4().makeRotationX(turn[0]).multiply(new Matrix4().makeRotationY(turn[1]));
    const [x, y, z] = scale.map(([size, mirrored]) => (mirrored ? -size : size));
    matrix
      .multiply(new Matrix4().makeRotationZ(turn[2]))
      .scale(new Vector3(x, y, z))
      .setPosition(...at);
    return { matrix, shared };
  });
const kinds = fc.record({
  nodes: fc.array(node, { minLength: 1, maxLength: 3 }),
  indexed: fc.boolean(),
  normals: fc.constantFrom("float" as const, "int8" as const, "int16" as const),
});

test.each(["glb", "glb-plain"] as const)(
  "%s: whatever mirrors nodes, preparation and variation make of a prop, its triangles face as their normals do",
  async (format) => {
    const prepared = fc.constantFrom({}, { size: 2, turn: [0.3, 1, -0.4] });
    await fc.assert(
      fc.asyncProperty(kinds, fc.constantFrom(0, 0.5, 1), prepared, async (kind, mirror, turned) => {
        const bytes = await pyramidFile(kind);
        expect(await seenIn(bytes)).toMatchObject({ turned: 0, twisted: 0 });
        const evaluated = await dressed(bytes, mirror, turned);
        const assets = new Map([[hashOf(bytes), bytes]]);
        const out = await FORMATS[format].write(evaluated, assets);
        const { placements } = evaluated.dressings[0];
        const triangles = (placements.count - placements.blanks) * kind.nodes.length * FACES.length;
        const seen = await seenIn(out);
        expect(seen).toMatchObject({ triangles, turned: 0, twisted: 0 });
        expect((await validateBytes(out)).issues.numErrors).toBe(0);
        const small = await FORMATS[format].write(evaluated, assets, true);
        const box = seen.box.map((x) => expect.closeTo(x, 2));
        expect(await seenIn(small)).toEqual({ triangles, turned: 0, twisted: 0, box });
        expect((await validateBytes(small)).issues.numErrors).toBe(0);
      }),
      { numRuns: 25 },
    );
  },
);

test("the mesh of a prop is its file's, turned by its nodes first and by its preparation then", async () => {
  await fc.assert(
    fc.asyncProperty(kinds, async (kind) => {
      const found = await bringInFile({ name: "a.glb", bytes: await pyramidFile(kind) }, []);
      const prepared = preparationSchema.parse({ size: 1.5, turn: [0.4, -1, 0.2], pivot: "top" });
      const [evaluated, assets] = evaluateAlone({ ...found, prepared });
      const out = await plainIO().readBinary(await FORMATS.glb.write(evaluated, assets));
      const matrix = new Matrix4().fromArray([...preparationMatrix(evaluated.scene.props[0]), 0, 0, 0, 1]).transpose();
      const read = out.getRoot().listMeshes()[0].listPrimitives();
      kind.nodes.forEach((node, k) => {
        const position = read[k].getAttribute("POSITION")!;
        FACES.flat().forEach((corner, i) => {
          const place = corner.clone().applyMatrix4(node.matrix).applyMatrix4(matrix);
          expect(position.getElement(i, [])).toEqual(place.toArray().map((x) => expect.closeTo(x, 4)));
        });
      });
    }),
    { numRuns: 30 },
  );
});

test("a surface's mesh is as its file shows it: its volume counts as outside in whichever mirror its nodes are", async () => {
  await fc.assert(
    fc.asyncProperty(kinds, async (kind) => {
      const { position, index } = await readTriangleMesh(await pyramidFile(kind), "a.glb");
      const at = (corner: number) => new Vector3(...[0, 1, 2].map((axis) => position[3 * index[corner] + axis]));
      let volume = 0;
      for (let c = 0; c < index.length; c += 3) volume += at(c).dot(at(c + 1).cross(at(c + 2))) / 6;
      const own = (2.06 * 1.5) / 6;
      const expected = kind.nodes.reduce((sum, { matrix }) => sum + own * Math.abs(matrix.determinant()), 0);
      expect(volume).toBeCloseTo(expected, 4);
    }),
    { numRuns: 60 },
  );
});

test("a small mesh 50 km from its origin keeps its shape, exported with its pivot taken off and as what things stand on", async () => {
  const far = new Matrix4().makeTranslation(50_000, 120, -30_000);
  const bytes = await pyramidFile({ nodes: [{ matrix: far, shared: false }], indexed: true, normals: "float" });
  const evaluated = await dressed(bytes, 0, { pivot: "bottom" });
  const out = await FORMATS.glb.write(evaluated, new Map([[hashOf(bytes), bytes]]));
  const [mesh] = (await plainIO().readBinary(out)).getRoot().listMeshes();
  const read = mesh.listPrimitives()[0].getAttribute("POSITION")!.getArray()!;
  const surface = await readTriangleMesh(bytes, "a.glb");
  FACES.flat().forEach((corner, i) => {
    [...corner].forEach((x, axis) => {
      expect(read[3 * i + axis] - read[axis]).toBeCloseTo(x - FACES[0][0].getComponent(axis), 5);
      expect(surface.position[3 * i + axis]).toBeCloseTo(x + far.elements[12 + axis], 6);
    });
  });
});
