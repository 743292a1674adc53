/** Finding commands by what they are called and by what they are good for. */
import { STEP_NAMES, STEP_SCHEMAS } from "@/core/place";
import type { ChoiceDescription } from "@/core/schema";
import { useSceneStore } from "@/store";
import { openStep, useSession } from "../state";
import { COMMANDS, type Command } from "./commands";

/** The commands that what the scene has makes possible: its views, and each step's options. */
export function commandsNow(): readonly Command[] {
  const { views } = useSceneStore.getState().shown;
  const seen = views.map(({ id, name }): Command => ({
    id: `view ${id}`,
    name: `See “${name}”`,
    words: "view camera",
    run: () => useSession.setState({ cameraWish: { kind: "view", id } }),
  }));
  return [...COMMANDS, ...seen, ...(useSession.getState().dressing === null ? [] : OPTIONS)];
}

/** Every option of the seven steps by its name, and what it is for; it leads to its step. */
const OPTIONS: readonly Command[] = STEP_NAMES.flatMap((step) =>
  Object.entries(STEP_SCHEMAS[step].shape).flatMap(([name, schema]): Command[] => {
    const said = (schema as { meta: () => Partial<ChoiceDescription> | undefined }).meta();
    if (!said?.label) return [];
    return [
      {
        id: `${step} ${name}`,
        name: `${step[0].toUpperCase()}${step.slice(1)}: ${said.label}`,
        words: [said.help, ...Object.values(said.choices ?? {})].join(" "),
        deep: true,
        run: () => openStep(step),
      },
    ];
  }),
);

/** The commands that are found by words: those whose names have them first, then those that are about them. */
export function found(commands: readonly Command[], query: string): Command[] {
  const asked = query.toLowerCase().split(/\s+/).filter(Boolean);
  const ranked = commands.flatMap((command) => {
    const name = command.name.toLowerCase();
    const about = `${name} ${command.words?.toLowerCase() ?? ""}`;
    if (!asked.every((word) => about.includes(word))) return [];
    const rank = asked.every((word) => name.includes(word)) ? 0 : 1;
    return [{ command, rank: rank + (command.deep ? 0.5 : 0) }];
  });
  return ranked.sort((a, b) => a.rank - b.rank).map(({ command }) => command);
}
