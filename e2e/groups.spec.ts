/** Groups by the pointer: made, turned about a pivot, entered and left; pieces that share their shape. */
import { expect } from "@playwright/test";
import sharp from "sharp";
import { newPiece } from "../src/core/doc/defaults.ts";
import { accessible, drag, emptyPlace, inFrame, keptDocument, middleOf, number, open } from "./hands.ts";
import { test } from "./held.ts";

test("a group is made, turned about its pivot, entered and left; posts share their shape until they are set apart", async ({
	page,
}) => {
	const post = (id: string, x: number) => newPiece(id, "box", { name: id, position: [x, 0, -10], size: [0.6, 2, 0.6] });
	const at = await emptyPlace(page, "Groups", { position: [0, 3, 0], pitchDeg: -10 }, [
		post("west", -1.5),
		post("middle", 0.5),
		post("east", 2.5),
	]);
	await open(page, "Mass");
	const piece = async (id: string) => (await keptDocument(page)).pieces.find((p) => p.id === id);
	await page.mouse.click(...(await at(-1.5, 1, -9.7)));
	await expect(number(page, "Right")).toHaveValue("-1.50");
	await page.keyboard.down("Shift");
	await page.mouse.click(...(await at(0.5, 1, -9.7)));
	await page.keyboard.up("Shift");
	await page.getByRole("button", { name: "Make them a group" }).click();
	await expect(page.getByTestId("group")).toContainText("a group of 2");
	await expect.poll(async () => (await keptDocument(page)).groups?.map((g) => g.name)).toEqual(["Group 1"]);

	// Clicked elsewhere, and on one of them: both are taken, and the list has one line for them.
	await page.mouse.click(...(await at(-3, 0, -6)));
	await expect(page.getByTestId("group")).toHaveCount(0);
	await page.mouse.click(...(await at(0.5, 1, -9.7)));
	await expect(page.getByTestId("group")).toContainText("a group of 2");

	// Turned by the ring's tick about the middle of its feet: as a body.
	const before = await piece("west");
	const tick = await middleOf(page, "handle-heading");
	await drag(page, tick, [tick[0] + 70, tick[1] - 6]);
	await expect.poll(async () => (await piece("west"))?.headingDeg).not.toBe(before?.headingDeg);
	const [west, middle] = [await piece("west"), await piece("middle")];
	expect(west?.headingDeg).toBe(middle?.headingDeg);
	const apart = Math.hypot(
		(west?.position[0] ?? 0) - (middle?.position[0] ?? 0),
		(west?.position[2] ?? 0) - (middle?.position[2] ?? 0),
	);
	expect(apart).toBeCloseTo(2, 6);
	expect(((west?.position[0] ?? 0) + (middle?.position[0] ?? 0)) / 2).toBeCloseTo(-0.5, 6);
	expect((await piece("east"))?.position).toEqual([2.5, 0, -10]);

	// A pivot of its own, dragged; turned about it by number, and back by undo.
	await page.getByRole("switch", { name: "Turned and sized about" }).click();
	await expect.poll(async () => (await keptDocument(page)).groups?.[0].pivot?.[2]).toBeCloseTo(-10, 3);
	const [px, py] = await middleOf(page, "handle-pivot");
	const box = await page.getByTestId("handle-pivot").boundingBox();
	await drag(page, [px - (box?.width ?? 0) / 2 + 8, py], [px - 120, py + 30]);
	await expect.poll(async () => (await keptDocument(page)).groups?.[0].pivot?.[0]).toBeLessThan(-1.2);
	const pivot = (await keptDocument(page)).groups?.[0].pivot as [number, number, number];
	await number(page, "Turn by").fill("90");
	await number(page, "Turn by").press("Enter");
	const far = (p: Awaited<ReturnType<typeof piece>>) =>
		Math.hypot((p?.position[0] ?? 0) - pivot[0], (p?.position[2] ?? 0) - pivot[2]);
	await expect.poll(async () => (await piece("west"))?.headingDeg).toBe((west?.headingDeg ?? 0) + 90);
	expect(far(await piece("west"))).toBeCloseTo(far(west), 6);
	expect((await keptDocument(page)).groups?.[0].pivot).toEqual([
		expect.closeTo(pivot[0], 6),
		pivot[1],
		expect.closeTo(pivot[2], 6),
	]);
	await page.keyboard.press("Control+z");
	await expect.poll(async () => (await piece("west"))?.position).toEqual(west?.position);

	// Larger by the crown's arrow, as a whole.
	const crown = await middleOf(page, "handle-height");
	await drag(page, crown, [crown[0], crown[1] - 40]);
	await expect.poll(async () => (await piece("middle"))?.size[1]).toBeGreaterThan(2.2);
	await page.keyboard.press("Control+z");
	await expect.poll(async () => (await piece("middle"))?.size[1]).toBe(2);
	await accessible(page);

	// Entered, a piece is picked by itself; Escape takes the whole again.
	await page.getByRole("button", { name: "Enter it" }).click();
	await expect(page.getByTestId("entered")).toContainText("Inside Group 1");
	const [x, , z] = middle?.position ?? [0, 0, 0];
	await page.mouse.click(...(await at(x, 1.9, z + 0.3)));
	await expect(page.getByRole("textbox", { name: "Name of the piece" })).toHaveValue("middle");
	await page.keyboard.press("Escape");
	await expect(page.getByTestId("entered")).toHaveCount(0);
	await expect(page.getByTestId("group")).toContainText("a group of 2");
	await page.getByRole("button", { name: "Part it" }).click();
	await expect.poll(async () => (await keptDocument(page)).groups).toEqual([]);

	// Another that shares its shape: taller together, apart by a click.
	await page.keyboard.press("Escape");
	await page.mouse.click(...(await at(2.5, 1, -9.7)));
	await expect(page.getByRole("textbox", { name: "Name of the piece" })).toHaveValue("east");
	await page.keyboard.press("Shift+Y");
	await expect(page.getByTestId("shared")).toContainText("changes all 2");
	await number(page, "Height").fill("3");
	await number(page, "Height").press("Enter");
	await expect.poll(async () => (await piece("east"))?.size[1]).toBe(3);
	await page.getByRole("button", { name: "Set apart" }).click();
	await expect(page.getByTestId("shared")).toHaveCount(0);
	await number(page, "Height").fill("1");
	await number(page, "Height").press("Enter");
	await expect.poll(async () => (await keptDocument(page)).pieces[3]?.size[1]).toBe(1);
	expect((await piece("east"))?.size[1]).toBe(3);
});

test("a piece is exchanged for one of those that are drawn in its place; the frame has other looks", async ({
	page,
}) => {
	const rock = newPiece("rock", "blob", { name: "rock", position: [0, 0, -9], headingDeg: 30, size: [2, 1.5, 2] });
	const at = await emptyPlace(page, "Exchange", { position: [0, 2, 0], pitchDeg: -6 }, [rock]);
	await open(page, "Mass");
	await page.mouse.click(...(await at(0, 0.8, -8.5)));
	await expect(page.getByRole("textbox", { name: "Name of the piece" })).toHaveValue("rock");

	// How many greys there are about the middle of the frame, in each look.
	const greys = async () => {
		const box = await page.getByTestId("plate").boundingBox();
		if (!box) throw new Error("no frame");
		const clip = { x: box.x + box.width * 0.3, y: box.y + box.height * 0.55, width: 300, height: 120 };
		const { data } = await sharp(await page.screenshot({ clip }))
			.removeAlpha()
			.raw()
			.toBuffer({ resolveWithObject: true });
		return new Set(Array.from({ length: data.length / 3 }, (_, i) => data.readUIntBE(3 * i, 3))).size;
	};
	await page.keyboard.press("Escape");
	const look = page.getByRole("radiogroup", { name: "Look of the frame" });
	await look.getByRole("radio", { name: "tones" }).click();
	await number(page, "Steps from black to white").fill("3");
	await number(page, "Steps from black to white").press("Enter");
	await expect.poll(greys).toBeLessThanOrEqual(3);
	for (const name of ["white", "clay", "raking"]) {
		await look.getByRole("radio", { name }).click();
		await expect.poll(greys).toBeGreaterThan(30);
	}
	// The raking light follows the pointer.
	const shot = async () => {
		await page.waitForTimeout(1200);
		const { data } = await sharp(await page.screenshot())
			.extract({ left: 420, top: 330, width: 140, height: 100 })
			.greyscale()
			.raw()
			.toBuffer({ resolveWithObject: true });
		const half = (from: number) =>
			Array.from({ length: 70 * 100 }, (_, i) => data[Math.floor(i / 70) * 140 + from + (i % 70)]).reduce(
				(s, v) => s + v,
				0,
			);
		return half(0) - half(70);
	};
	await page.mouse.move(...(await inFrame(page, 0.08, 0.5)));
	const fromLeft = await shot();
	await page.mouse.move(...(await inFrame(page, 0.92, 0.5)));
	expect(fromLeft - (await shot())).toBeGreaterThan(10_000);
	await look.getByRole("radio", { name: "surfaces" }).click();

	await page.mouse.click(...(await at(0, 0.8, -8.5)));
	await page.getByRole("button", { name: "Exchange", exact: true }).click();
	const candidates = page.getByTestId("exchange");
	await expect(candidates).toHaveCount(9);
	await expect(page.getByText("Foot, height and turn stay.")).toBeVisible({ timeout: 120_000 });
	await candidates.filter({ hasText: "wider" }).click();
	await expect(page.getByTestId("exchange-sheet")).toHaveCount(0);
	await expect.poll(async () => (await keptDocument(page)).pieces[0].size[0]).toBeCloseTo(2.7, 2);
	expect((await keptDocument(page)).pieces[0]).toMatchObject({ position: rock.position, headingDeg: 30, name: "rock" });
});
