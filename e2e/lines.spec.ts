/** Drawn shapes by the pointer: an outline raised, one on a face, a line turned, a rail led, a wall with openings. */
import { expect } from "@playwright/test";
import { newPiece } from "../src/core/doc/defaults.ts";
import type { Piece } from "../src/core/doc/schema.ts";
import { type LinePiece, pointPlaces } from "../src/core/shape/handPoints.ts";
import { accessible, drag, emptyPlace, keptDocument, middleOf, number, open } from "./hands.ts";
import { test } from "./held.ts";

/** Corners on the ground, right and towards. */
const OUTLINE = [
	[-4, -8],
	[-2, -8],
	[-2, -10],
	[-3, -10],
	[-3, -12],
	[-4, -12],
];

test("lines are drawn point by point, raised, turned, led and walled; their points and openings are dragged", async ({
	page,
}) => {
	const at = await emptyPlace(page, "Lines", { position: [0, 4, 0], pitchDeg: -16 }, [
		newPiece("block", "box", { name: "block", position: [4, 0, -14], size: [3, 3, 3] }),
	]);
	await open(page, "Mass");
	const pieces = async () => (await keptDocument(page)).pieces;
	const last = async () => (await pieces()).at(-1) as Piece & LinePiece;
	const pick = (kind: string) => page.getByRole("radio", { name: kind, exact: true }).click();
	// Slower than two quick presses would be.
	const press = async (x: number, y: number, z: number) => {
		await page.mouse.click(...(await at(x, y, z)));
		await page.waitForTimeout(550);
	};

	// An outline, closed by its first point; it is shown while it is drawn.
	await pick("raised");
	for (const [x, z] of OUTLINE) await press(x, 0, z);
	await expect(page.getByTestId("line-so-far")).toHaveAttribute("data-points", "6");
	await press(-4, 0, -8);
	await expect.poll(async () => (await pieces()).length).toBe(2);
	const outline = await last();
	expect(outline).toMatchObject({ name: "Raised 1", shape: { kind: "raised" }, pitchDeg: 0 });
	const doc = await keptDocument(page);
	for (const [i, p] of pointPlaces(outline, doc).entries()) {
		const [x, z] = OUTLINE[i];
		expect(Math.hypot(p[0] - x, p[2] - z)).toBeLessThan(0.1);
	}
	await accessible(page);

	// One of its points is dragged; the others stay. Two quick presses make it soft.
	const [px, py] = await middleOf(page, "point-1");
	await drag(page, [px, py], [px + 40, py]);
	await expect.poll(async () => pointPlaces(await last(), doc)[1][0]).toBeGreaterThan(-1.8);
	expect(pointPlaces(await last(), doc)[4][0]).toBeCloseTo(pointPlaces(outline, doc)[4][0], 2);
	await page.mouse.dblclick(...(await middleOf(page, "point-1")));
	await expect.poll(async () => (await last()).shape.points[1].soft).toBe(true);
	// A place between two points becomes one, and goes again by key.
	const between = await middleOf(page, "between-4");
	await drag(page, between, [between[0] - 15, between[1] - 4]);
	await expect.poll(async () => (await last()).shape.points.length).toBe(7);
	await page.mouse.click(...(await middleOf(page, "point-6")));
	await page.keyboard.press("Delete");
	await expect.poll(async () => (await last()).shape.points.length).toBe(6);

	// Upright on the face of the block: it lies in that face, raised out of it.
	await pick("raised");
	await page.getByRole("radio", { name: "stands", exact: true }).click();
	for (const [x, y] of [
		[3.2, 0.8],
		[4.8, 0.8],
		[4, 2.4],
	])
		await press(x, y, -12.5);
	await page.keyboard.press("Enter");
	await expect.poll(async () => (await pieces()).length).toBe(3);
	const gable = await last();
	expect(gable.pitchDeg).toBe(90);
	for (const p of pointPlaces(gable, await keptDocument(page))) expect(p[2]).toBeCloseTo(-12.5, 1);

	// A wall, ended by Enter: a door and a window, the door dragged along it.
	await pick("wall");
	for (const [x, z] of [
		[-7, -16],
		[-1, -16],
		[1, -19],
	])
		await press(x, 0, z);
	await page.keyboard.press("Enter");
	await expect.poll(async () => (await last()).shape.kind).toBe("wall");
	expect((await last()).size[1]).toBe(3);
	await page.getByRole("button", { name: "door", exact: true }).click();
	await expect.poll(async () => ((await last()).shape as { openings: unknown[] }).openings.length).toBe(1);
	await page.getByRole("button", { name: "window", exact: true }).click();
	await expect.poll(async () => ((await last()).shape as { openings: unknown[] }).openings.length).toBe(2);
	const along = async () => ((await last()).shape as { openings: { alongM: number }[] }).openings[0].alongM;
	const was = await along();
	const door = await middleOf(page, "opening-0");
	await drag(page, door, [door[0] - 25, door[1]]);
	await expect.poll(along).toBeLessThan(was - 0.2);
	await number(page, "Width 2").fill("90");
	await number(page, "Width 2").press("Enter");
	await expect(page.getByText("Two openings of the wall lie over each other.")).toBeVisible();

	// A rail, closed by its first point; a vase, upright.
	await pick("rail");
	for (const [x, z] of [
		[0, -7],
		[2, -7],
		[2, -9],
	])
		await press(x, 0, z);
	await press(0, 0, -7);
	await expect.poll(async () => (await last()).shape).toMatchObject({ kind: "rail", closed: true });
	await pick("turned");
	await press(-1, 0, -8);
	await press(-0.5, 0, -8);
	await press(-0.7, 0.8, -8);
	await page.keyboard.press("Enter");
	await expect.poll(async () => (await last()).shape.kind).toBe("turned");
	expect((await last()).size[1]).toBeGreaterThan(0.5);

	// A line that crosses itself is refused in a sentence and goes on being drawn.
	await pick("raised");
	for (const [x, z] of [
		[2.6, -9],
		[3.8, -10.5],
		[3.8, -9],
		[2.6, -10.5],
	])
		await press(x, 0, z);
	await page.keyboard.press("Enter");
	await expect(page.getByText("The line crosses itself: move its points apart.")).toBeVisible();
	await page.keyboard.press("Escape");
	await expect(page.getByTestId("line-so-far")).toHaveCount(0);
	expect((await pieces()).length).toBe(6);
});
