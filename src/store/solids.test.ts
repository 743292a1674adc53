import "./testing";
import { db } from "./db";
import { keepSolid, keptSolid } from "./solids";

test("what solids came to is there again by its name, and the oldest go when there is too much", async () => {
  const clock = jest.spyOn(Date, "now");
  let now = 1000;
  clock.mockImplementation(() => now++);
  const large = 100 * 2 ** 20;
  for (const name of ["a", "b"]) await keepSolid(name, { mesh: Float32Array.of(1, 2), of: name }, large);
  expect(await keptSolid("a")).toEqual({ mesh: Float32Array.of(1, 2), of: "a" });
  // It was asked for last, so the other one goes.
  await keepSolid("c", { of: "c" }, large);
  expect([await keptSolid("a"), await keptSolid("b"), await keptSolid("c")].map(Boolean)).toEqual([true, false, true]);
  await keepSolid("huge", {}, 1000 * 2 ** 20);
  expect([await db.solids.count(), await db.solidUses.count()]).toEqual([2, 2]);
  clock.mockRestore();
});
