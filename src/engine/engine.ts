/**
 * *The engine: evaluates the dressings of a scene and remembers what it computed.* It runs in a worker for the application
 * and directly under Node; between two scenes it computes only what differs.
 */
import { findings, type Finding } from "@/core/check";
import { GuideLine, type Line } from "@/core/line";
import { evaluateChanged, StepMemory, type Dressing, type Placements, type PropBounds } from "@/core/place";
import type { Scene } from "@/core/scene";

/** What one dressing came to. */
export interface DressingResult {
  id: string;
  placements: Placements;
  findings: Finding[];
}

interface Remembered {
  memory: StepMemory;
  /** Names that findings speak of; when one changes, so do their sentences. */
  names: string;
}

export class Engine {
  #guides = new Map<string, { line: string; guide: GuideLine }>();
  #dressings = new Map<string, Remembered>();

  /** The results of all dressings that changed since the last call; of all at the first. */
  evaluate(scene: Scene): DressingResult[] {
    const guides = this.#guidesOf(scene.lines);
    const bounds = new Map<string, PropBounds>(scene.props.map((prop) => [prop.id, prop.bounds]));
    const lineNames = new Map(scene.lines.map((line) => [line.id, line.name]));
    const present = new Set(scene.dressings.map((dressing) => dressing.id));
    for (const id of this.#dressings.keys()) if (!present.has(id)) this.#dressings.delete(id);

    return scene.dressings.flatMap((dressing) => {
      const names = JSON.stringify(dressing.where.lines.map((id) => lineNames.get(id)));
      let remembered = this.#dressings.get(dressing.id);
      if (!remembered || remembered.names !== names) {
        remembered = { memory: new StepMemory(), names };
        this.#dressings.set(dressing.id, remembered);
      }
      const placements = evaluateChanged(dressing, { guides, bounds }, remembered.memory);
      return placements ? [this.#result(dressing, placements, lineNames)] : [];
    });
  }

  #result(dressing: Dressing, placements: Placements, lineNames: ReadonlyMap<string, string>): DressingResult {
    const lineName = (id: string) => lineNames.get(id) ?? "a line";
    return { id: dressing.id, placements, findings: findings({ dressing, placements, lineName }) };
  }

  /** The scene's lines as guides; a line that did not change keeps the guide that it had. */
  #guidesOf(lines: readonly Line[]): Map<string, GuideLine> {
    const next = new Map<string, { line: string; guide: GuideLine }>();
    for (const line of lines) {
      const text = JSON.stringify({ ...line, name: "" });
      const known = this.#guides.get(line.id);
      next.set(line.id, known?.line === text ? known : { line: text, guide: new GuideLine(line) });
    }
    this.#guides = next;
    return new Map([...next].map(([id, { guide }]) => [id, guide]));
  }
}
