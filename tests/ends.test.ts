/** How the running application begins, goes on and ends, whichever of its processes is ended. */
import { type ChildProcess, spawn, spawnSync } from "node:child_process";
import { existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, afterEach, describe, expect, it } from "vitest";
import { root, until } from "./support.ts";

const base = mkdtempSync(join(tmpdir(), "inquadra-ends-"));
const running: ChildProcess[] = [];
let count = 0;

interface Started {
	child: ChildProcess;
	folder: string;
	url: string;
	/** All processes that were started, the database's too. */
	pids: () => number[];
}

const isThere = (pid: number): boolean => existsSync(`/proc/${pid}/exe`) && !/^State:\s+Z/m.test(statusOf(pid));
const statusOf = (pid: number): string => {
	try {
		return readFileSync(`/proc/${pid}/status`, "utf8");
	} catch {
		return "";
	}
};
const postmaster = (folder: string) => Number(readFileSync(join(folder, "pg/postmaster.pid"), "utf8").split("\n")[0]);

function run(command: string, args: string[], env: Record<string, string>): ChildProcess {
	const child = spawn(command, args, {
		cwd: root,
		env: { ...process.env, DATABASE_URL: "", PORT: "", INQUADRA_BARE: "1", INQUADRA_THREADS: "1", ...env },
		stdio: ["ignore", "pipe", "pipe"],
	});
	running.push(child);
	return child;
}

async function start(command: string, args: string[]): Promise<Started> {
	const folder = join(base, `data ${count++}`);
	const child = run(command, args, { INQUADRA_DATA: folder });
	let text = "";
	child.stdout?.on("data", (d) => {
		text += d;
	});
	const url = await until("the start", async () => /ready at (http:\S+)/.exec(text)?.[1]);
	const pids = () => {
		const { supervisor, pids } = JSON.parse(readFileSync(join(folder, "run.json"), "utf8"));
		return [supervisor, ...pids, postmaster(folder)];
	};
	return { child, folder, url, pids };
}

const byNpm = () => start("npm", ["run", "demo"]);
const byNode = () => start(process.execPath, ["scripts/demo.mjs"]);

afterEach(() => {
	for (const child of running.splice(0)) child.kill("SIGKILL");
});
afterAll(() => rmSync(base, { recursive: true, force: true }));

const allGone = (pids: number[]): Promise<boolean> => until("all to end", async () => !pids.some(isThere));

describe("what was started", () => {
	it.each<[string, () => Promise<Started>, NodeJS.Signals]>([
		["npm is interrupted", byNpm, "SIGINT"],
		["npm is killed", byNpm, "SIGKILL"],
		["the script is told to end", byNode, "SIGTERM"],
		["the script is killed", byNode, "SIGKILL"],
	])("all ends when %s", async (_, begin, signal) => {
		const { child, pids } = await begin();
		const all = pids();
		expect(all.length).toBeGreaterThan(4);
		child.kill(signal);
		await allGone(all);
	});

	it("goes on when the database is killed: it comes back on its port, and edits are taken again", async () => {
		const { folder, url, child, pids } = await byNode();
		const killed = postmaster(folder);
		process.kill(killed, "SIGKILL");
		await until(
			"another database",
			async () => existsSync(join(folder, "pg/postmaster.pid")) && postmaster(folder) !== killed,
		);
		const made = await until("a shot to be kept", async () => {
			const r = await fetch(`${url}/api/shots`, { method: "POST", body: JSON.stringify({ title: "After" }) });
			return r.ok ? r.json() : null;
		});
		expect(made).toMatchObject({ title: "After" });
		const all = pids();
		child.kill("SIGTERM");
		await allGone(all);
	});

	it("is not disturbed by a second start, nor by a third", async () => {
		const { folder, url, pids, child } = await byNode();
		const before = pids();
		for (let i = 0; i < 2; i++) {
			const other = spawnSync(process.execPath, ["scripts/demo.mjs"], {
				cwd: root,
				encoding: "utf8",
				env: { ...process.env, INQUADRA_DATA: folder, PORT: "" },
			});
			expect([other.status, other.stderr.trim()]).toEqual([
				1,
				`Inquadra runs already on ${folder}, as process ${before[0]}.`,
			]);
		}
		expect(pids()).toEqual(before);
		expect((await fetch(`${url}/api/shots`)).status).toBe(200);
		child.kill("SIGTERM");
		await allGone(before);
	});
});

describe("a start that cannot be", () => {
	const told = (env: Record<string, string>) => {
		const r = spawnSync(process.execPath, ["scripts/demo.mjs"], {
			cwd: root,
			encoding: "utf8",
			env: { ...process.env, PORT: "", INQUADRA_BARE: "1", ...env },
		});
		return [r.status, r.stderr.trim()];
	};
	it("says why in a sentence", () => {
		const file = join(base, "a file");
		writeFileSync(file, "");
		for (const path of [file, join(file, "below")])
			expect(told({ INQUADRA_DATA: path })).toEqual([
				1,
				`${path} is no folder, but a file is in its place. Set INQUADRA_DATA to a folder.`,
			]);
		const folder = join(base, "no port");
		for (const port of ["99999", "-1", "x"])
			expect(told({ INQUADRA_DATA: folder, PORT: port })).toEqual([
				1,
				`PORT is a number from 1 to 65535, not "${port}".`,
			]);
	});
	it("takes an empty note of the one before for none", async () => {
		const folder = join(base, "empty note");
		mkdirSync(folder);
		writeFileSync(join(folder, "run.json"), "");
		expect(told({ INQUADRA_DATA: folder, PORT: "99999" })[1]).toContain("PORT is a number");
	});
});
