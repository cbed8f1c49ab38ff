/** The command line. One JSON document on standard output, also for errors; everything else on standard error. */
import { fileURLToPath } from "node:url";
import { parseArgs } from "node:util";
import type pg from "pg";
import { migrate, openPool } from "../store/database.ts";
import { EditListError } from "../store/shots.ts";
import { type Command, type Flags, Refusal } from "./command.ts";
import * as list from "./commands.ts";

const COMMANDS: Record<string, Command> = list;

const USAGE = Object.entries(COMMANDS)
	.filter(([, command]) => !command.hidden)
	.map(([name, { args, flags }]) => [name, ...args, ...(flags ? [flags] : [])].join(" "))
	.join(" · ");

const text = { type: "string" } as const;
const OPTIONS = {
	out: text,
	png: text,
	width: text,
	height: text,
	samples: text,
	seed: text,
	noise: text,
	spread: text,
	workers: text,
	part: text,
	time: text,
	frames: text,
	video: text,
	layers: { type: "boolean" },
	"steady-noise": { type: "boolean" },
	instanced: { type: "boolean" },
	overscan: text,
	size: text,
	metres: text,
	at: text,
	heights: text,
	mesh: text,
	mask: { type: "string", multiple: true },
	colour: text,
	normal: text,
	roughness: text,
	metal: text,
	find: text,
	like: text,
} as const;

async function run(): Promise<unknown> {
	let parsed: { values: Flags; positionals: string[] };
	try {
		parsed = parseArgs({ allowPositionals: true, options: OPTIONS });
	} catch (error) {
		throw new Refusal("bad-usage", `${(error as Error).message} Usage: ${USAGE}`);
	}
	const { values: flags, positionals } = parsed;
	const [name = "", ...args] = positionals;
	const command = Object.hasOwn(COMMANDS, name) ? COMMANDS[name] : null;
	if (command?.args.length !== args.length) throw new Refusal("bad-usage", `Usage: ${USAGE}`);
	if (command.alone) return command.run({ args, flags, pool: null as unknown as pg.Pool });
	const pool = openPool(process.env.DATABASE_URL ?? "", 4);
	try {
		await migrate(pool, fileURLToPath(new URL("../src/store/migrations", import.meta.url)));
		return await command.run({ args, flags, pool });
	} finally {
		await pool.end();
	}
}

/** An error as the person at the command line reads it; its code is one of ours, or it failed. */
function told(error: Error & { code?: string }): { code: string; message: string; at?: number } {
	const ours = error.code && /^[a-z-]+$/.test(error.code);
	if (!ours) process.stderr.write(`${error.stack}\n`);
	return {
		code: ours ? (error.code as string) : "failed",
		message: error.message,
		...(error instanceof EditListError && { at: error.at }),
	};
}

run().then(
	(answer) => process.stdout.write(`${JSON.stringify(answer)}\n`),
	(error) => process.stdout.write(`${JSON.stringify({ error: told(error) })}\n`, () => process.exit(1)),
);
