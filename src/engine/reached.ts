/** What hangs on what, by what things say: whoever asks for it can tell a circle before it goes round in it. */
import { query } from "@/core/graph";
import { dressingInput, idsBeside, idsInput, listName, ownDressing, ownLine, ownSurface, varying } from "./scopes";
import { namedBy, PARTS } from "@/core/scene";
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
  const list = line ? "lines" : surface ? "surfaces" : "dressings";
  const thing = line ?? surface ?? dressing;
  if (!thing) return [];
  const { ids, anyGround, anyLine } = namedBy(list, thing, (other) => ask(ownLine, other));
  const there = new Set(PARTS.flatMap((one) => idsBeside(ask, one, id)));
  return [
    ...[...ids].filter((other) => there.has(other)),
    ...(anyLine ? idsBeside(ask, "lines", id) : []),
    ...(anyGround ? things.groundsFor(ask, id) : []),
  ];
});

varying.is((ask, assembly) => {
  const all = PARTS.flatMap((list) => ask(idsInput, listName(list, assembly)) ?? []);
  const hangs = (id: string) => [...ask(reached, id)].some((other) => ask(dressingInput, other) !== undefined);
  return new Set(all.filter(hangs));
});
