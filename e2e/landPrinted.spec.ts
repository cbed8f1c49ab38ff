/** The land from a preset to the print: each thing that may happen to it by the pointer, and what of it the print holds. */
import { readFileSync } from "node:fs";
import { expect } from "@playwright/test";
import { readExr } from "../src/core/formats/exr.ts";
import { groundHeight, onPaths, waterInLand } from "../src/core/ground/height.ts";
import { frameOfView, project } from "../src/core/lens/camera.ts";
import { ID_GROUND, ID_SKY, ID_WATER } from "../src/core/scene/ids.ts";
import { drag, emptyPlace, inFrame, keptDocument, number, open } from "./hands.ts";
import { test } from "./held.ts";

const PRINT_PX = 120;

test("preset, rule, brush, path, pond and skyline by the pointer are what the print shows", async ({ page }) => {
	const at = await emptyPlace(page, "From a preset to the print", { position: [0, 7, 0], pitchDeg: -8 });
	await open(page, "Ground");
	const ground = async () => (await keptDocument(page)).ground;
	const kinds = async () => ((await ground()).ledger ?? []).map((e) => e.kind);
	const typed = async (name: string, value: string) => {
		await number(page, name).fill(value);
		await number(page, name).press("Enter");
	};
	await page.getByRole("radio", { name: "moor" }).click();
	await expect.poll(async () => (await ground()).preset).toBe("moor");
	await typed("Height", "0");
	// A rule is dragged, and the land goes along.
	await page.getByRole("button", { name: "Swell", exact: true }).click();
	await expect.poll(async () => (await ground()).ledger?.[0]?.kind).toBe("swell");
	const swelling = async () => JSON.stringify((await ground()).ledger?.[0]);
	const before = await swelling();
	const rule = page.getByRole("slider", { name: "Across" });
	await rule.scrollIntoViewIfNeeded();
	const thumb = (await rule.boundingBox()) ?? { x: 0, y: 0, width: 0, height: 0 };
	const [tx, ty] = [thumb.x + thumb.width / 2, thumb.y + thumb.height / 2];
	await drag(page, [tx, ty], [tx - 24, ty]);
	await expect.poll(swelling).not.toBe(before);
	const dragged = await swelling();
	await page.keyboard.press("ArrowLeft");
	await expect.poll(swelling).not.toBe(dragged);
	// A mound by hand, to the right.
	await page.getByRole("radio", { name: "Raise" }).click();
	await typed("Rises by", "6");
	await drag(page, await at(13, 0, -38), await at(17, 0, -40));
	await page.keyboard.press("Escape");
	await page.getByRole("button", { name: "Lay a path", exact: true }).click();
	await expect.poll(async () => (await kinds()).at(-1)).toBe("path");
	await page.getByRole("button", { name: "Ponds", exact: true }).click();
	await typed("Within", "12");
	await typed("Dug by", "3");
	await typed("Right", "-13");
	await typed("Away", "34");
	await expect(page.getByText(/^One pond, about \d+ m across/)).toBeVisible();
	await page.getByRole("button", { name: "Draw a skyline" }).click();
	await page.mouse.move(...(await inFrame(page, 0.05, 0.3)));
	await page.mouse.down();
	for (const [x, y] of [
		[0.3, 0.2],
		[0.6, 0.27],
		[0.95, 0.22],
	])
		await page.mouse.move(...(await inFrame(page, x, y)));
	await page.mouse.up();
	await expect.poll(async () => (await kinds()).sort()).toEqual(["hand", "path", "pond", "skyline", "swell"]);

	await open(page, "Print");
	for (const [name, value] of [
		["Width", String(PRINT_PX)],
		["Samples", "4"],
		["Stops at noise", "0"],
	])
		await typed(name, value);
	await page.locator("aside footer").getByRole("button", { name: "Print", exact: true }).click();
	const row = page.getByTestId("print").first();
	await expect(row).toHaveAttribute("data-state", "done", { timeout: 120_000 });
	const [file] = await Promise.all([
		page.waitForEvent("download"),
		row.getByRole("link", { name: "EXR", exact: true }).click(),
	]);
	const exr = readExr(readFileSync(await file.path()));
	const plane = (name: string) => exr.channels.find((c) => c.name === name)?.data as Uint32Array | Float32Array;
	const [ids, depth, red, blue] = ["id", "Z", "R", "B"].map(plane);
	const doc = await keptDocument(page);
	const view = frameOfView(doc.camera);
	/** The pixel that a place of the land is seen in. */
	const pixel = (x: number, z: number, up = 0): number => {
		const q = project(view, [x, groundHeight(doc.ground, x, z) + up, z]);
		return Math.floor(q.y * exr.height) * exr.width + Math.floor(q.x * exr.width);
	};
	// The pond is water at its place, the mound is nearer than the land behind it, and the path has its own colour.
	const level = waterInLand(doc.ground, -13, -34) ?? Number.NaN;
	expect(ids[pixel(-13, -34, level - groundHeight(doc.ground, -13, -34))]).toBe(ID_WATER);
	expect(groundHeight(doc.ground, 15, -39)).toBeGreaterThan(2.5);
	const mound = pixel(15, -39);
	expect(ids[mound]).toBe(ID_GROUND);
	expect(depth[mound]).toBeGreaterThan(33);
	expect(depth[mound]).toBeLessThan(43);
	const path = doc.ground.ledger?.find((e) => e.kind === "path");
	const [px, pz] = path?.kind === "path" ? path.points[2] : [0, 0];
	expect(onPaths(doc.ground)?.(px, pz)).toBeGreaterThan(0.9);
	const warm = (n: number) => red[n] / blue[n];
	expect(warm(pixel(px, pz))).not.toBeCloseTo(warm(pixel(px + 8, pz)), 2);
	// Far land ends where the line was drawn: sky above it, land below.
	const row2 = (y: number, x: number) => Math.floor(y * exr.height) * exr.width + Math.floor(x * exr.width);
	expect(ids[row2(0.235 - 0.04, 0.45)]).toBe(ID_SKY);
	expect(ids[row2(0.235 + 0.04, 0.45)]).toBe(ID_GROUND);
});
