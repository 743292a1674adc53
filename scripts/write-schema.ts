/** Writes docs/scene.schema.json anew: `npm run schema`. */
import { writeFileSync } from "node:fs";
import { schemaText } from "../src/cli/schema";

writeFileSync("docs/scene.schema.json", schemaText());
