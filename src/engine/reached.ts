/** What hangs on what, by what things say: whoever asks for it can tell a circle before it goes round in it. */
import { query } from "@/core/graph";
import { familyOf, isFamily, laidOf } from "@/core/line";
import { dressingInput, idsBeside, idsInput, listName, ownDressing, ownLine, ownSurface, varying } from "./scopes";
import { THING_SCHEMAS } from "@/core/scene";
import { eachId } from "@/core/schema";
import * as things from "./things";

/** All that something hangs on, itself among it, by ids: whatever it names, and the grounds or lines where it names none of them. */
export const reached = query("reached", (ask, start): ReadonlySet<string> => {
  const found = new Set([start]);
  for (const id of found) for (const other of ask(named, id)) found.add(other);
  return found;
});

/** The lines, surfaces and dressings that one of them names anywhere in what it says; and all grounds, if it may lie on any. */
const named = query("named", (ask, id): readonly string[] => {
  const [line, surface, dressing] = [ask(ownLine, id), ask(ownSurface, id), ask(ownDressing, id)];
  const all = new Set((["lines", "surfaces", "dressings"] as const).flatMap((list) => idsBeside(ask, list, id)));
  const out = new Set<string>();
  const add = (other: string) => void (other !== id && all.has(other) && out.add(other));
  const list = line ? "lines" : surface ? "surfaces" : "dressings";
  eachId(THING_SCHEMAS[list], line ?? surface ?? dressing, (other) => {
    add(other);
    add(familyOf(other) ?? other);
  });
  const laid = line && laidOf(line);
  const onAny =
    (laid && laid.kind !== "edges" && laid.on.length === 0) ||
    (dressing && dressing.fit.drop !== "off" && dressing.fit.onto.length === 0);
  const faced = ask(ownLine, dressing?.stance.thing ?? "");
  const facesAny = dressing?.stance.forward === "line" && (!faced || isFamily(faced));
  if (facesAny) for (const one of idsBeside(ask, "lines", id)) out.add(one);
  if (onAny) for (const one of things.groundsFor(ask, id)) out.add(one);
  return [...out];
});

varying.is((ask, assembly) => {
  const all = (["lines", "surfaces", "dressings"] as const).flatMap(
    (list) => ask(idsInput, listName(list, assembly)) ?? [],
  );
  const hangs = (id: string) => [...ask(reached, id)].some((other) => ask(dressingInput, other) !== undefined);
  return new Set(all.filter(hangs));
});
