/** Starts the demo as a person would, on a folder of its own, and ends it through npm alone. */
import { spawn } from "node:child_process";
import { mkdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { join } from "node:path";

const state = ".data/e2e.json";

export const served = (): { url: string; pid: number } => JSON.parse(readFileSync(state, "utf8"));

export default async function start(): Promise<() => Promise<void>> {
	const data = process.env.INQUADRA_TEST_DATA ?? join(process.cwd(), ".data/test-page");
	rmSync(data, { recursive: true, force: true });
	mkdirSync(".data", { recursive: true });
	const child = spawn("npm", ["run", "demo"], {
		env: { ...process.env, INQUADRA_DATA: data, PORT: "" },
		stdio: ["ignore", "pipe", "inherit"],
	});
	const url = await new Promise<string>((resolve, reject) => {
		let text = "";
		child.stdout.on("data", (d) => {
			text += d;
			const ready = /Inquadra is ready at (http:\S+)/.exec(text);
			if (ready) resolve(ready[1]);
		});
		child.on("exit", (code) => reject(new Error(`the demo ended with ${code}`)));
	});
	writeFileSync(state, JSON.stringify({ url, pid: child.pid }));
	return async () => {
		const gone = new Promise((r) => child.on("exit", r));
		child.kill("SIGTERM");
		await gone;
		for (let i = 0; i < 100; i++) {
			try {
				await fetch(url);
				await new Promise((r) => setTimeout(r, 100));
			} catch {
				return;
			}
		}
		throw new Error("the web server still answers after npm has ended");
	};
}
