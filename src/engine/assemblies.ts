/**
 * What assemblies come to: all that stands in their dressings, gathered once for all uses, or once for each variant; and what
 * dressings come to with the assemblies among their props taken apart.
 */
import { type Finding } from "@/core/check";
import type { Nest, UsedAssembly } from "@/core/files";
import { query, step, type Ask } from "@/core/graph";
import { hashText } from "@/core/math";
import {
  boxOfAll,
  cutsAtEnd,
  kindOf,
  expanded,
  gathered,
  settledEach,
  standingMesh,
  type Contents,
  type Expanded,
  type Gathered,
  type Inside,
  type Placements,
} from "@/core/place";
import { groundsUnder } from "@/core/mesh";
import { preparationMatrix } from "@/core/scene";
import { findings, forgetting, groundsAt, leftOut, placements, rules } from "./dressings";
import { dressingInput, idsIn, isVariant, keyOfIds, plainId, variantName } from "./scopes";
import { seenIn, seenSurfaces } from "./seen-surfaces";
import { MOST_INSIDE, variantsOf, variantsUsed, type Variants } from "./variants";
import * as things from "./things";

/** So many stand in a dressing with all that is in its assemblies. */
const MOST_EXPANDED = 4_000_000;
/** Assemblies of more triangles than this are stood on, and kept clear of, by their boxes. */
const MOST_TRIANGLES = 200_000;

const gatherStep = step("gather", gathered);
const settleStep = step("settle each", settledEach);

/** What the dressings of an assembly, or of a variant of one, come to, and those of its surfaces that are seen. */
const contents = (ask: Ask, id: string): Gathered[] => [
  ...idsIn(ask, "dressings", id).flatMap((dressing) => {
    const whole = ask(takenApart, dressing);
    return whole ? [{ salt: hashText(plainId(ask, dressing)), inside: whole }] : [];
  }),
  ...seenIn(ask, id),
];

/** What an assembly holds in the coordinates of its dressings. */
export const rawInside = query("raw inside", (ask, id): Inside | undefined =>
  ask(things.isAssembly, id) ? ask.step(gatherStep, contents(ask, id), null, MOST_INSIDE) : undefined,
);

const preparing = query("preparation of assembly", (ask, id): readonly number[] | undefined => {
  const prop = ask(things.prop, id);
  return prop?.assembly ? preparationMatrix(prop) : undefined;
});

/** The same from its pivot, as it is prepared; also of a variant. */
const inside = query("inside", (ask, id): Inside | undefined => {
  const matrix = ask(preparing, plainId(ask, id));
  const { step } = ask(isVariant, id) ? forgetting(ask) : ask;
  return matrix && step(gatherStep, contents(ask, id), matrix, MOST_INSIDE);
});

things.insideBox.is((ask, id) => {
  const raw = ask(rawInside, id)?.placements;
  const box = raw && boxOfAll(raw, (prop) => ask(things.drawnBounds, prop));
  if (!raw || !box) return undefined;
  const [x, y, z] = raw.origin;
  return {
    min: [box.min[0] + x, box.min[1] + y, box.min[2] + z],
    max: [box.max[0] + x, box.max[1] + y, box.max[2] + z],
  };
});

things.insideMesh.is((ask, id) => {
  const whole = ask(inside, id)?.placements;
  if (!whole) return undefined;
  const meshes = whole.props.map((prop) => ask(things.preparedMesh, prop));
  const all = Array.from({ length: whole.count }, (_, i) => i).filter((i) => meshes[whole.prop[i]]);
  const triangles = all.reduce((sum, i) => sum + meshes[whole.prop[i]]!.index.length / 3, 0);
  if (triangles === 0 || triangles > MOST_TRIANGLES) return undefined;
  const mesh = standingMesh(id, whole, all, (prop) => meshes[prop]!);
  return { position: Float32Array.from(mesh.position), index: mesh.rest.mesh.index, attributes: [] };
});

const expandStep = step(
  "taken apart",
  (p: Placements, ofProp: readonly (Inside | Variants | null)[], whole: boolean) => {
    const insideAt = (i: number): Inside | Contents | null => {
      const of = ofProp[p.prop[i]];
      return of && "at" in of ? of.inside.get(of.at[i])! : of;
    };
    return expanded(p, insideAt, MOST_EXPANDED, whole);
  },
);

/** A dressing's placements with the assemblies among them taken apart; null where none is. */
export const apart = query("apart", (ask, id): Expanded | null => {
  const p = ask(placements, id);
  if (!p?.props.some((prop) => ask(things.isAssembly, prop))) return null;
  const wholeOf = (dressing: string) => ask(takenApart, dressing);
  const ofProp = p.props.map((prop) => {
    const matrix = ask(preparing, prop);
    return matrix ? (variantsOf(ask, id, prop, matrix, wholeOf) ?? ask(inside, prop) ?? null) : null;
  });
  const out = ask.step(expandStep, p, ofProp, !ask(bending, id));
  return out && ask(settling, id) ? settled(ask, id, out, p) : out;
});

/** Whether things in a dressing's assemblies are set down each by itself. */
const settling = query("settling", (ask, id) => ask(rules, id)?.fit.apart === "each");

/** Whether they are bent or clipped with their assembly. */
const bending = query("bending", (ask, id) => {
  const own = ask(rules, id);
  if (!own) return false;
  return own.fit.bend || (kindOf(own.where).ordered && (own.fit.clip || cutsAtEnd(own.spacing)));
});

/** They go to what the dressing is dropped onto; on surfaces that it lies on they are already. */
function settled(ask: Ask, id: string, out: Expanded, p: Placements): Expanded {
  const { fit } = ask(rules, id)!;
  const grounds = fit.drop === "off" ? [] : groundsUnder(fit.onto, groundsAt(ask, id));
  if (grounds.length === 0) return out;
  const are = p.props.map((prop) => ask(things.isAssembly, prop));
  return ask.step(settleStep, out, p, are, grounds);
}

leftOut.is((ask, id) => ask(apart, id)?.leftOut ?? 0);

/** What stands in a dressing in the end. */
const takenApart = query("whole", (ask, id): Inside | undefined => {
  const p = ask(placements, id);
  return p && (ask(apart, id) ?? { placements: p, leftOut: 0 });
});

/** Whether assemblies in a dressing are more than what is in them, moved and turned: no node has them then. */
const isLoosened = query("loosened", (ask, id): boolean => {
  const p = ask(placements, id);
  const entry = p?.shapes?.entry;
  const are = p?.props.map((prop) => ask(things.isAssembly, prop)) ?? [];
  return ask(settling, id) || (entry?.some((own, i) => own >= 0 && are[p!.prop[i]]) ?? false);
});

/**
 * A dressing with its assemblies as such, for files in which they are nodes of their own; null where none stands in it, or where
 * they are bent, or things in them are set down each by itself.
 */
export const nest = query("nest", (ask, id): Nest | null =>
  ask(apart, id) && !ask(isLoosened, id) ? nestOf(ask, id) : null,
);

function nestOf(ask: Ask, id: string): Nest | null {
  const taken = ask(isLoosened, id) ? ask(apart, id) : null;
  if (taken) return { placements: taken.placements, at: () => null };
  const p = ask(placements, id);
  if (!p) return null;
  const uses = new Map<string, UsedAssembly>();
  const used = (prop: string, scope: string): UsedAssembly => {
    let known = uses.get(scope);
    if (!known) {
      const dressings = idsIn(ask, "dressings", scope).flatMap((dressing) => {
        const inner = nestOf(ask, dressing);
        const plain = plainId(ask, dressing);
        return inner ? [{ name: ask(dressingInput, plain)!.name, salt: hashText(plain), nest: inner }] : [];
      });
      const surfaces = seenSurfaces(ask, scope).map(({ name, salt, placements }) => ({
        name,
        salt,
        nest: { placements, at: () => null },
      }));
      uses.set(
        scope,
        (known = {
          name: ask(things.propInput, prop)!.name,
          matrix: ask(preparing, prop)!,
          dressings: [...dressings, ...surfaces],
        }),
      );
    }
    return known;
  };
  const each = p.props.map((prop) =>
    ask(things.isAssembly, prop) ? { prop, at: ask(variantsUsed, keyOfIds(id, prop))?.at } : null,
  );
  // All is asked for now: whoever writes it does so later.
  const found = Array.from(p.prop, (index, i) => {
    const one = each[index];
    return one ? used(one.prop, one.at ? variantName(one.prop, one.at[i]) : one.prop) : null;
  });
  return { placements: p, at: (i) => found[i] };
}

/** The assemblies that stand in a dressing. */
const assembliesIn = (ask: Ask, dressing: string): string[] =>
  (ask(placements, dressing)?.props ?? []).filter((prop) => ask(things.isAssembly, prop));

/** A finding in an assembly, and the way there: the assemblies that are in each other, from outside. */
export interface InnerFinding {
  path: readonly string[];
  finding: Finding;
}

/** What is found inside the assemblies that stand in a dressing; in each assembly once, as it is by itself. */
export const innerFindings = query("inner findings", (ask, id): readonly InnerFinding[] => {
  const paths = new Map<string, readonly string[]>();
  const out: InnerFinding[] = [];
  const visit = (ids: readonly string[], path: readonly string[]): void => {
    const next = ids.flatMap((dressing) => assembliesIn(ask, dressing)).filter((prop) => !paths.has(prop));
    for (const prop of next) paths.set(prop, [...path, prop]);
    for (const prop of new Set(next)) {
      const dressings = idsIn(ask, "dressings", prop);
      for (const dressing of dressings)
        for (const finding of ask(findings, dressing)) out.push({ path: paths.get(prop)!, finding });
      visit(dressings, paths.get(prop)!);
    }
  };
  visit([id], []);
  return out;
});
