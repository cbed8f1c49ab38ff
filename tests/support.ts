/** A database of its own for one test file, and processes of the built programs. */
import { type ChildProcess, spawn } from "node:child_process";
import { fileURLToPath } from "node:url";
import pg from "pg";
import { migrate, openPool, sessionsOf } from "../src/store/database.ts";

export const root = fileURLToPath(new URL("..", import.meta.url));
export const migrations = fileURLToPath(new URL("../src/store/migrations", import.meta.url));

/** Makes an empty database beside the server's first one, and returns its address. */
export async function emptyDatabase(name: string): Promise<string> {
	const admin = new pg.Client({ connectionString: process.env.DATABASE_URL });
	await admin.connect();
	await admin.query(`drop database if exists ${name} with (force)`);
	await admin.query(`create database ${name}`);
	await admin.end();
	const url = new URL(process.env.DATABASE_URL as string);
	url.pathname = `/${name}`;
	return url.href;
}

/** The same with the tables of today. */
export async function freshDatabase(name: string): Promise<{ url: string; pool: pg.Pool }> {
	const url = await emptyDatabase(name);
	const pool = openPool(url, 8);
	await migrate(pool, migrations);
	return { url, pool };
}

export function startPress(url: string, threads = 1): ChildProcess {
	return spawn(process.execPath, [`${root}build/press.mjs`], {
		env: { ...process.env, DATABASE_URL: url, INQUADRA_THREADS: String(threads) },
		stdio: ["ignore", "ignore", "inherit"],
	});
}

/** Kills presses, and waits until the database has done what they had asked it for: that still counts. */
export async function killed(pool: pg.Pool, ...presses: ChildProcess[]): Promise<void> {
	for (const p of presses) p.kill("SIGKILL");
	const names = presses.map((p) => sessionsOf(p.pid));
	await until("the end of their sessions", async () => {
		const r = await pool.query("select 1 from pg_stat_activity where application_name = any($1)", [names]);
		return r.rowCount === 0;
	});
}

/** What never comes is told before the test itself is ended, however busy the machine is. */
const LONGEST_S = 500;

export async function until<T>(what: string, look: () => Promise<T | null | undefined | false>): Promise<T> {
	const end = Date.now() + LONGEST_S * 1000;
	for (;;) {
		const value = await look();
		if (value) return value;
		if (Date.now() > end) throw new Error(`${what} did not happen within ${LONGEST_S} s`);
		await new Promise((r) => setTimeout(r, 60));
	}
}

/** Runs the command line and returns its JSON and exit code. */
export function cli(
	url: string,
	...args: string[]
): Promise<{ code: number; answer: Record<string, unknown> & { error?: { code: string; message: string } } }> {
	return new Promise((resolve, reject) => {
		const child = spawn(process.execPath, [`${root}build/cli.mjs`, ...args], {
			env: { ...process.env, DATABASE_URL: url },
			stdio: ["ignore", "pipe", "ignore"],
		});
		let text = "";
		child.stdout.on("data", (d) => {
			text += d;
		});
		child.on("exit", (code) => {
			try {
				resolve({ code: code ?? -1, answer: JSON.parse(text) });
			} catch {
				reject(new Error(`not one JSON document: ${text.slice(0, 300)}`));
			}
		});
	});
}
