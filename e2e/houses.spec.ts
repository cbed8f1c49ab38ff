/** A street of houses by the pointer, and a plan of blocks, in the print's numbers. */
import { expect } from "@playwright/test";
import { drag, emptyPlace, keptDocument, middleOf, number, open } from "./hands.ts";
import { test } from "./held.ts";

test("a house is drawn, repeated along a line by several seeds, its windows lit; a plan is cut into blocks", async ({
	page,
}) => {
	const at = await emptyPlace(page, "Street", { position: [0, 6, 0], pitchDeg: -8 });
	await open(page, "Mass");
	const pieces = async () => (await keptDocument(page)).pieces;
	const pick = (kind: string) => page.getByRole("radio", { name: kind, exact: true }).click();
	const set = async (name: string, value: string) => {
		await number(page, name).fill(value);
		await number(page, name).press("Enter");
	};

	await pick("building");
	await drag(page, await at(-9, 0, -22), await at(-3, 7, -22));
	await expect
		.poll(async () => (await pieces())[0]?.shape)
		.toMatchObject({ kind: "building", storeys: 3, bays: 4, lit: 0 });
	await set("Bays", "6");
	await page.getByRole("combobox", { name: "Roof" }).selectOption("hipped");
	await set("Lit windows", "0.5");
	await expect.poll(async () => (await pieces())[0].shape).toMatchObject({ bays: 6, roof: "hipped", lit: 0.5 });

	// A row of them along a line whose last point is dragged; their seeds differ.
	await page.getByRole("radio", { name: "along", exact: true }).click();
	await expect.poll(async () => (await pieces())[0].repeat?.kind).toBe("along");
	await set("Count", "5");
	const line = async () => ((await pieces())[0].repeat as { points: { at: [number, number] }[] }).points;
	const was = (await line())[1].at;
	const from = await middleOf(page, "line-point-1");
	await drag(page, from, [from[0] + 30, from[1] + 2]);
	await expect.poll(async () => (await line())[1].at[0]).toBeGreaterThan(was[0] + 0.5);
	await page.getByRole("switch", { name: "Unlike each other" }).click();
	await set("Seeds of the shape", "4");
	await expect.poll(async () => (await pieces())[0].repeat?.vary).toMatchObject({ seeds: 4 });

	// A plan, drawn corner by corner on the ground, behind.
	await page.keyboard.press("Escape");
	await pick("town");
	for (const [x, z] of [
		[8, -40],
		[40, -45],
		[60, -120],
		[6, -110],
	]) {
		await page.mouse.click(...(await at(x, 0, z)));
		await page.waitForTimeout(550);
	}
	await page.keyboard.press("Enter");
	await expect.poll(async () => (await pieces())[1]?.shape.kind).toBe("town");
	expect((await pieces())[1].size[1]).toBe(14);
	await set("Streets", "6");
	await expect.poll(async () => (await pieces())[1].shape).toMatchObject({ streetM: 6 });

	// In other programs: walls, panes, light and roofs by themselves.
	await open(page, "Print");
	const download = page.waitForEvent("download");
	await page.getByRole("button", { name: "glTF", exact: true }).click();
	expect((await download).suggestedFilename()).toBe("Street.glb");
});
