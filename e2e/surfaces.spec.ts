/** Surfaces found on slips, tried in the frame, laid on a piece and on the ground, one over another. */
import { expect } from "@playwright/test";
import { newPiece } from "../src/core/doc/defaults.ts";
import { SHOT_TEXELS, TEXEL_WORDS, texelsOf } from "../src/core/surface/sheet.ts";
import { sheetName } from "../src/core/surface/sheetName.ts";
import { slugOf } from "../src/core/surface/surfaces.ts";
import { accessible, emptyPlace, keptDocument, number, open } from "./hands.ts";
import { test } from "./held.ts";

test("a surface is found by words, tried, laid on a piece and under another, set, taken back and kept", async ({
	page,
}) => {
	const wall = newPiece("wall", "box", { name: "Wall", position: [0, 0, -6], size: [4, 2, 0.6] });
	const at = await emptyPlace(page, "Surfaces", { position: [0, 1.6, 0], pitchDeg: -6 }, [wall]);
	await open(page, "Mass");
	await page.mouse.click(...(await at(0.4, 1, -5.7)));
	const laid = async () => (await keptDocument(page)).pieces[0].surface.laid;
	const line = page.getByTestId("laid");
	await expect(line).toHaveText("bare");
	await page.getByRole("button", { name: "Choose" }).click();
	const find = page.getByRole("searchbox", { name: "Find" });
	await find.fill("no such thing");
	await expect(page.getByText("No surface is called that.")).toBeVisible();
	await find.fill("white wall");
	const slip = page.getByRole("button", { name: "brick, whitewashed" });
	await expect(slip).toBeVisible();
	await expect(page.getByRole("button", { name: "snow, fresh" })).toHaveCount(0);
	await accessible(page);

	// Tried under the pointer: nothing is kept of it, and it is gone when the pointer is.
	await slip.hover();
	await expect(line).toHaveText("brick, whitewashed");
	await find.hover();
	await expect(line).toHaveText("bare");
	expect(await laid()).toBeUndefined();

	await slip.click();
	await expect.poll(async () => (await laid())?.of).toBe("whitewashed brick");
	await number(page, "Relief").fill("24");
	await number(page, "Relief").press("Enter");
	await expect.poll(async () => (await laid())?.reliefMm).toBe(24);
	await page.getByRole("button", { name: "Close" }).click();

	// Another over it, where it faces up; then from a height on, too.
	await page.getByRole("button", { name: "Lay another over it" }).click();
	await page.getByRole("searchbox", { name: "Find" }).fill("moss");
	await page.getByRole("button", { name: "moss, cushions" }).click();
	const over = page.getByRole("list", { name: "Over it" });
	await expect(over).toContainText("over it moss, cushions where it leans less than 40°");
	await over.getByRole("combobox", { name: /nly$/ }).selectOption("By height");
	await expect.poll(async () => (await laid())?.over?.[0].where.map((w) => w.kind)).toEqual(["facing", "high"]);
	await over.getByRole("button", { name: "Strike out" }).first().click();
	await expect.poll(async () => (await laid())?.over?.[0].where.map((w) => w.kind)).toEqual(["high"]);
	await page.keyboard.press("Control+z");
	await expect.poll(async () => (await laid())?.over?.[0].where.map((w) => w.kind)).toEqual(["facing", "high"]);

	// A colour that is chosen is seen: the surface takes it on.
	await page.getByRole("button", { name: "Lay bare" }).click();
	await expect(line).toHaveText("bare");
	await page.keyboard.press("Control+z");
	await expect(line).toHaveText("brick, whitewashed");

	// The ground has one of its own.
	await open(page, "Ground");
	await page.getByRole("button", { name: "Choose" }).click();
	await page.getByRole("combobox", { name: "Family" }).selectOption("ground");
	await expect(page.getByRole("button", { name: "brick, old" })).toHaveCount(0);
	await page.getByRole("button", { name: "shingle, rounded" }).click();
	await expect.poll(async () => (await keptDocument(page)).groundLaid?.of).toBe("shingle");

	await page.reload();
	await open(page, "Ground");
	await expect(page.getByTestId("laid")).toHaveText("shingle, rounded");
	expect((await laid())?.over).toHaveLength(1);
	// The server keeps what it has baked, and has nothing of another version.
	const asked = (name: string) =>
		page.evaluate(async (address) => {
			const response = await fetch(address);
			return [response.status, (await response.arrayBuffer()).byteLength];
		}, `/api/sheets/${name}`);
	const work = { of: "whitewashed brick" as const, seed: 1, texels: SHOT_TEXELS };
	const bytes = 32 + 4 * TEXEL_WORDS * texelsOf(SHOT_TEXELS);
	expect(await asked(`${slugOf(work.of)}/1/${sheetName(work)}`)).toEqual([200, bytes]);
	for (const other of [`${slugOf(work.of)}/1/none`, `${slugOf(work.of)}/x/${sheetName(work)}`, "nothing/1/none"])
		expect((await asked(other))[0], other).toBe(404);
});
