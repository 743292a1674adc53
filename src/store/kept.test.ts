import "./testing";
import { db } from "./db";
import { keep, kept } from "./kept";

test("what solids came to is there again by its name, and the oldest go when there is too much", async () => {
  const clock = jest.spyOn(Date, "now");
  let now = 1000;
  clock.mockImplementation(() => now++);
  const large = 100 * 2 ** 20;
  for (const name of ["a", "b"]) await keep(name, { mesh: Float32Array.of(1, 2), of: name }, large);
  expect(await kept("a")).toEqual({ mesh: Float32Array.of(1, 2), of: "a" });
  // It was asked for last, so the other one goes.
  await keep("c", { of: "c" }, large);
  expect([await kept("a"), await kept("b"), await kept("c")].map(Boolean)).toEqual([true, false, true]);
  await keep("huge", {}, 1000 * 2 ** 20);
  expect([await db.solids.count(), await db.solidUses.count()]).toEqual([2, 2]);
  clock.mockRestore();
});
