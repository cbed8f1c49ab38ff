/** The same shot, compiled and traced in the browser and in Node, has the same parts and the same pixels. */
import { createHash } from "node:crypto";
import { readFileSync } from "node:fs";
import { expect, test } from "@playwright/test";
import { build } from "esbuild";
import { served } from "./server.ts";
import { traceShot } from "./traceShot.ts";

test("browser and Node trace identical pixels", async ({ page }) => {
	const here = await traceShot(readFileSync("build/kernel.wasm"));
	const bundle = await build({ entryPoints: ["e2e/traceShot.ts"], bundle: true, format: "iife", globalName: "traced", write: false, platform: "browser" });
	await page.goto(`${served().url}/shot/blank`);
	await page.addScriptTag({ content: bundle.outputFiles[0].text });
	const there = await page.evaluate(async () => {
		const { traceShot: trace } = (globalThis as unknown as { traced: { traceShot: typeof traceShot } }).traced;
		const result = await trace(new Uint8Array(await (await fetch("/kernel.wasm")).arrayBuffer()));
		const digest = await crypto.subtle.digest("SHA-256", result.planes as unknown as ArrayBuffer);
		return { keys: result.keys, partBytes: result.partSum, sha256: [...new Uint8Array(digest)].map((b) => b.toString(16).padStart(2, "0")).join("") };
	});
	expect(there.keys).toEqual(here.keys);
	expect(there.partBytes).toBe(here.partSum);
	expect(there.sha256).toBe(createHash("sha256").update(here.planes).digest("hex"));
	expect(here.prefix).toBe(true);
});
