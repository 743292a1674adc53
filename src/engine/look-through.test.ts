/** What is wrong over the whole time. */
import { harbourScene } from "@/core/scene/testing";
import { evaluateScene } from "./jobs";
import { lookThrough } from "./look-through";

const LAST = 23;

/** Buoys that come nearer to each other and go apart again within a second, and oars that stand wrong all the time. */
function crowding() {
  const scene = harbourScene();
  const [buoys] = scene.dressings;
  buoys.spacing = { ...buoys.spacing, by: "distance" };
  buoys.courses = {
    "spacing/distance": {
      keyframes: [3, 0.05, 3].map((value, at) => ({ at: 0.5 * at, value, go: "straight" as const })),
      before: "hold",
      after: "hold",
    },
  };
  return { ...scene, time: { ...scene.time, framesPerSecond: 24 } };
}

test("of each thing that is wrong the worst moment is told, and at how many frames it is so at all", async () => {
  const scene = crowding();
  const shares: number[] = [];
  const worst = (await lookThrough(scene, new Map(), [0, LAST], (share) => shares.push(share) > 0))!;
  expect(shares).toHaveLength(LAST + 1);
  expect(shares.at(-1)).toBe(1);
  const each = await Promise.all(
    Array.from({ length: LAST + 1 }, (_, frame) => evaluateScene(scene, new Map(), { frame, poking: true })),
  );
  const kinds = new Set(each.flatMap(({ findings }) => findings.map(({ check, dressing }) => `${check} ${dressing}`)));
  expect(kinds.size).toBeGreaterThan(0);
  expect(new Set(worst.map(({ finding }) => `${finding.check} ${finding.dressing}`))).toEqual(kinds);
  let crowded = 0;
  for (const { finding, frame, frames } of worst) {
    const alike = each.map(
      ({ findings }) =>
      findings.filter(({ check, dressing, line, prop }) => check === finding.check && dressing === finding.dressing && line === finding.line && prop === finding.prop), // prettier-ignore
    );
    expect(frames).toBe(alike.filter(({ length }) => length > 0).length);
    expect(alike[frame]).toContainEqual(finding);
    for (const other of alike.flat()) expect(other.worst ?? 0).toBeLessThanOrEqual(finding.worst ?? 0);
    if (finding.check === "too-close") crowded = frame;
  }
  expect(crowded).toBe(12);
});

test("it can be stopped, and asks for frames that there are", async () => {
  const scene = crowding();
  let looked = 0;
  expect(await lookThrough(scene, new Map(), [0, LAST], () => ++looked < 3)).toBeNull();
  expect(looked).toBe(3);
  await expect(lookThrough(scene, new Map(), [0, 1e6])).rejects.toThrow(/no frame/);
  await expect(lookThrough(scene, new Map(), [5, 2])).rejects.toThrow(/end before they begin/);
});
