/** Pictures that stand once: laid in one place and moved there by hand, stood up as cards that they cut out, as sequences, as relief. */
import { expect, type Page } from "@playwright/test";
import { encode } from "fast-png";
import { newPiece } from "../src/core/doc/defaults.ts";
import type { Laid, LaidWhere } from "../src/core/doc/schema.ts";
import { accessible, drag, emptyPlace, keptDocument, middleOf, number, open } from "./hands.ts";
import { test } from "./held.ts";

type Here = Extract<LaidWhere, { kind: "here" }>;

const png = (width: number, height: number, channels: 1 | 3 | 4, at: (x: number, y: number) => readonly number[]) =>
	Buffer.from(
		encode({
			...{ width, height, channels, depth: 8 },
			data: Uint8Array.from({ length: width * height * channels }, (_, n) => {
				const p = Math.floor(n / channels);
				return at(p % width, Math.floor(p / width))[n % channels];
			}),
		}),
	);
const files = (all: Record<string, Buffer>) =>
	Object.entries(all).map(([name, buffer]) => ({ name, mimeType: "image/png", buffer }));

/** A disc of a colour on nothing, half as high as it is wide. */
const disc = (colour: readonly number[]) =>
	png(96, 48, 4, (x, y) => [...colour, Math.hypot((x - 48) / 2, y - 24) < 20 ? 255 : 0]);

const hereOf = (laid: Laid | null | undefined): Here | undefined =>
	laid?.over?.[0].where.find((one): one is Here => one.kind === "here");

/** A pixel of the drawn frame at a place of the page, RGB. */
async function pixelAt(page: Page, [x, y]: [number, number]): Promise<number[]> {
	const shot = await page.screenshot({ clip: { x: x - 2, y: y - 2, width: 4, height: 4 } });
	const { decode } = await import("fast-png");
	const { data, channels } = decode(shot);
	return [0, 1, 2].map((c) => [0, 5, 10, 15].reduce((sum, n) => sum + Number(data[n * channels + c]), 0) / 4);
}

test("a picture is laid in one place of a piece, moved, sized and turned in the frame, undone and kept", async ({
	page,
}) => {
	const drum = newPiece("drum", "cylinder", { name: "Drum", position: [0, 0, -6], size: [3, 3, 3] });
	const laidOn = {
		...drum.surface,
		laid: { ...{ of: "ashlar", seed: 1, turnDeg: 0, tint: 0, wet: 0 }, acrossM: 2, reliefMm: 0 },
	};
	const at = await emptyPlace(page, "A sign", { position: [0, 1.6, 0], pitchDeg: 0 }, [{ ...drum, surface: laidOn }]);
	await open(page, "Mass");
	await page.mouse.click(...(await at(0, 1.5, -4.5)));
	await page.getByRole("button", { name: "Lay another over it" }).click();
	await page.getByTestId("bring-pictures").setInputFiles(files({ "sign.png": disc([220, 30, 20]) }));
	const lines = page.getByRole("region", { name: "Pictures brought in" });
	await lines.getByRole("combobox", { name: "It" }).selectOption("stands once, whole");
	await expect(lines.getByText("1.00 m high")).toBeVisible();
	await number(page, "Wide").fill("1.6");
	await number(page, "Wide").press("Enter");
	await expect(lines.getByText("0.80 m high")).toBeVisible();
	await lines.getByRole("button", { name: "Take them" }).click();
	const over = page.getByRole("list", { name: "Over it" });
	await expect(over.getByText("in one place, 1.60 by 0.80 m").first()).toBeVisible({ timeout: 30_000 });
	const here = async () => hereOf((await keptDocument(page)).pieces[0].surface.laid);
	// It came to lie where the piece is seen, on its near side.
	await expect.poll(async () => (await here())?.at[2]).toBeCloseTo(1.5, 1);
	const first = (await here()) as Here;
	const { imageSurfaces } = await keptDocument(page);
	expect(imageSurfaces?.[0]).toMatchObject({ highM: 0.8, files: { cut: { as: "cut" } } });
	await over.getByRole("button", { name: "Move it in the frame" }).click();
	await expect(page.getByTestId("place-marks")).toBeVisible();
	await accessible(page);
	const red = async (place: [number, number]) => {
		const [r, g] = await pixelAt(page, place);
		return r > 1.6 * g;
	};
	await expect.poll(async () => red(await at(0.25, 1.62, -4.5)), { timeout: 30_000 }).toBe(true);

	await drag(page, await middleOf(page, "place-middle"), await at(-0.6, 2.2, -4.6));
	await expect.poll(async () => (await here())?.at[1]).toBeGreaterThan(2);
	const moved = (await here()) as Here;
	// It turned with the side that it lies on.
	expect(moved.at[0]).toBeLessThan(-0.4);
	expect(Math.hypot(moved.at[0], moved.at[2])).toBeCloseTo(1.5, 1);
	expect(moved.headingDeg).toBeGreaterThan(5);
	await expect.poll(async () => red(await at(0.25, 1.5, -4.5)), { timeout: 30_000 }).toBe(false);

	// By the keys along its own right.
	await page.keyboard.press("Shift+ArrowRight");
	await expect.poll(async () => (await here())?.at[0]).toBeGreaterThan(moved.at[0] + 0.15);
	await page.keyboard.press("Control+z");
	await expect.poll(here).toEqual(moved);

	const [x, y] = await middleOf(page, "place-corner 2");
	const [mx, my] = await middleOf(page, "place-middle");
	await drag(page, [x, y], [mx + 1.5 * (x - mx), my + 1.5 * (y - my)]);
	await expect.poll(async () => (await here())?.wideM).toBeGreaterThan(2.2);
	const sized = (await here()) as Here;
	expect(sized.wideM / sized.highM).toBeCloseTo(2, 1);
	const ring = await middleOf(page, "place-turn");
	await drag(page, ring, [ring[0] + 60, ring[1] + 25]);
	await expect.poll(async () => (await here())?.turnDeg).toBeGreaterThan(10);

	for (const before of [sized, moved, first]) {
		await page.keyboard.press("Control+z");
		await expect.poll(here).toEqual(before);
	}
	await page.keyboard.press("Escape");
	await expect(page.getByTestId("place-marks")).toHaveCount(0);
	await page.reload();
	await open(page, "Mass");
	expect(await here()).toEqual(first);
});

test("a picture stands up as a card that it cuts out, turns to the lens, and shows a sequence; relief takes no colour", async ({
	page,
}) => {
	const wall = newPiece("wall", "box", { name: "Wall", position: [-3, 0, -7], size: [2, 2, 0.5] });
	const at = await emptyPlace(page, "Cards", { position: [0, 1.6, 0], pitchDeg: -4 }, [wall]);
	await open(page, "Mass");
	await page.mouse.click(...(await at(-3, 1, -6.7)));
	const surface = page.getByRole("region", { name: "Surface", exact: true });
	await surface.getByRole("button", { name: "Choose" }).click();
	const frames = Object.fromEntries(
		[0, 1, 2, 3].map((n) => [`bird_${10 + n}.png`, disc(n % 2 ? [20, 40, 220] : [220, 30, 20])]),
	);
	await page.getByTestId("bring-pictures").setInputFiles(files(frames));
	const lines = page.getByRole("region", { name: "Pictures brought in" });
	await expect(lines.getByText("4 frames, bird_10.png to bird_13.png")).toBeVisible();
	await number(page, "Frames a second").fill("2");
	await number(page, "Frames a second").press("Enter");
	await accessible(page);
	await lines.getByRole("button", { name: "Stand it up as a card" }).click();
	const card = async () => (await keptDocument(page)).pieces.find((p) => p.shape.kind === "card");
	await expect.poll(async () => (await card())?.size, { timeout: 30_000 }).toEqual([2, 1, 1]);
	const { imageSurfaces } = await keptDocument(page);
	expect(imageSurfaces?.[0].sequence).toMatchObject({ perS: 2, frames: [{ cut: { as: "cut" } }, {}, {}] });
	// How fast it goes can be set right later.
	await number(page, "Frames a second").fill("6");
	await number(page, "Frames a second").press("Enter");
	const perS = async () => (await keptDocument(page)).imageSurfaces?.[0].sequence?.perS;
	await expect.poll(perS).toBe(6);
	await page.keyboard.press("Control+z");
	await expect.poll(perS).toBe(2);
	await page.getByRole("combobox", { name: "It", exact: true }).selectOption("turns to the lens");
	await expect.poll(card).toMatchObject({ shape: { turns: "turns to the lens" } });
	await expect(number(page, "Heading")).toHaveCount(0);

	// A picture of heights alone is relief.
	await page.mouse.click(...(await at(-3, 1, -6.7)));
	await expect(page.getByRole("textbox", { name: "Name of the piece" })).toHaveValue("Wall");
	const choose = surface.getByRole("button", { name: "Choose" });
	if (await choose.isVisible()) await choose.click();
	await expect(page.getByTestId("bring-pictures")).toHaveCount(1);
	await page
		.getByTestId("bring-pictures")
		.setInputFiles(files({ "face_depth.png": png(64, 64, 1, (x, y) => [Math.hypot(x - 32, y - 32) < 20 ? 255 : 0]) }));
	await lines.getByRole("combobox", { name: "face_depth.png" }).selectOption("height");
	await expect(lines.getByRole("button", { name: "Stand it up as a card" })).toHaveCount(0);
	await number(page, "Depth").last().fill("60");
	await number(page, "Depth").last().press("Enter");
	await lines.getByRole("button", { name: "Take them" }).click();
	await expect
		.poll(async () => (await keptDocument(page)).imageSurfaces?.[1], { timeout: 30_000 })
		.toMatchObject({ depthMm: 60, files: { height: { as: "heights" } } });
});
