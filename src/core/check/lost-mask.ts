/** Lost mask: a picture that is to say where things stand is not there or cannot be laid on. It is left out of account. */
import { kindOf } from "../place";
import { say, NO_KEYS, type Check } from "./finding";

export const lostMask: Check = {
  name: "lost-mask",
  label: "Mask",
  find({ dressing, image, fields }) {
    if (!kindOf(dressing.where).onSurfaces) return [];
    const bare = [...fields.values()].some(({ uv }) => !uv);
    return dressing.gaps.images.flatMap(({ asset, name, project }) => {
      const lost = image(asset) ? null : "is missing or damaged";
      const why = lost ?? (project === "uv" && bare ? "goes by UVs, which the surface does not have" : null);
      const message = say`The picture ${name ? `“${name}” ` : ""}of a mask ${why ?? ""}; things stand as if it were not there.`;
      return why ? [{ check: "lost-mask", dressing: dressing.id, keys: NO_KEYS, count: 0, message }] : [];
    });
  },
};
