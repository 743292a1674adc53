/** Which still of its file's clip each placement stands in. */
import fc from "fast-check";
import { evenly } from "../../math/testing";
import { GuideLine } from "../../line";
import { placeOfKey } from "../keys";
import { BOUNDS, evaluate, dressing, straight } from "../testing";
import { gathered } from "../expand";
import { emptyPlacements } from "../under";
import { posesFrom, stillAt, type Still } from "./poses";
import type { Variation } from "./schema";

const SECONDS = 2.5;

function posedOn(variation: Partial<Variation>, count = 40) {
  const line = straight(20);
  const own = dressing({ spacing: { by: "count", count }, what: { entries: [{ prop: "buoy", count: 3 }, { prop: "oar" }] }, variation: { clip: 1, ...variation } }, [line]); // prettier-ignore
  const clips = new Map([["buoy", [9, SECONDS]]]);
  return evaluate(own, { guides: new Map([[line.id, new GuideLine(line)]]), bounds: BOUNDS, clips });
}

test("without a clip nobody poses; still, all stand at one moment of it; who has none stands as at rest", () => {
  expect(posedOn({}).posed).toBeNull();
  expect(posedOn({ pose: "own", clip: 7 }).posed).toBeNull();
  const { posed, props } = posedOn({ pose: "still", clipAt: 3.1 });
  expect([...posed!.poses.moment].map((at) => Number(at.toFixed(6)))).toEqual(props.map((prop) => (prop === "buoy" ? 0.6 : NaN))); // prettier-ignore
  expect(new Set(posed!.pose)).toEqual(new Set([0]));
});

test("in step all take the still nearest to the moment, round and round; each its own is nearest to its own moment", () => {
  fc.assert(
    fc.property(evenly(-20, 20), evenly(-3, 3), fc.integer({ min: 2, max: 40 }), (gone, clipAt, stills) => {
      const near = (pose: number, at: number) => {
        const off = Math.abs((((pose / stills) * SECONDS - at) % SECONDS) + SECONDS) % SECONDS;
        return Math.min(off, SECONDS - off);
      };
      const step = posedOn({ pose: "step", clipAt, stills, clipGone: [gone, gone] });
      step.posed!.pose.forEach((pose, i) => {
        if (step.props[step.prop[i]] === "buoy") expect(near(pose, clipAt + gone)).toBeLessThan(SECONDS / stills / 2 + 1e-6); // prettier-ignore
      });
      const order = posedOn({
        pose: "own",
        clipAt,
        stills,
        clipStarts: "order",
        clipStep: 0.3,
        clipGone: [gone, gone],
      });
      order.posed!.pose.forEach((pose, i) => {
        if (order.props[order.prop[i]] === "buoy") expect(near(pose, clipAt + gone - 0.3 * placeOfKey(order.key[i]))).toBeLessThan(SECONDS / stills / 2 + 1e-6); // prettier-ignore
      });
    }),
  );
});

test("starts are dealt evenly by the key: as time goes on nobody jumps, and one more is one more", () => {
  const at = (gone: number, count = 400) => posedOn({ pose: "own", clipGone: [gone, gone], clipSpeed: [1, 1] }, count);
  const [now, soon, more] = [at(1), at(1 + SECONDS / 16), at(1, 401)];
  const counts = new Array<number>(16).fill(0);
  now.posed!.pose.forEach((pose, i) => {
    if (now.props[now.prop[i]] !== "buoy") return;
    counts[pose]++;
    expect((soon.posed!.pose[i] - pose + 16) % 16).toBe(1);
    expect(more.posed!.pose[i]).toBe(pose);
  });
  expect(Math.min(...counts)).toBeGreaterThan(5);
});

test("stills of several sets become those of one, by prop, and each still stands in its own", () => {
  const set = (props: string[], ofProp: (Still | null)[][], prop: number[], pose: number[]) => ({
    ...emptyPlacements(prop.length, [0, 0, 0], null),
    props,
    tints: ["#ffffff"],
    prop: Uint16Array.from(prop),
    posed: { pose: Uint16Array.from(pose), poses: posesFrom(ofProp) },
  });
  const [early, late, other] = [
    { clip: 1, moment: 0 },
    { clip: 1, moment: 0.5 },
    { clip: 2, moment: 0.25 },
  ];
  const first = set(["crate", "raft"], [[null], [early, late]], [0, 1, 1], [0, 0, 1]);
  const second = set(["raft", "oar"], [[other, late], [early]], [0, 0, 1], [0, 1, 0]);
  const from = [first, second].map((placements, salt) => ({ salt, inside: { placements, leftOut: 0 } }));
  const { prop, posed } = gathered(from, null, 99).placements;
  expect([...prop.keys()].map((i) => stillAt(posed!.poses, prop[i], posed!.pose[i]))).toEqual([null, early, late, other, late, early]); // prettier-ignore
});
