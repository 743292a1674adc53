/** Looking for what is wrong over many frames: of each thing that is, the moment at which it is worst. */
import type { Assets } from "@/core/files";
import type { Scene } from "@/core/scene";
import { Engine } from "./engine";
import { checkedFrames, evaluateScene, type ToldFinding } from "./jobs";

/** *The worst of one finding* over the frames that were looked at. */
export interface WorstFinding {
  /** As it is at its worst moment. */
  finding: ToldFinding;
  /** The frame of that moment, and at how many frames there is such a finding at all. */
  frame: number;
  frames: number;
}

/** What a finding is about, so that it is known again at another moment. */
const about = ({ check, dressing, line = "", prop = "" }: ToldFinding): string =>
  [check, dressing, line, prop].join("\n");

/** Whether the first is worse: by what is measured, else by how many placements it names. */
const isWorse = (a: ToldFinding, b: ToldFinding): boolean =>
  a.worst !== undefined && b.worst !== undefined && a.worst !== b.worst ? a.worst > b.worst : a.count > b.count;

/**
 * @param frames the first and the last one
 * @param looked is told how far it is, from 0 to 1, and whether to go on
 * @throws InputError when the scene has no such frames
 * @returns in the order of the rail; of those that are equally bad at several frames the first; null when it was stopped
 */
export async function lookThrough(
  scene: Scene,
  assets: Assets,
  [first, last]: readonly [number, number],
  looked?: (share: number) => Promise<boolean> | boolean,
): Promise<WorstFinding[] | null> {
  checkedFrames(scene, first, last);
  const engine = new Engine();
  const worst = new Map<string, WorstFinding>();
  for (let frame = first; frame <= last; frame++) {
    const { findings } = await evaluateScene(scene, assets, { frame, poking: true }, engine);
    const here = new Map<string, ToldFinding>();
    for (const finding of findings) {
      const known = here.get(about(finding));
      if (!known || isWorse(finding, known)) here.set(about(finding), finding);
    }
    for (const [key, finding] of here) {
      const known = worst.get(key);
      if (!known || isWorse(finding, known.finding))
        worst.set(key, { finding, frame, frames: (known?.frames ?? 0) + 1 });
      else known.frames++;
    }
    if (looked && !(await looked((frame - first + 1) / (last - first + 1)))) return null;
  }
  const order = new Map(scene.dressings.map(({ id }, i) => [id, i]));
  return [...worst.values()].sort((a, b) => order.get(a.finding.dressing)! - order.get(b.finding.dressing)!);
}
