/**
 * `npm run train -- truths [NAME …]`: what the filter of noise is judged by. `npm run train -- crops FOLDER FROM COUNT`: what it learns
 * from, parts of so many made-up shots. `npm run train -- learn FOLDER MINUTES`: learns from them, on from the weights that are shipped
 * (Debian's python3-torch; with a good BLAS, libopenblas0, it is twice as fast).
 */
import { spawnSync } from "node:child_process";
import { join } from "node:path";
import { pathToFileURL } from "node:url";
import { TracePool } from "../src/tracer/node/pool.ts";
import { makeCrops } from "./crops.ts";
import { HELD_OUT } from "./heldOut.ts";
import { makeTruths } from "./truths.ts";

const USAGE = "Usage: npm run train -- truths [NAME …] | crops FOLDER FROM COUNT | learn FOLDER MINUTES";
/** Debian's, whatever other there is. */
const PYTHON = "/usr/bin/python3";

const refuse = (why: string): never => {
	process.stderr.write(`${why}\n`);
	process.exit(2);
};

const withPool = async (work: (pool: TracePool) => Promise<void>): Promise<void> => {
	const pool = new TracePool(pathToFileURL(`${join(process.cwd(), "build")}/`), 2);
	await work(pool);
	await pool.close();
};

const WORKS: Record<string, (args: string[]) => Promise<void>> = {
	truths: (names) => {
		const unknown = names.find((name) => !HELD_OUT[name]);
		if (unknown !== undefined)
			refuse(`No shot "${unknown}" is held out; there are ${Object.keys(HELD_OUT).join(", ")}.`);
		return withPool((pool) => makeTruths(pool, join(process.cwd(), "train/truths"), names));
	},
	crops: ([folder, from, count, ...more]) => {
		const [first, shots] = [Number(from), Number(count)];
		if (!folder || !Number.isInteger(first) || !(shots > 0) || more.length > 0) refuse(USAGE);
		return withPool((pool) => makeCrops(pool, folder, first, shots));
	},
	learn: async ([folder, minutes, ...more]) => {
		if (!folder || !(Number(minutes) >= 0) || more.length > 0) refuse(USAGE);
		const learning = spawnSync(
			PYTHON,
			["train/learn.py", folder, join(folder, "state.pt"), minutes, "train/weights/clean.bin"],
			{ stdio: "inherit", env: { ...process.env, OMP_NUM_THREADS: "1", OPENBLAS_NUM_THREADS: "1" } },
		);
		if (learning.status !== 0)
			refuse("Learning has stopped; with Debian's python3-torch it goes on from its last state.");
	},
};

const [what, ...args] = process.argv.slice(2);
await (WORKS[what] ?? (() => refuse(USAGE)))(args);
