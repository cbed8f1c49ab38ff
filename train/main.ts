/** `npm run train -- truths [NAME …]`: what the filter of noise is judged by. */
import { join } from "node:path";
import { pathToFileURL } from "node:url";
import { TracePool } from "../src/tracer/node/pool.ts";
import { HELD_OUT } from "./heldOut.ts";
import { makeTruths } from "./truths.ts";

const refuse = (why: string): never => {
	process.stderr.write(`${why}\n`);
	process.exit(2);
};

const [what, ...names] = process.argv.slice(2);
if (what !== "truths") refuse("Usage: npm run train -- truths [NAME …]");
const unknown = names.find((name) => !HELD_OUT[name]);
if (unknown !== undefined) refuse(`No shot "${unknown}" is held out; there are ${Object.keys(HELD_OUT).join(", ")}.`);
const pool = new TracePool(pathToFileURL(`${join(process.cwd(), "build")}/`), 2);
await makeTruths(pool, join(process.cwd(), "train/truths"), names);
await pool.close();
