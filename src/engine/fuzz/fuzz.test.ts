import { fuzz } from "./run";

/** More by `FUZZ=20000 npx jest fuzz`. */
const EDITS = Number(process.env.FUZZ ?? 300);

test("whatever is edited, what is remembered comes to the same bytes as computing anew", async () => {
  expect(await fuzz({ edits: EDITS, seed: Number(process.env.SEED ?? 1) })).toBeNull();
});
