/** The JSON Schema of scene.json, as text. */
import { z } from "zod";
import { sceneSchema } from "@/core/scene";

export const schemaText = (): string => JSON.stringify(z.toJSONSchema(sceneSchema, { io: "input" }), null, 2) + "\n";
