/** The JSON Schema of scene.json, as text. */
import { z } from "zod";
import { lineSchema } from "@/core/line";
import { dressingSchema } from "@/core/place";
import { sceneSchema, surfaceSchema } from "@/core/scene";

/** What a scene has and an assembly too is said once, under these names. */
const NAMED = { line: lineSchema, surface: surfaceSchema, dressing: dressingSchema };

export function schemaText(): string {
  for (const [id, schema] of Object.entries(NAMED)) z.globalRegistry.add(schema, { id });
  return JSON.stringify(z.toJSONSchema(sceneSchema, { io: "input" }), null, 2) + "\n";
}
