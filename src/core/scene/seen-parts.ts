/** Surfaces that are part of assemblies: wherever these are used they are seen, as if they were props. */
import type { PropBounds } from "../mesh";
import { propShape, type Prop } from "./schema";
import type { Surface } from "./surface-schema";

/** Whether a surface is seen wherever the assembly is used that it is in. */
export const isSeenPart = ({ part, hidden, outline }: Surface): boolean => part && !hidden && !outline;

/** The surfaces that are seen wherever one of some props is used. */
export const seenParts = (props: readonly Prop[]): Surface[] =>
  props.flatMap(({ assembly }) => assembly?.surfaces.filter(isSeenPart) ?? []);

/** A surface as a prop, under its own id, for whoever draws or writes it. */
export const partAsProp = ({ id, name, asset, triangles, file }: Surface, bounds: PropBounds): Prop =>
  propShape.parse({ id, name, asset, bounds, triangles, file });
