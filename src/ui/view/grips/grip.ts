/** *What a press in the view takes hold of*: one file a kind, all with this protocol; `index.ts` says which comes first. */
import type { Pull } from "./pull";

export interface Grip {
  /** What the drag is called in the history; null where it changes nothing of the scene. */
  readonly label: string | null;
  /** Before the first move of a drag. */
  begin?(): void;
  /** The pointer has moved, or a key has changed what its place means. */
  drag(pull: Pull): void;
  /** A press that did not move; where left out, it is a click on whatever lies there. */
  click?(more: boolean): void;
  /** After a drag that changed nothing of the scene. */
  end?(pull: Pull): void;
}
