/** Bare: a surface or an area that a dressing is to be spread over, and on which nothing stands. */
import { kindOf, fieldIdsOf } from "../place";
import { metres, say, thing, NO_KEYS, type Check, type Finding, type Sentence } from "./finding";

export const bare: Check = {
  name: "bare",
  label: "Nothing on it",
  find({ dressing, placements }) {
    const { where, spacing } = dressing;
    if (kindOf(where).ordered || !kindOf(where).ruled) return [];
    const slots = new Uint32Array(placements.fields.length);
    for (let i = 0; i < placements.count; i++) slots[placements.line[i]]++;
    const finding = (line: string, message: Sentence): Finding => ({
      check: "bare",
      dressing: dressing.id,
      line,
      keys: NO_KEYS,
      count: 0,
      message,
    });
    const stands = kindOf(where).fills ? "is inside" : "stands on";
    return fieldIdsOf(where).flatMap((id): Finding[] => {
      const field = placements.fields.indexOf(id);
      if (field < 0) {
        const why =
          kindOf(where).onSurfaces && where.surfaces.length > 0
            ? whyNoSurface(where.areas)
            : "it is not closed, or has no inside";
        return [finding(id, say`Nothing ${stands} ${thing(id)}: ${why}.`)];
      }
      if (slots[field] > 0) return [];
      const { laysOut } = kindOf(where);
      if (laysOut && where.patch.layout.kind === "area" && where.areas.length === 0)
        return [finding(id, say`Nothing ${stands} ${thing(id)}: the layout has no outline yet.`)];
      if (laysOut && where.patch.layout.kind !== "area")
        return [
          finding(id, say`Nothing ${stands} ${thing(id)}: the layout has no place on it, or the gaps leave none.`),
        ];
      const apart = spacing.amount === "distance" ? `, or ${metres(spacing.distance)} is too far apart` : "";
      return [finding(id, say`Nothing ${stands} ${thing(id)}: the gaps leave no room there${apart}.`)];
    });
  },
};

const whyNoSurface = (areas: readonly string[]): string =>
  areas.length > 0 ? "no area on it has an inside, or its mesh is not there" : "its mesh is not there";
