/** Empty role: a role of a dressing's recipe, or of that of the assembly that it is in, which no prop plays, so that its slots stay blank. */
import { say, NO_KEYS, type Check } from "./finding";

export const roleEmpty: Check = {
  name: "role-empty",
  label: "Empty role",
  find({ dressing, emptyRoles }) {
    const { recipe } = dressing;
    const own = recipe ? recipe.recipe.roles.filter(({ id }) => !recipe.roles[id]) : [];
    const empty = [...own.map(({ name }) => name), ...emptyRoles];
    if (empty.length === 0) return [];
    const names = empty.map((name) => `“${name}”`).join(", ");
    return [
      {
        check: "role-empty",
        dressing: dressing.id,
        keys: NO_KEYS,
        count: empty.length,
        message: say`The recipe has no prop for ${names} yet, so its slots stay blank.`,
      },
    ];
  },
};
