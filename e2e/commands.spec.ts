/** The start command: a killed supervisor, a second start on the same folder, and the end of all that it started. */
import { type ChildProcess, spawn } from "node:child_process";
import { existsSync, mkdtempSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { expect, test } from "@playwright/test";

const folder = mkdtempSync(join(tmpdir(), "inquadra demo "));

function start(): Promise<{ url: string; npm: ChildProcess }> {
	const npm = spawn("npm", ["run", "demo"], {
		env: { ...process.env, INQUADRA_DATA: folder, INQUADRA_BARE: "1", INQUADRA_LEAST_FREE_GB: "10000000", PORT: "" },
		stdio: ["ignore", "pipe", "inherit"],
	});
	return new Promise((resolve, reject) => {
		let text = "";
		npm.stdout?.on("data", (d) => {
			text += d;
			const ready = /^Inquadra is ready at (http:\/\/127\.0\.0\.1:\d+)$/m.exec(text);
			if (ready) resolve({ url: ready[1], npm });
		});
		npm.on("exit", (code) => reject(new Error(`the demo ended with ${code}`)));
	});
}

const answers = async (url: string) => {
	try {
		return (await fetch(`${url}/api/shots`)).ok;
	} catch {
		return false;
	}
};

test("a killed start leaves its data to the next, and an ended one leaves nothing running", async () => {
	const first = await start();
	const made = await fetch(`${first.url}/api/shots`, {
		method: "POST",
		body: JSON.stringify({ title: "Kept over a kill" }),
	});
	expect(made.status).toBe(201);
	// As on a full disk: a print is refused in words, and nothing is changed by it.
	const { id } = await made.json();
	const print = await fetch(`${first.url}/api/shots/${id}/prints`, {
		method: "POST",
		body: JSON.stringify({ widthPx: 64, samples: 16, seed: 1 }),
	});
	expect(print.status).toBe(507);
	expect((await print.json()).error).toEqual({
		code: "disk-full",
		message: "Less than 10,000,000 GB of the disk are free. Make room before you print.",
	});
	expect((await (await fetch(`${first.url}/api/shots/${id}`)).json()).prints).toEqual([]);
	const { supervisor } = JSON.parse(readFileSync(join(folder, "run.json"), "utf8"));
	process.kill(supervisor, "SIGKILL");
	const second = await start();
	const { shots } = await (await fetch(`${second.url}/api/shots`)).json();
	expect(shots.map((s: { title: string }) => s.title)).toContain("Kept over a kill");
	second.npm.kill("SIGTERM");
	await expect.poll(() => answers(second.url)).toBe(false);
	await expect.poll(() => existsSync(join(folder, "pg/postmaster.pid")), { timeout: 120_000 }).toBe(false);
	rmSync(folder, { recursive: true, force: true });
});
