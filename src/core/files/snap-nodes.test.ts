/** Snap points in files: what a prop's file brings of them, and where they are in what is exported. */
import type { Node } from "@gltf-transform/core";
import { validateBytes } from "gltf-validator";
import { distance, rotate, type Vec3 } from "../math";
import { hexOf, standingAt } from "../place";
import { evaluate } from "../place/testing";
import { GuideLine } from "../line";
import { straight } from "../place/testing";
import { emptyScene, sceneSchema, snapPointsOf } from "../scene";
import { snapFrame } from "../tie";
import { hashOf } from "./assets";
import { plainIO } from "./gltf";
import { makeGlb } from "./testing";
import { FORMATS, readPropFile } from ".";

const ruled = { variation: { turnOn: true, turnUp: [-3, 3], sizeOn: true, size: [0.5, 2], mirror: 0.5 }, gaps: { chance: 0.2 } }; // prettier-ignore

async function exported(form: "glb" | "glb-plain", fit: object, snaps?: boolean) {
  const bytes = await makeGlb({});
  const snap = { name: "hook", position: [0.1, 0.4, -0.2], direction: [1, 1, 0] };
  const line = straight(6);
  const scene = sceneSchema.parse({
    ...emptyScene("Quay"),
    props: [
      {
        id: "p",
        name: "P",
        asset: hashOf(bytes),
        ...(await readPropFile(bytes, "p.glb")),
        prepared: { snaps: [snap], size: 1.5 },
      },
    ],
    lines: [line],
    dressings: [
      { id: "d", name: "Row", where: { lines: [line.id] }, what: { entries: [{ prop: "p" }] }, fit, ...ruled },
    ],
  });
  const placements = evaluate(scene.dressings[0], {
    guides: new Map([[line.id, new GuideLine(line)]]),
    bounds: new Map([["p", scene.props[0].bounds]]),
  });
  const evaluated = { scene, dressings: [{ dressing: scene.dressings[0], placements }], snaps };
  const file = await FORMATS[form].write(evaluated, new Map([[hashOf(bytes), bytes]]));
  expect((await validateBytes(file)).issues.numErrors).toBe(0);
  const nodes = (await plainIO().readBinary(file)).getRoot().listNodes().filter((node) => node.getName() === "hook"); // prettier-ignore
  const [hook] = snapPointsOf(scene.props[0]);
  const wanted = Array.from({ length: placements.count }, (_, i) => ({ i, ...standingAt(placements, i) }))
    .filter(({ prop }) => prop !== null)
    .map((standing) => ({ key: hexOf(placements.key[standing.i]), frame: snapFrame(standing, hook) }));
  return { nodes, wanted };
}

const placeOf = (node: Node): Vec3 => node.getWorldTranslation();
const upOf = (node: Node): Vec3 => {
  const m = node.getWorldMatrix();
  const long = Math.hypot(m[4], m[5], m[6]);
  return [m[4] / long, m[5] / long, m[6] / long];
};

test.each([
  ["glb", {}],
  ["glb-plain", {}],
  ["glb-plain", { bend: true }],
] as const)(
  "in %s, %j, every prop carries its snap points where they are, by name, pointing where they point",
  async (form, fit) => {
    const { nodes, wanted } = await exported(form, fit);
    expect(nodes).toHaveLength(wanted.length);
    expect(wanted.length).toBeGreaterThan(3);
    for (const { frame } of wanted) {
      const node = nodes.find((one) => distance(placeOf(one), frame.position) < 1e-4);
      expect(node).toBeDefined();
      expect(distance(upOf(node!), rotate(frame.rotation, [0, 1, 0]))).toBeLessThan(1e-3);
    }
    expect((await exported(form, fit, false)).nodes).toHaveLength(0);
  },
);

test("nodes of a prop's file without a mesh are offered by their names, where they are", async () => {
  const io = plainIO();
  const document = await io.readBinary(await makeGlb({}));
  const scene = document.getRoot().listScenes()[0];
  const arm = document.createNode("arm").setTranslation([0, 2, 0]).setRotation([0, 0, Math.SQRT1_2, Math.SQRT1_2]);
  scene.addChild(arm.addChild(document.createNode("eye").setTranslation([0, 0.5, 0])));
  scene.addChild(document.createNode(" ").setTranslation([9, 9, 9]));
  const { empties } = (await readPropFile(await io.writeBinary(document), "hook.glb")).brought;
  expect(empties.map(({ name }) => name)).toEqual(["arm", "eye"]);
  expect(distance(empties[1].position, [-0.5, 2, 0])).toBeLessThan(1e-6);
  expect(distance(empties[1].direction, [-1, 0, 0])).toBeLessThan(1e-6);
});
