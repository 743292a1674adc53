/** What stands in the way of a solid, and how that is said. */

export type SolidTrouble =
  /** A thing that is not closed, and was left out: with how many open edges. */
  | { kind: "open"; of: string; edges: number }
  /** A thing in which more than two faces meet at edges. */
  | { kind: "crowded"; of: string; edges: number }
  /** A line or surface that bends more sharply than it gets thick. */
  | { kind: "folded"; of: string }
  /** A thing that hangs on the solid itself. */
  | { kind: "circle"; of: string }
  /** A thing that has no body: without faces, or placed nowhere. */
  | { kind: "empty"; of: string }
  /** A line that is no closed outline. */
  | { kind: "outline"; of: string | null }
  /** More than is worked out. */
  | { kind: "many"; bodies: number; triangles: number };

/** More bodies, or triangles, are not joined. */
export const MOST_BODIES = 20_000;
export const MOST_TRIANGLES = 4_000_000;

/** @param nameOf what a line, surface or dressing is called, by its id */
export function troubleSaid(trouble: SolidTrouble, nameOf: (id: string) => string): string {
  const count = (n: number, noun: string) => `${n.toLocaleString("en")} ${noun}${n === 1 ? "" : "s"}`;
  switch (trouble.kind) {
    case "open":
      return `“${nameOf(trouble.of)}” is not closed: ${count(trouble.edges, "open edge")}. What is open was left out; give it a shell, or close its holes.`;
    case "crowded":
      return `“${nameOf(trouble.of)}” has ${count(trouble.edges, "edge")} where more than two faces meet; that part was left out.`;
    case "folded":
      return `“${nameOf(trouble.of)}” bends more sharply than it gets thick, and folds over itself there. Make it thinner, or the bend wider.`;
    case "circle":
      return `“${nameOf(trouble.of)}” hangs on this very surface, and was left out.`;
    case "empty":
      return `“${nameOf(trouble.of)}” has no body yet, and was left out.`;
    case "outline":
      return trouble.of === null
        ? "Choose the closed line that a cut across looks like."
        : `“${nameOf(trouble.of)}” is not closed, so nothing can have its shape.`;
    case "many":
      return `These are ${count(trouble.bodies, "body").replace("bodys", "bodies")} of ${count(trouble.triangles, "triangle")}; up to ${MOST_BODIES.toLocaleString("en")} bodies of ${MOST_TRIANGLES.toLocaleString("en")} triangles are joined.`;
  }
}
