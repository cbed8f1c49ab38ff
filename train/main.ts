/** `npm run train -- truths [NAME …]`: what the filter of noise is judged by. */
import { join } from "node:path";
import { pathToFileURL } from "node:url";
import { TracePool } from "../src/tracer/node/pool.ts";
import { makeTruths } from "./truths.ts";

const [what, ...names] = process.argv.slice(2);
if (what !== "truths") {
	process.stderr.write("Usage: npm run train -- truths [NAME …]\n");
	process.exit(2);
}
const pool = new TracePool(pathToFileURL(`${join(process.cwd(), "build")}/`), 2);
await makeTruths(pool, join(process.cwd(), "train/truths"), names);
await pool.close();
