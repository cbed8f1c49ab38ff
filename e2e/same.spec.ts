/** The same shot, compiled and traced in the browser and in Node, has the same parts and the same pixels. */
import { createHash } from "node:crypto";
import { readFileSync } from "node:fs";
import { expect, type Page, test } from "@playwright/test";
import { build } from "esbuild";
import sharp from "sharp";
import { ciede2000, labOf } from "../src/core/colour/difference.ts";
import { decodeSrgb } from "../src/core/colour/linear.ts";
import { SHAPE_KINDS } from "../src/core/doc/schema.ts";
import { FIRST_PIECE } from "../src/core/scene/ids.ts";
import { SURFACE_KINDS } from "../src/core/surface/surfaces.ts";
import type * as drawn from "./drawShots.ts";
import { served } from "./server.ts";
import { traceShot } from "./traceShot.ts";

/** A page of ours on which nothing runs: all of the machine is the test's. */
const BARE = "/manifold.js";

/** What the application's own page says as well: that nothing is made from text. */
const JITLESS = { js: "globalThis.__zod_globalConfig={jitless:true};" };

test("browser and Node trace identical pixels", async ({ page }) => {
	const here = await traceShot(readFileSync("build/kernel.wasm"), readFileSync("build/wear.wasm"));
	const bundle = await build({
		entryPoints: ["e2e/traceShot.ts"],
		bundle: true,
		format: "iife",
		globalName: "traced",
		write: false,
		platform: "browser",
		banner: JITLESS,
	});
	await page.goto(served().url + BARE);
	await page.addScriptTag({ content: bundle.outputFiles[0].text });
	const there = await page.evaluate(async () => {
		const { traceShot: trace } = (globalThis as unknown as { traced: { traceShot: typeof traceShot } }).traced;
		const [kernel, wear] = await Promise.all(
			["/kernel.wasm", "/wear.wasm"].map(async (a) => new Uint8Array(await (await fetch(a)).arrayBuffer())),
		);
		const result = await trace(kernel, wear);
		const digest = await crypto.subtle.digest("SHA-256", result.planes as unknown as ArrayBuffer);
		return {
			keys: result.keys,
			partBytes: result.partSum,
			sha256: [...new Uint8Array(digest)].map((b) => b.toString(16).padStart(2, "0")).join(""),
		};
	});
	expect(there.keys).toEqual(here.keys);
	expect(there.partBytes).toBe(here.partSum);
	expect(there.sha256).toBe(createHash("sha256").update(here.planes).digest("hex"));
	expect(here.prefix).toBe(true);
});

const lab = (p: ArrayLike<number>, i: number) =>
	labOf(...([0, 1, 2].map((c) => decodeSrgb(p[i + c] / 255)) as [number, number, number]));

/** What `drawShots.ts` does, in the page. */
async function drawShots<A, R>(
	page: Page,
	act: (shots: typeof drawn, argument: A) => Promise<R> | R,
	argument: A,
): Promise<R> {
	const { outputFiles } = await build({
		entryPoints: ["e2e/drawShots.ts"],
		bundle: true,
		format: "iife",
		globalName: "shots",
		write: false,
		platform: "browser",
		banner: JITLESS,
	});
	await page.goto(served().url + BARE);
	await page.addScriptTag({ content: outputFiles[0].text });
	return page.evaluate(`(${act})(shots, ${JSON.stringify(argument)})`) as Promise<R>;
}

test("fog is drawn in the page as it is printed, pixel by pixel", async ({ page }) => {
	const found = await drawShots(
		page,
		async (shots) => {
			const all = [];
			for (const name of shots.fogs()) all.push({ name, ...(await shots.fogDrawnAndTraced(name)) });
			return all;
		},
		null,
	);
	expect(found).toHaveLength(3);
	for (const { name, drawn: a, traced: b, only } of found) {
		const differences = (of: (id: number) => boolean) =>
			only
				.flatMap((id, i) => (id !== null && of(id) ? ciede2000(lab(a, 4 * i), lab(b, 4 * i)) : []))
				.sort((p, q) => p - q);
		const at = (all: number[], share: number) => all[Math.floor(share * (all.length - 1))];
		const standing = differences((id) => id >= FIRST_PIECE);
		const all = differences(() => true);
		const told = [standing, all].map((d) => `${at(d, 0.5).toFixed(2)}, 95 % below ${at(d, 0.95).toFixed(2)}`);
		console.log(`fog, ${name}: CIEDE2000 of what stands in it ${told[0]}, of all ${told[1]}`);
		expect(standing.length, name).toBeGreaterThan(200);
		expect(at(standing, 0.95), name).toBeLessThan(6.5);
		expect(at(all, 0.5), name).toBeLessThan(5);
		expect(at(all, 0.95), name).toBeLessThan(12);
	}
});

test("each shape is drawn in the page where it is printed, however it is turned", async ({ page }) => {
	const found = await drawShots(
		page,
		async (shots, kinds) => {
			const all = [];
			for (const kind of kinds) all.push({ kind, ...(await shots.shapeDrawnAndTraced(kind)) });
			return all;
		},
		SHAPE_KINDS,
	);
	for (const { kind, covered, wrong } of found) {
		// A rail is thin.
		expect.soft(covered, kind).toBeGreaterThan(50);
		expect.soft(wrong, kind).toEqual([]);
	}
});

test("a picture of few pixels has the drawn view's edges in the frame", async ({ page }) => {
	const { traced, drawn, guided, alone, pixels } = await drawShots(page, (shots) => shots.fewPixelsShown(), null);
	const off = (shown: number[]) => shown.reduce((sum, v, i) => sum + Math.abs(v - traced[i]), 0) / shown.length;
	const told = { drawn: off(drawn), guided: off(guided), alone: off(alone), pixels: off(pixels) };
	console.log(`a sixteenth of the pixels, mean difference in display values: ${JSON.stringify(told)}`);
	expect(told.alone).toBeLessThan(told.pixels);
	expect(told.guided).toBeLessThan(0.7 * told.alone);
	expect(told.guided).toBeLessThan(told.drawn);
});

test("each surface has the colours in the page that it has in the print, from near and far", async ({ page }) => {
	const kinds = SURFACE_KINDS;
	const { found, wrongs } = await drawShots(
		page,
		async (shots, { kinds, sides, many }) => {
			const found = [];
			const wrongs = [];
			for (const side of sides)
				for (let i = 0; i < kinds.length; i += many) {
					const { all, wrong } = await shots.blocksDrawnAndTraced(kinds.slice(i, i + many), side);
					found.push(...all.map((one) => ({ side, ...one })));
					wrongs.push({ side, first: kinds[i], wrong });
				}
			return { found, wrongs };
		},
		{ kinds, sides: [0.3, 1, 8], many: 24 },
	);
	expect(found).toHaveLength(3 * kinds.length);
	// Shaped by their relief, their outlines stand in the page where they stand in the print. Of a hundred triangles within a pixel
	// emulated graphics may lose all, once in some thousand pixels.
	for (const { side, first, wrong } of wrongs)
		expect.soft(wrong.length, `blocks of ${side} m from ${first} on: ${JSON.stringify(wrong)}`).toBeLessThanOrEqual(2);
	for (const side of [0.3, 1, 8]) {
		const own = found.filter((one) => one.side === side);
		const means = own.map(({ kind, drawn, traced }) => {
			expect(drawn.length, kind).toBeGreaterThan(25);
			const linear = (pixels: number[][]) =>
				labOf(
					...([0, 1, 2].map((c) => pixels.reduce((sum, p) => sum + decodeSrgb(p[c] / 255), 0) / pixels.length) as [
						number,
						number,
						number,
					]),
				);
			const apart = ciede2000(linear(drawn), linear(traced));
			expect.soft(apart, `${kind}, blocks of ${side} m`).toBeLessThan(2);
			return apart;
		});
		const each = own.flatMap(({ drawn, traced }) => drawn.map((p, i) => ciede2000(lab(p, 0), lab(traced[i], 0))));
		const sorted = (list: number[]) => [...list].sort((a, b) => a - b);
		const [m, e] = [sorted(means), sorted(each)];
		console.log(
			`surfaces, blocks of ${side} m: CIEDE2000 of means ${m[m.length >> 1].toFixed(2)}, at most ${m[m.length - 1].toFixed(2)}; of pixels ${e[e.length >> 1].toFixed(2)}, 95 % below ${e[Math.floor(0.95 * e.length)].toFixed(2)}`,
		);
	}
});

test("pictures that stand once lie and are cut out in the page as they are in the print", async ({ page }) => {
	const { pixels } = await drawShots(page, (shots) => shots.picturesDrawnAndTraced(), null);
	for (const id of [0, 1, 2, 3, 4]) {
		const own = pixels
			.filter(({ piece }) => piece === id)
			.map(({ drawn, traced }) => ciede2000(lab(drawn, 0), lab(traced, 0)))
			.sort((a, b) => a - b);
		expect(own.length, `piece ${id}`).toBeGreaterThan(40);
		const told = `${own[own.length >> 1].toFixed(2)}, 90 % below ${own[Math.floor(0.9 * own.length)].toFixed(2)}`;
		console.log(`pictures, piece ${id}: CIEDE2000 ${told}`);
		expect.soft(own[own.length >> 1], `piece ${id}: ${told}`).toBeLessThan(1);
		expect.soft(own[Math.floor(0.9 * own.length)], `piece ${id}: ${told}`).toBeLessThan(12);
	}
	// The picture is there, in its own colours.
	expect(pixels.filter(({ traced: [r, , b] }) => r > 2 * b).length).toBeGreaterThan(150);
	expect(pixels.filter(({ traced: [r, , b] }) => b > 2 * r).length).toBeGreaterThan(150);
});

test("what is out of focus is spread in the page as it is in the print, near and far", async ({ page }) => {
	const found = await drawShots(
		page,
		async (shots, distances) => {
			const all = [];
			for (const away of distances) all.push({ away, ...(await shots.blurDrawnAndTraced(away)) });
			return all;
		},
		[0.8, 1.5, 4, 8, 100],
	);
	for (const { away, drawn, traced, lens } of found) {
		console.log(
			`blur at ${away} m: ${drawn.toFixed(2)} px drawn, ${traced.toFixed(2)} traced, ${lens.toFixed(2)} by the lens`,
		);
		expect(Math.abs(drawn - traced), `${away} m`).toBeLessThan(0.5);
	}
});

test("the sea goes on to its horizon in the page as it does in the print, over a bed and without one", async ({
	page,
}) => {
	const views = [35, 400].flatMap((focalMm) => [
		{ focalMm, eyeM: 1.65, bed: true },
		{ focalMm, eyeM: 1.65, bed: false },
	]);
	const found = await drawShots(
		page,
		async (shots, all) => {
			const rows = [];
			for (const view of all) rows.push({ view, ...(await shots.seaDrawnAndTraced(view)) });
			return rows;
		},
		[...views, { focalMm: 35, eyeM: 2000, bed: true }, { focalMm: 35, eyeM: 0.2, bed: true }],
	);
	for (const { view, drawn, traced } of found) {
		const off = drawn.map((row, y) => Math.abs(row - traced[y]));
		const mean = off.reduce((sum, x) => sum + x, 0) / off.length;
		const what = `${view.focalMm} mm, ${view.eyeM} m over ${view.bed ? "a bed" : "the deep"}`;
		console.log(
			`sea, ${what}: rows differ by ${mean.toFixed(1)} of 255 in the mean, ${Math.max(...off).toFixed(1)} at most`,
		);
		expect(Math.max(...off), what).toBeLessThan(16);
		expect(mean, what).toBeLessThan(5);
	}
});

test("the working view shows the composition and the light of the print", async ({ page }, info) => {
	await page.goto(`${served().url}/shot/saltworks`);
	await page.waitForFunction(() => document.documentElement.dataset.drawn === "yes", null, { timeout: 120_000 });
	// A free view from the lens's own place is drawn, never traced.
	await page.keyboard.press("w");
	await expect(page.getByTestId("proof-state")).toContainText("free view");
	// While things change a slow machine draws fewer pixels; the comparison is with all of them, once the view is drawn.
	await page.evaluate(() => new Promise((next) => requestAnimationFrame(() => requestAnimationFrame(next))));
	await page.waitForFunction(() => document.documentElement.dataset.scale === "1", null, { timeout: 120_000 });
	const drawn = await page.evaluate(() => {
		const picture = document.querySelector("[data-testid=picture]") as HTMLElement;
		return {
			bleed: Number(picture.dataset.bleed),
			data: (picture.querySelector("canvas") as HTMLCanvasElement).toDataURL("image/png"),
		};
	});
	const canvas = sharp(Buffer.from(drawn.data.split(",")[1], "base64"));
	const { width, height } = await canvas.metadata();
	const frame = await canvas
		.extract({ left: drawn.bleed, top: drawn.bleed, width: width - 2 * drawn.bleed, height: height - 2 * drawn.bleed })
		.png()
		.toBuffer();
	const prints = (await (await page.request.get(`${served().url}/api/shots/saltworks`)).json()).prints;
	const print = await (await page.request.get(`${served().url}/api/prints/${prints[0].id}/png`)).body();
	const small = async (png: Buffer) => sharp(png).removeAlpha().resize(64, 35, { fit: "fill" }).raw().toBuffer();
	const a = await small(frame);
	const b = await small(print);
	let sum = 0;
	for (let i = 0; i < a.length; i += 3) {
		sum += ciede2000(lab(a, i), lab(b, i));
	}
	const mean = sum / (a.length / 3);
	info.annotations.push({ type: "mean CIEDE2000 at 64 px", description: mean.toFixed(2) });
	console.log(`working view against print: mean CIEDE2000 ${mean.toFixed(2)} at 64 px`);
	expect(mean).toBeLessThan(6);
});
