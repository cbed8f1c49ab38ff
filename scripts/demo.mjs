/**
 * `npm run demo`: brings what is missing, starts the database, keeps the demo shots, starts the web server and a press
 * worker, restarts them when they fall, and ends them all when it ends.
 */
import { spawn } from "node:child_process";
import { readFileSync, rmSync, writeFileSync } from "node:fs";
import { createServer } from "node:net";
import { join, resolve } from "node:path";
import { buildAll } from "./lib/build.mjs";
import { holdName, lockFolder, makeFolder } from "./lib/folder.mjs";
import { endPrograms, needDebian, needPackages, ROOT, runProgram, say } from "./lib/install.mjs";
import { startPostgres } from "./lib/postgres.mjs";

const folder = resolve(process.env.INQUADRA_DATA || join(ROOT, ".data/demo"));
const runFile = join(folder, "run.json");
const parent = process.ppid;
const children = new Map();
let ending = false;
let locked = false;
let database = null;

const commandOf = (pid) => {
	try {
		return readFileSync(`/proc/${pid}/cmdline`, "utf8").replaceAll("\0", " ");
	} catch {
		return "";
	}
};

/** The note of the processes that run on the folder; nothing when there is none or it cannot be read. */
function readNote() {
	try {
		const { supervisor, pids } = JSON.parse(readFileSync(runFile, "utf8"));
		return { supervisor: Number(supervisor), pids: pids.map(Number) };
	} catch {
		return null;
	}
}

/** A keeper of the database whose supervisor was killed is about to end it: it is waited for. */
async function endedKeeper(pid) {
	for (let i = 0; i < 60 && commandOf(pid).includes("keepPostgres.mjs"); i++)
		await new Promise((r) => setTimeout(r, 100));
}

/** Takes the folder for this process, and ends what a killed one has left there. Throws when another is at work on it. */
async function takeFolder() {
	makeFolder(folder);
	locked = await lockFolder(folder);
	const note = readNote();
	if (!locked) throw new Error(`Inquadra runs already on ${folder}${note ? `, as process ${note.supervisor}` : ""}.`);
	for (const pid of note?.pids ?? []) await endedKeeper(pid);
	for (const pid of note?.pids ?? []) if (/press\.mjs|next/.test(commandOf(pid))) process.kill(pid, "SIGKILL");
	rmSync(runFile, { force: true });
}

function note() {
	writeFileSync(runFile, JSON.stringify({ supervisor: process.pid, pids: [...children.values()].map((c) => c.pid) }));
}

function keepRunning(name, args, env) {
	let quick = 0;
	const start = () => {
		const at = Date.now();
		const child = spawn(process.execPath, args, { cwd: ROOT, stdio: ["ignore", "pipe", "pipe"], env });
		children.set(name, child);
		note();
		for (const stream of [child.stdout, child.stderr]) stream.on("data", (d) => process.stderr.write(d));
		child.on("exit", (code, signal) => {
			if (ending) return;
			quick = Date.now() - at < 5000 ? quick + 1 : 0;
			const pause = Math.min(10_000, 200 * 2 ** quick);
			say(`${name} ended (${signal ?? code}); it starts again in ${pause / 1000} s.`);
			setTimeout(() => !ending && start(), pause);
		});
	};
	start();
}

const listens = (port) =>
	new Promise((done) => {
		const s = createServer();
		s.on("error", () => done(false));
		s.listen(port, "127.0.0.1", () => s.close(() => done(true)));
	});

/** Whether a port is for this start: the web server takes it seconds later, and another start may look for one meanwhile. */
const isFree = async (port) => (await holdName(`port-${port}`)) && (await listens(port));

async function freePort() {
	if (process.env.PORT) {
		const wanted = Number(process.env.PORT);
		if (!(Number.isInteger(wanted) && wanted > 0 && wanted < 65_536))
			throw new Error(`PORT is a number from 1 to 65535, not "${process.env.PORT}".`);
		if (!(await isFree(wanted))) throw new Error(`Port ${wanted} is taken. Set PORT to another one.`);
		return wanted;
	}
	for (let port = 3100; port < 3200; port++) if (await isFree(port)) return port;
	throw new Error("No port from 3100 to 3199 is free. Set PORT.");
}

/** Ends all that was started, within a few seconds. */
async function end(code) {
	if (ending) return;
	ending = true;
	endPrograms();
	const all = [...children.values()].filter((c) => c.exitCode === null && !c.signalCode);
	const gone = Promise.all(all.map((c) => new Promise((r) => c.on("exit", r))));
	for (const c of all) c.kill("SIGTERM");
	await Promise.race([gone, new Promise((r) => setTimeout(r, 3500))]);
	for (const c of all) if (c.exitCode === null && !c.signalCode) c.kill("SIGKILL");
	// Once it is kept running, its keeper has ended it.
	if (!children.has("database")) database?.stop();
	if (locked) rmSync(runFile, { force: true });
	process.exit(code);
}

async function waitUntilServed(url) {
	for (let i = 0; i < 600; i++) {
		try {
			const r = await fetch(`${url}/api/shots`);
			if (r.ok) return;
		} catch {}
		await new Promise((r) => setTimeout(r, 100));
	}
	throw new Error("The web server did not answer within a minute.");
}

async function main() {
	for (const s of ["SIGINT", "SIGTERM", "SIGHUP"]) process.on(s, () => void end(0));
	// npm may be ended alone; then this process ends too.
	setInterval(() => process.ppid !== parent && void end(0), 400);
	await takeFolder();
	await needDebian(["postgresql", "ffmpeg"]);
	await needPackages();
	await buildAll();
	const port = await freePort();
	if (ending) return;
	database = await startPostgres(folder);
	note();
	const env = {
		...process.env,
		DATABASE_URL: database.url,
		INQUADRA_DATA_FOLDER: folder,
		NODE_ENV: "production",
		NEXT_TELEMETRY_DISABLED: "1",
	};
	const program = join(ROOT, "build/cli.mjs");
	const seeded = await runProgram(process.execPath, [program, process.env.INQUADRA_BARE ? "migrate" : "demo"], {
		stdio: ["ignore", "ignore", 2],
		env,
	});
	if (ending) return;
	if (!seeded) throw new Error("The demo shots could not be kept.");
	keepRunning("database", [join(ROOT, "scripts/lib/keepPostgres.mjs"), folder], env);
	const withParent = ["--import", join(ROOT, "scripts/lib/withParent.mjs")];
	const next = join(ROOT, "node_modules/next/dist/bin/next");
	keepRunning("web server", [...withParent, next, "start", "-H", "127.0.0.1", "-p", String(port)], env);
	keepRunning("press", [...withParent, join(ROOT, "build/press.mjs")], env);
	await waitUntilServed(`http://127.0.0.1:${port}`);
	process.stdout.write(`Inquadra is ready at http://127.0.0.1:${port}\n`);
}

main().catch((error) => {
	if (!ending) say(error.message);
	void end(1);
});
