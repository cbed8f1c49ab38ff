/** The same shot, compiled and traced in the browser and in Node, has the same parts and the same pixels. */
import { createHash } from "node:crypto";
import { readFileSync } from "node:fs";
import { expect, test } from "@playwright/test";
import { build } from "esbuild";
import sharp from "sharp";
import { ciede2000, labOf } from "../src/core/colour/difference.ts";
import { decodeSrgb } from "../src/core/colour/linear.ts";
import { served } from "./server.ts";
import { traceShot } from "./traceShot.ts";

test("browser and Node trace identical pixels", async ({ page }) => {
	const here = await traceShot(readFileSync("build/kernel.wasm"));
	const bundle = await build({
		entryPoints: ["e2e/traceShot.ts"],
		bundle: true,
		format: "iife",
		globalName: "traced",
		write: false,
		platform: "browser",
	});
	await page.goto(`${served().url}/shot/blank`);
	await page.addScriptTag({ content: bundle.outputFiles[0].text });
	const there = await page.evaluate(async () => {
		const { traceShot: trace } = (globalThis as unknown as { traced: { traceShot: typeof traceShot } }).traced;
		const result = await trace(new Uint8Array(await (await fetch("/kernel.wasm")).arrayBuffer()));
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

test("the working view shows the composition and the light of the print", async ({ page }, info) => {
	await page.goto(`${served().url}/shot/salina`);
	await page.waitForFunction(() => document.documentElement.dataset.drawn === "yes", null, { timeout: 120_000 });
	// A free view from the lens's own place is drawn, never traced.
	await page.keyboard.press("w");
	await expect(page.getByTestId("proof-state")).toContainText("free view");
	// While things change a slow machine draws fewer pixels; the comparison is with all of them.
	await page.waitForTimeout(1000);
	await page.waitForFunction(() => document.documentElement.dataset.scale === "1", null, { timeout: 60_000 });
	await page.waitForTimeout(1500);
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
	const prints = (await (await page.request.get(`${served().url}/api/shots/salina`)).json()).prints;
	const print = await (await page.request.get(`${served().url}/api/prints/${prints[0].id}/png`)).body();
	const small = async (png: Buffer) => sharp(png).removeAlpha().resize(64, 35, { fit: "fill" }).raw().toBuffer();
	const a = await small(frame);
	const b = await small(print);
	let sum = 0;
	for (let i = 0; i < a.length; i += 3) {
		const lab = (p: Buffer) => labOf(...([0, 1, 2].map((c) => decodeSrgb(p[i + c] / 255)) as [number, number, number]));
		sum += ciede2000(lab(a), lab(b));
	}
	const mean = sum / (a.length / 3);
	info.annotations.push({ type: "mean CIEDE2000 at 64 px", description: mean.toFixed(2) });
	console.log(`working view against print: mean CIEDE2000 ${mean.toFixed(2)} at 64 px`);
	expect(mean).toBeLessThan(6);
});
