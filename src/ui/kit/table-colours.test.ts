import { readFileSync } from "node:fs";
import { DRAWN } from "./table-colours";

test("what is drawn by hand has the colours of the style sheet, on the light table and on the dark one", () => {
  const sheet = readFileSync("src/app/globals.css", "utf8");
  const [light, dark] = [sheet.split(":root[data-table")[0], sheet.split(":root[data-table")[1].split("}")[0]];
  const token = (css: string, name: string) => css.match(new RegExp(`--color-${name}: (#\\w+);`))?.[1];
  const named = {
    ink: "ink-9",
    faint: "ink-5",
    linen0: "linen-0",
    linen1: "linen-1",
    linen2: "linen-2",
    linen3: "linen-3",
  };
  for (const [name, colour] of Object.entries(named) as [keyof typeof named, string][])
    expect([name, DRAWN.light[name], DRAWN.dark[name]]).toEqual([name, token(light, colour), token(dark, colour)]);
});
