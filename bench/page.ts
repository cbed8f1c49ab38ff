/** Figures from the page itself, in headless Chromium: the working view's frame time, and an edit's way to the first proof. */
import { spawn } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { chromium, type Page } from "@playwright/test";
import { build } from "esbuild";
import { median } from "./median.ts";
import type * as pageFrame from "./pageFrame.ts";
import { pieces } from "./pieces.ts";

type Say = (name: string, value: number, unit: string, reference?: number) => void;

const ARGS = [
	"--no-sandbox",
	"--use-angle=swiftshader",
	"--enable-unsafe-swiftshader",
	"--enable-precise-memory-info",
	"--js-flags=--expose-gc",
];

async function frames(page: Page, say: Say): Promise<void> {
	const bundle = await build({
		entryPoints: ["bench/pageFrame.ts"],
		bundle: true,
		format: "iife",
		globalName: "bench",
		write: false,
		platform: "browser",
		target: "es2022",
	});
	// The kernel that bakes sheets is fetched as the application serves it.
	await page.route("http://bench.invalid/**", (route) =>
		route.request().url().endsWith("/sheets.wasm")
			? route.fulfill({ path: "build/sheets.wasm", contentType: "application/wasm" })
			: route.fulfill({ body: "<canvas width=944 height=510></canvas>", contentType: "text/html" }),
	);
	await page.goto("http://bench.invalid/");
	await page.addScriptTag({ content: bundle.outputFiles[0].text });
	const { ours, bare, lit, whole, moved } = await page.evaluate(() =>
		(globalThis as unknown as { bench: typeof pageFrame }).bench.measure(),
	);
	say(
		"working view's frame at 944 × 510 (software WebGL), beside bare three.js drawing the same buffers",
		ours,
		"ms",
		bare,
	);
	say(
		"the same, beside three.js drawing the same buffers lit and with colour, normal and roughness textures, goal 1.3",
		ours,
		"ms",
		lit,
	);
	const played = await page.evaluate(() => (globalThis as unknown as { bench: typeof pageFrame }).bench.play());
	say(
		"playing the demo's move: a frame taken and drawn, beside bare three.js drawing such buffers",
		played.drawMs,
		"ms",
		bare,
	);
	say("playing the demo's move: compile of its next frame", played.compileMs, "ms");
	say("page memory after 240 frames of a move, beside that after 24", played.late, "MiB", played.early);
	say("what the graphics hold after 240 frames, beside after 24", played.held[1], "", played.held[0]);
	say("compile after one piece has moved, in the page", moved, "ms, all of it beside it", whole);
}

async function proofs(page: Page, url: string, say: Say): Promise<void> {
	await page.goto(`${url}/shot/saltworks`);
	await page.waitForFunction(
		() => Number(document.querySelector<HTMLElement>("[data-testid=proof-state]")?.dataset.since) > 0,
		null,
		{ timeout: 120_000 },
	);
	const list = page.getByRole("complementary");
	await list.getByRole("button", { name: /^In frame/ }).click();
	await page.getByRole("textbox", { name: "Filter by name" }).fill("tool shed");
	await page.getByRole("button", { name: "Tool shed", exact: true }).click();
	await page
		.locator("[data-testid=ground]")
		.focus()
		.catch(() => {});
	const since: number[] = [];
	for (let i = 0; i < 6; i++) {
		const first = page.evaluate(
			() =>
				new Promise<number>((resolve) => {
					const state = document.querySelector<HTMLElement>("[data-testid=proof-state]") as HTMLElement;
					let gone = false;
					const observer = new MutationObserver(() => {
						const ms = Number(state.dataset.since);
						if (!ms) gone = true;
						else if (gone) {
							observer.disconnect();
							resolve(ms);
						}
					});
					observer.observe(state, { attributes: true });
				}),
		);
		await page.keyboard.press(i % 2 ? "ArrowLeft" : "ArrowRight");
		since.push(await first);
		await page.waitForTimeout(1500);
	}
	say("edit to first proof picture in the page, with compile, goal beside it", median(since), "ms", 100);
}

export async function page(say: Say): Promise<void> {
	const folder = mkdtempSync(join(tmpdir(), "inquadra-bench-"));
	const demo = spawn("npm", ["run", "demo"], {
		env: { ...process.env, INQUADRA_DATA: folder, PORT: "" },
		stdio: ["ignore", "pipe", "ignore"],
	});
	const browser = await chromium.launch({ executablePath: "/usr/bin/chromium", args: ARGS });
	try {
		const url = await new Promise<string>((resolve, reject) => {
			let text = "";
			demo.stdout.on("data", (d) => {
				text += d;
				const ready = /Inquadra is ready at (http:\S+)/.exec(text);
				if (ready) resolve(ready[1]);
			});
			demo.on("exit", () => reject(new Error("the demo did not start")));
		});
		const opened = await browser.newPage({ viewport: { width: 1280, height: 800 } });
		await frames(opened, say);
		await proofs(opened, url, say);
		// Emulated graphics take some 80 ms to show any picture of the page: here the processor puts it together.
		const plain = await chromium.launch({
			executablePath: "/usr/bin/chromium",
			args: [...ARGS, "--disable-gpu-compositing"],
		});
		await pieces(await plain.newPage({ viewport: { width: 1280, height: 800 } }), url, say);
		await plain.close();
	} finally {
		await browser.close();
		const gone = new Promise((r) => demo.on("exit", r));
		demo.kill("SIGTERM");
		await gone;
		rmSync(folder, { recursive: true, force: true });
	}
}
