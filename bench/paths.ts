/** Whole paths of the demo shot in one Chromium: ours on one thread beside three-gpu-pathtracer on the graphics that there are. */
import { readFileSync } from "node:fs";
import { createServer } from "node:http";
import type { AddressInfo } from "node:net";
import { chromium } from "@playwright/test";
import { build } from "esbuild";

type Say = (name: string, value: number, unit: string, reference?: number) => void;

const [WIDTH, HEIGHT] = [64, 35];
/** How long its shader may take to be made: emulated graphics have not made it by then on the machines that were tried. */
const PATIENCE_MS = 600_000;

export async function paths(folder: URL, say: Say): Promise<void> {
	const bundle = await build({
		entryPoints: ["bench/pagePaths.ts"],
		bundle: true,
		format: "iife",
		globalName: "bench",
		write: false,
		platform: "browser",
		target: "es2022",
	});
	const script = bundle.outputFiles[0].contents;
	const server = createServer((request, response) => {
		response
			.setHeader("Cross-Origin-Opener-Policy", "same-origin")
			.setHeader("Cross-Origin-Embedder-Policy", "require-corp");
		if (request.url === "/bench.js") response.setHeader("Content-Type", "text/javascript").end(script);
		else if (request.url === "/kernel.wasm")
			response.setHeader("Content-Type", "application/wasm").end(readFileSync(new URL("kernel.wasm", folder)));
		else response.setHeader("Content-Type", "text/html").end("<!doctype html><script src=/bench.js></script>");
	}).listen(0, "127.0.0.1");
	await new Promise((r) => server.once("listening", r));
	const browser = await chromium.launch({
		executablePath: "/usr/bin/chromium",
		args: ["--no-sandbox", "--use-angle=swiftshader", "--enable-unsafe-swiftshader"],
	});
	try {
		const page = await browser.newPage();
		await page.goto(`http://127.0.0.1:${(server.address() as AddressInfo).port}/`);
		type Bench = typeof import("./pagePaths.ts");
		const own = await page.evaluate(
			([w, h]) => (globalThis as unknown as { bench: Bench }).bench.ours(w, h, 64),
			[WIDTH, HEIGHT],
		);
		const graphics = await page.evaluate(() => {
			const gl = document.createElement("canvas").getContext("webgl2");
			const names = gl?.getExtension("WEBGL_debug_renderer_info");
			return names ? String(gl?.getParameter(names.UNMASKED_RENDERER_WEBGL)) : "unknown graphics";
		});
		process.stderr.write(`graphics of this Chromium: ${graphics}\n`);
		say("whole paths of the demo shot in Chromium, one thread", own / 1000, "k samples/s");
		const late = new Promise<null>((resolve) => setTimeout(() => resolve(null), PATIENCE_MS));
		const asked = page.evaluate(
			([w, h]) => (globalThis as unknown as { bench: Bench }).bench.theirs(w, h, 2),
			[WIDTH, HEIGHT],
		);
		asked.catch(() => {});
		const other = await Promise.race([asked, late]);
		if (!other) {
			process.stderr.write(
				`three-gpu-pathtracer has not made its first sample within ${PATIENCE_MS / 60_000} minutes on these graphics\n`,
			);
			return;
		}
		process.stderr.write(`${other.triangles.toLocaleString("en")} triangles\n`);
		say("the same beside three-gpu-pathtracer", own / 1000, "k samples/s", other.perSecond / 1000);
		say("until its first sample, with its shaders made", other.preparedMs / 1000, "s");
	} finally {
		await browser.close();
		server.close();
	}
}
