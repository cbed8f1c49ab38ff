/** Solids by the pointer: in the frame and in the plan, with measures of their own, repeated, single ones left out, mirrored. */

import { readFileSync } from "node:fs";
import { expect } from "@playwright/test";
import { drag, emptyPlace, keptDocument, middleOf, number, open } from "./hands.ts";
import { test } from "./held.ts";

test("solids are drawn in frame and plan, have measures, go round in a ring of which one is dropped, and are taken away as glTF", async ({
	page,
}) => {
	const at = await emptyPlace(page, "Solids", { position: [0, 4, 0], pitchDeg: -18 });
	await open(page, "Mass");
	const pieces = async () => (await keptDocument(page)).pieces;
	const pick = (kind: string) => page.getByRole("radio", { name: kind, exact: true }).click();

	// A stair: wider steps by number, and a tap sets another as large beside it.
	await pick("stair");
	await drag(page, await at(-4, 0, -10), await at(-2, 1.6, -10));
	await expect.poll(async () => (await pieces()).length).toBe(1);
	await number(page, "Steps").fill("12");
	await number(page, "Steps").press("Enter");
	await expect.poll(async () => (await pieces())[0].shape).toEqual({ kind: "stair", steps: 12, flightM: null });
	await pick("stair");
	const free = await at(0, 0, -13);
	await page.mouse.click(...free);
	await expect.poll(async () => (await pieces()).length).toBe(2);
	const [first, second] = await pieces();
	expect(second).toMatchObject({ name: "Stair 2", size: first.size, shape: first.shape });
	expect(Math.hypot(second.position[0], second.position[2] + 13)).toBeLessThan(0.2);

	// An arch finds its own span until one is given; a width below 0 is that of a mirror.
	await pick("arch");
	await drag(page, await at(1, 0, -9), await at(4, 3, -9));
	await expect.poll(async () => (await pieces()).length).toBe(3);
	const wide = (await pieces())[2].size[0];
	expect(Math.abs(Number(await number(page, "Span").inputValue()) - 0.7 * wide)).toBeLessThan(0.006);
	await number(page, "Span").fill("1.2");
	await number(page, "Span").press("Enter");
	await page.getByRole("combobox", { name: "Curve" }).selectOption("pointed");
	await expect.poll(async () => (await pieces())[2].shape).toMatchObject({ spanM: 1.2, curve: "pointed" });
	await number(page, "Width").fill("-3");
	await number(page, "Width").press("Enter");
	await expect.poll(async () => (await pieces())[2].mirrored).toEqual([true, false, false]);
	expect((await pieces())[2].size[0]).toBe(3);
	await page.keyboard.press("Control+z");
	await expect.poll(async () => (await pieces())[2].mirrored).toBeUndefined();

	// What is held has no handles and is not picked in the frame; the list still finds it, and lets it go.
	await page.getByRole("switch", { name: "Held" }).click();
	await expect.poll(async () => (await pieces())[2].held).toBe(true);
	await expect(page.getByTestId("handle-foot")).toHaveCount(0);
	await page.getByRole("switch", { name: "Held" }).click();
	await expect(page.getByTestId("handle-foot")).toHaveCount(1);

	// A sheet lies where it is drawn from corner to corner.
	await pick("plane");
	await drag(page, await at(-3, 0, -7), await at(-1, 0, -8.5));
	await expect.poll(async () => (await pieces())[3]?.shape).toEqual({ kind: "plane" });
	const sheet = (await pieces())[3];
	expect(sheet.size[0]).toBeCloseTo(2, 1);
	expect(sheet.size[2]).toBeCloseTo(1.5, 1);

	// In the plan: from corner to corner.
	await pick("tube");
	const plan = (await page.getByTestId("plan").boundingBox()) as {
		x: number;
		y: number;
		width: number;
		height: number;
	};
	const inPlan = (x: number, y: number): [number, number] => [plan.x + x * plan.width, plan.y + y * plan.height];
	await drag(page, inPlan(0.62, 0.3), inPlan(0.72, 0.22));
	await expect.poll(async () => (await pieces())[4]?.shape).toEqual({ kind: "tube", wallM: 0.1 });

	// A ring of posts: its middle is dragged, one is dropped by its foot, one is moved.
	await pick("cylinder");
	await drag(page, await at(-0.1, 0, -6), await at(0.1, 1.2, -6));
	await page.getByRole("radio", { name: "ring", exact: true }).click();
	await expect.poll(async () => (await pieces())[5]?.repeat).toMatchObject({ kind: "ring", count: 8, turned: true });
	await number(page, "Middle away").fill("2");
	await number(page, "Middle away").press("Enter");
	await expect.poll(async () => (await pieces())[5].repeat).toMatchObject({ centre: [0, 2] });
	await page.mouse.click(...(await middleOf(page, "copy-2")));
	await expect(page.getByTestId("single")).toContainText("Number 3 of 8");
	await page.keyboard.press("Delete");
	await expect.poll(async () => (await pieces())[5].repeat).toMatchObject({ singles: [{ copy: 2, out: true }] });
	await expect(page.getByText("7 of 8 stand there.")).toBeVisible();
	const six = await middleOf(page, "copy-6");
	await drag(page, six, [six[0] - 40, six[1] + 6]);
	await expect
		.poll(async () => (await pieces())[5].repeat?.singles?.find((s) => s.copy === 6)?.by?.[0] ?? 0)
		.toBeLessThan(-0.1);
	await page.getByRole("button", { name: "Set apart" }).click();
	await expect.poll(async () => (await pieces()).length).toBe(12);
	expect((await pieces()).every((p) => p.repeat === null)).toBe(true);
	await page.keyboard.press("Control+z");
	await expect.poll(async () => (await pieces()).length).toBe(6);

	// The whole set for other programs.
	await open(page, "Print");
	const download = page.waitForEvent("download");
	await page.getByRole("button", { name: "glTF", exact: true }).click();
	const file = await download;
	expect(file.suggestedFilename()).toBe("Solids.glb");
	const bytes = readFileSync(await file.path());
	expect(bytes.toString("latin1", 0, 4)).toBe("glTF");
	const json = JSON.parse(bytes.toString("utf8", 20, 20 + bytes.readUInt32LE(12)));
	const names: string[] = json.nodes.map((n: { name: string }) => n.name);
	expect(names).toEqual(
		expect.arrayContaining(["Ground", "Stair 1", "Stair 2", "Arch 1", "Cylinder 1, 7", "Camera", "Sun"]),
	);
	expect(names).not.toContain("Cylinder 1, 8");
});
