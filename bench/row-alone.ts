/** The rows of one name as JSON. */
import { measured, RESULT, ROW_NAMES } from "./rows";

const name = process.argv[2];
if (!ROW_NAMES.includes(name)) throw new Error(`There is no row “${name}”: ${ROW_NAMES.join(", ")}.`);
console.log(`${RESULT}${JSON.stringify(await measured(name))}`);
