/** What checks find in tests, with sentences as they are told. */
import { findings, spoken, type Finding, type NameOf } from ".";
import type { WorldMesh } from "../mesh";
import type { Checked } from "./finding";
import type { Dressing, Placements } from "../place";
import type { Around } from "../place/testing";

export type Told = Omit<Finding, "message"> & { message: string };

export const told = (found: readonly Finding[], nameOf: NameOf = (id) => id): Told[] =>
  found.map((one) => ({ ...one, message: spoken(one.message, nameOf) }));

export function foundOn(
  dressing: Dressing,
  placements: Placements,
  { guides, bounds }: Pick<Around, "guides" | "bounds">,
  more: {
    nameOf?: NameOf;
    fields?: ReadonlyMap<string, WorldMesh>;
    image?: (asset: string) => boolean;
    oddity?: Checked["oddity"];
    volume?: Checked["volume"];
  } = {},
): Told[] {
  const { nameOf, fields = new Map<string, WorldMesh>(), image = () => false } = more;
  const { oddity = () => null, volume = () => undefined } = more;
  const found = findings({
    dressing,
    placements,
    line: (id) => guides.get(id),
    box: (prop) => bounds.get(prop),
    body: () => undefined,
    image,
    grounds: [],
    fields,
    volume,
    hull: () => undefined,
    oddity,
    circle: [],
    ties: [],
    uncounted: [],
    leftOut: 0,
    emptyRoles: [],
    boxed: [],
  });
  return told(found, nameOf);
}
