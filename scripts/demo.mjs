/**
 * `npm run demo`: brings what is missing, starts the database, keeps the demo shots, starts the web server and a press
 * worker, restarts them when they fall, and ends them all when it ends.
 */
import { spawn, spawnSync } from "node:child_process";
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { createServer } from "node:net";
import { join, resolve } from "node:path";
import { buildAll } from "./lib/build.mjs";
import { needDebian, needPackages, ROOT, say } from "./lib/install.mjs";
import { startPostgres } from "./lib/postgres.mjs";

const folder = resolve(process.env.INQUADRA_DATA || join(ROOT, ".data/demo"));
const runFile = join(folder, "run.json");
const parent = process.ppid;
const children = new Map();
let ending = false;
let database = null;

const commandOf = (pid) => {
	try {
		return readFileSync(`/proc/${pid}/cmdline`, "utf8").replaceAll("\0", " ");
	} catch {
		return "";
	}
};

/** Clears what a killed supervisor has left behind; refuses when another one is at work on the same folder. */
function clearLeftovers() {
	if (!existsSync(runFile)) return;
	const { supervisor, pids } = JSON.parse(readFileSync(runFile, "utf8"));
	if (supervisor !== process.pid && commandOf(supervisor).includes("scripts/demo.mjs"))
		throw new Error(`Inquadra runs already on ${folder}, as process ${supervisor}.`);
	for (const pid of pids) if (/press\.mjs|next/.test(commandOf(pid))) process.kill(pid, "SIGKILL");
	rmSync(runFile, { force: true });
}

function note() {
	mkdirSync(folder, { recursive: true });
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

const isFree = (port) =>
	new Promise((done) => {
		const s = createServer();
		s.on("error", () => done(false));
		s.listen(port, "127.0.0.1", () => s.close(() => done(true)));
	});

async function freePort() {
	const wanted = Number(process.env.PORT) || 0;
	if (wanted) {
		if (!(await isFree(wanted))) throw new Error(`Port ${wanted} is taken. Set PORT to another one.`);
		return wanted;
	}
	for (let port = 3100; port < 3200; port++) if (await isFree(port)) return port;
	throw new Error("No port from 3100 to 3199 is free. Set PORT.");
}

async function end(code) {
	if (ending) return;
	ending = true;
	const all = [...children.values()];
	for (const c of all) c.kill("SIGTERM");
	const gone = Promise.all(
		all.map((c) => (c.exitCode !== null || c.signalCode ? null : new Promise((r) => c.on("exit", r)))),
	);
	await Promise.race([gone, new Promise((r) => setTimeout(r, 4000))]);
	for (const c of all) if (c.exitCode === null && !c.signalCode) c.kill("SIGKILL");
	database?.stop();
	rmSync(runFile, { force: true });
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
	clearLeftovers();
	needDebian(["postgresql"]);
	needPackages();
	await buildAll();
	const port = await freePort();
	database = await startPostgres(folder);
	note();
	const env = {
		...process.env,
		DATABASE_URL: database.url,
		INQUADRA_DATA_FOLDER: folder,
		NODE_ENV: "production",
		NEXT_TELEMETRY_DISABLED: "1",
	};
	const seeded = spawnSync(
		process.execPath,
		[join(ROOT, "build/cli.mjs"), process.env.INQUADRA_BARE ? "migrate" : "demo"],
		{ cwd: ROOT, stdio: ["ignore", "ignore", 2], env },
	);
	if (seeded.status !== 0) throw new Error("The demo shots could not be kept.");
	keepRunning(
		"web server",
		[join(ROOT, "node_modules/next/dist/bin/next"), "start", "-H", "127.0.0.1", "-p", String(port)],
		env,
	);
	keepRunning("press", [join(ROOT, "build/press.mjs")], env);
	await waitUntilServed(`http://127.0.0.1:${port}`);
	process.stdout.write(`Inquadra is ready at http://127.0.0.1:${port}\n`);
}

main().catch((error) => {
	say(error.message);
	void end(1);
});
