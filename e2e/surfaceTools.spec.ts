/** Surfaces by the brush, stains over several things, contact with the ground, and a colour brought to another. */
import { readFileSync } from "node:fs";
import { expect, type Page } from "@playwright/test";
import { encode } from "fast-png";
import { newPiece } from "../src/core/doc/defaults.ts";
import { laidAsMade } from "../src/core/surface/laying.ts";
import { accessible, drag, dropFiles, emptyPlace, inFrame, keptDocument, middleOf, number, open } from "./hands.ts";
import { test } from "./held.ts";

const bare = newPiece("", "box").surface;

/** A stroke of the brush in as few moves as make one: each is drawn. */
async function stroke(page: Page, from: [number, number], to: [number, number]): Promise<void> {
	await page.mouse.move(...from);
	await page.mouse.down();
	await page.mouse.move(...to);
	await page.mouse.up();
}

test("a surface is painted on a piece and on the ground by a brush, taken off, undone and kept", async ({ page }) => {
	const wall = newPiece("wall", "box", {
		...{ name: "Wall", position: [0, 0, -6], size: [4, 2, 0.6], headingDeg: 15 },
		surface: { ...bare, laid: laidAsMade("ashlar") },
	});
	const at = await emptyPlace(page, "Painted", { position: [0, 1.6, 0], pitchDeg: -6 }, [wall]);
	await open(page, "Mass");
	await page.mouse.click(...(await at(0.4, 1, -5.7)));
	const masks = async () => (await keptDocument(page)).masks ?? [];
	await page.getByRole("button", { name: "Lay another over it" }).click();
	await page.getByRole("searchbox", { name: "Find" }).fill("moss");
	await page.getByRole("button", { name: "moss, cushions" }).click();
	const over = page.getByRole("list", { name: "Over it" });
	await over.getByRole("button", { name: "Strike out" }).click();
	// It is as thick as its kind is, until it is said otherwise; it may lie along paths, and where water runs.
	const lies = async () => (await keptDocument(page)).pieces[0].surface.laid?.over?.[0];
	await expect(number(page, "Thick")).toHaveValue("25");
	await number(page, "Thick").fill("60");
	await number(page, "Thick").press("Enter");
	await over.getByRole("combobox", { name: /nly$/ }).selectOption("Along paths");
	await over.getByRole("combobox", { name: /nly$/ }).selectOption("Where water runs");
	await expect(over.getByText("on paths and up to 0.80 m beside them").last()).toBeVisible();
	await expect
		.poll(async () => [(await lies())?.thickMm, (await lies())?.where.map((w) => w.kind)])
		.toEqual([60, ["beside", "rain"]]);
	for (const left of [1, 0]) {
		await over.getByRole("button", { name: "Strike out" }).first().click();
		await expect.poll(async () => (await lies())?.where.length).toBe(left);
	}
	await over.getByRole("combobox", { name: /nly$/ }).selectOption("By the brush");
	await expect(over.getByTestId("strokes")).toHaveText("nothing painted yet");
	await over.getByRole("button", { name: "Take the brush" }).click();
	await number(page, "Radius").fill("0.3");
	await number(page, "Radius").press("Enter");
	await accessible(page);

	await page.mouse.move(...(await at(-0.5, 1, -5.7)));
	await expect(page.getByTestId("paint-brush")).toBeVisible();
	await stroke(page, await at(-0.8, 1, -5.7), await at(0.6, 1.2, -5.7));
	await expect(over.getByTestId("strokes")).toHaveText("1 stroke");
	await expect.poll(async () => (await masks()).length).toBe(1);
	const [{ on, strokes }] = await masks();
	expect(on).toBe("wall");
	// In the wall's own metres: on its near face, as high as it was drawn.
	for (const [, y, z] of strokes[0].points) {
		expect(z).toBeCloseTo(0.3, 1);
		expect(y).toBeGreaterThan(0.8);
		expect(y).toBeLessThan(1.4);
	}
	// With Shift it takes off; wider by a key.
	await page.keyboard.press("+");
	await page.keyboard.down("Shift");
	await stroke(page, await at(-0.4, 1, -5.7), await at(0, 1.1, -5.7));
	await page.keyboard.up("Shift");
	await expect
		.poll(async () => (await masks())[0]?.strokes.map((s) => [s.away, s.radiusM]))
		.toEqual([
			[false, 0.3],
			[true, 0.36],
		]);
	await page.keyboard.press("Control+z");
	await expect.poll(async () => (await masks())[0]?.strokes.length).toBe(1);
	await page.keyboard.press("Escape");
	await expect(over.getByRole("button", { name: "Take the brush" })).toBeVisible();
	// Without the brush a drag in the frame paints nothing.
	await stroke(page, await at(-0.4, 1, -5.7), await at(0, 1.1, -5.7));
	await expect.poll(async () => (await masks())[0]?.strokes.length).toBe(1);
	await page.reload();
	await open(page, "Mass");
	await page.mouse.click(...(await at(0.4, 1, -5.7)));
	await over.getByRole("button", { name: /moss/ }).click();
	await expect(number(page, "Thick")).toHaveValue("60");
	await expect(over.getByTestId("strokes")).toHaveText("1 stroke");
});

test("the ground rises to meet a piece, and a stain lies over several and the ground", async ({ page }) => {
	const pieces = [
		newPiece("post", "cylinder", { name: "Post", position: [-1, 0, -6], size: [0.4, 2, 0.4] }),
		newPiece("stone", "box", { name: "Stone", position: [1, 0, -6], size: [1, 1, 1] }),
	];
	const at = await emptyPlace(page, "Contact", { position: [0, 1.6, 0], pitchDeg: -6 }, pieces, [
		{ name: "ground.lay", laid: laidAsMade("sand") },
	]);
	await open(page, "Mass");
	await page.mouse.click(...(await at(1, 0.6, -5.5)));
	const doc = () => keptDocument(page);
	const ground = page.getByRole("switch", { name: "The ground" });
	await expect(ground).toHaveText("meets it in an edge");
	await ground.click();
	await expect(ground).toHaveText("rises to meet it");
	await expect.poll(async () => (await doc()).pieces[1].bank?.riseM).toBe(0.06);
	await number(page, "Over").fill("0.9");
	await number(page, "Over").press("Enter");
	await expect.poll(async () => (await doc()).pieces[1].bank?.widthM).toBe(0.9);
	expect((await doc()).pieces[0].bank).toBeUndefined();

	await page.keyboard.down("Shift");
	await page.mouse.click(...(await at(-1, 1, -5.8)));
	await page.keyboard.up("Shift");
	await page.getByRole("button", { name: "Stain them together" }).click();
	await page.getByRole("searchbox", { name: "Find" }).fill("charred");
	await page.getByRole("region", { name: "Stains" }).getByRole("listitem").getByRole("button").first().click();
	const stains = page.getByRole("list", { name: "Over them all" });
	await expect(stains).toContainText("over 2 pieces");
	await stains.getByRole("combobox", { name: /nly$/ }).selectOption("In runs downward");
	await page.getByRole("switch", { name: "On the ground, too" }).click();
	await expect(stains).toContainText("over 2 pieces and the ground");
	await expect.poll(async () => (await doc()).stains?.[0].laid.where.map((w) => w.kind)).toEqual(["facing", "runs"]);
	await accessible(page);
	await page.keyboard.press("Control+z");
	await expect.poll(async () => (await doc()).stains?.[0].ground).toBe(false);
	await stains.getByRole("button", { name: "Take off" }).click();
	await expect.poll(async () => (await doc()).stains).toBeUndefined();
});

test("a piece is brought to a colour of the frame, and what remains is told; surfaces are found by a patch of a reference", async ({
	page,
}) => {
	const colour = (c: [number, number, number]) => ({ surface: { ...bare, colour: c, roughness: 1 } });
	const pieces = [
		newPiece("grey", "box", { position: [-1.2, 0, -6], size: [1.6, 1.6, 0.4], ...colour([0.3, 0.3, 0.3]) }),
		newPiece("red", "box", { position: [1.2, 0, -6], size: [1.6, 1.6, 0.4], ...colour([0.4, 0.12, 0.08]) }),
	];
	const at = await emptyPlace(page, "Matched", { position: [0, 1.2, 0], pitchDeg: -3 }, pieces);
	await open(page, "Mass");
	await page.mouse.click(...(await at(-1.2, 0.8, -5.8)));
	await page.getByRole("button", { name: "Match a colour" }).click();
	const told = page.getByTestId("colour-told");
	await drag(page, await middleOf(page, "colour-from"), await at(-1.2, 0.8, -5.8));
	await page.mouse.click(...(await at(1.2, 0.8, -5.8)));
	await expect(told).toContainText("Apart by ΔE", { timeout: 60_000 });
	await accessible(page);
	const now = async () =>
		(await told.textContent())
			?.match(/Apart by ΔE ([\d.]+), then by (\d+\.\d)/)
			?.slice(1)
			.map(Number);
	await expect.poll(async () => (await now())?.[0], { timeout: 60_000 }).toBeGreaterThan(15);
	expect((await now())?.[1]).toBeLessThan(1);
	await page.getByRole("button", { name: "Bring it there" }).click();
	// It is nearly the other's colour: both stand in the same light.
	const brought = async () => (await keptDocument(page)).pieces[0].surface.colour;
	await expect.poll(async () => (await brought())[0] / (await brought())[2], { timeout: 20_000 }).toBeGreaterThan(3);
	expect((await brought())[0]).toBeGreaterThan(0.3);
	expect((await brought())[0]).toBeLessThan(0.5);
	// The next proof shows it so.
	await expect.poll(async () => (await now())?.[0], { timeout: 60_000 }).toBeLessThan(6);
	expect((await keptDocument(page)).pieces[1].surface.colour).toEqual([0.4, 0.12, 0.08]);
	await page.keyboard.press("Control+z");
	await expect.poll(brought).toEqual([0.3, 0.3, 0.3]);
	await page.getByRole("switch", { name: "Saturation" }).click();
	await expect(told).toContainText("saturation +0");
	await page.keyboard.press("Escape");
	await expect(page.getByTestId("colour-to")).toHaveCount(0);

	// The same of a part of a reference; and surfaces in the order in which they look like one.
	await dropFiles(page, [{ name: "ponds.png", bytes: readFileSync("demo/assets/reference.png") }]);
	await expect.poll(async () => (await keptDocument(page)).references.length).toBe(1);
	const [{ id }] = (await keptDocument(page)).references;
	await open(page, "Mass");
	await page.mouse.click(...(await at(-1.2, 0.8, -5.8)));
	await page.getByRole("button", { name: "Choose" }).click();
	const slips = page.getByRole("region", { name: "Surface" }).getByRole("listitem").getByRole("button");
	const first = () => slips.evaluateAll((all) => all.slice(0, 10).map((b) => b.getAttribute("aria-label")));
	const byFamily = await first();
	await page.getByRole("combobox", { name: "In order" }).selectOption(`patch ${id}`);
	const patch = page.getByTestId("like-patch");
	await expect(patch).toBeVisible();
	await expect.poll(first).not.toEqual(byFamily);
	await accessible(page);
	const inMiddle = await first();
	await drag(page, await middleOf(page, "like-patch"), await inFrame(page, 0.5, 0.12));
	await expect.poll(first).not.toEqual(inMiddle);
	await page.getByRole("button", { name: "Close", exact: true }).first().click();
	await expect(patch).toHaveCount(0);

	await page.getByRole("button", { name: "Match a colour" }).click();
	await page.getByRole("combobox", { name: "Like a part of" }).selectOption(id);
	await expect(told).toContainText("Apart by", { timeout: 60_000 });
	const before = await told.textContent();
	await page.mouse.click(...(await inFrame(page, 0.5, 0.12)));
	await expect(told).not.toHaveText(before ?? "");
});

/** A picture of so many pixels a side whose pixels are of these bytes. */
const png = (side: number, channels: 1 | 3, at: (x: number, y: number) => readonly number[]) =>
	Buffer.from(
		encode({
			width: side,
			height: side,
			depth: 8,
			channels,
			data: Uint8Array.from({ length: side * side * channels }, (_, n) => {
				const p = Math.floor(n / channels);
				return at(p % side, Math.floor(p / side))[n % channels];
			}),
		}),
	);

test("a surface is brought in as pictures, known by their names, and asked which way its normals lean", async ({
	page,
}) => {
	const wall = newPiece("wall", "box", { position: [0, 0, -6], size: [3, 2, 0.4] });
	const at = await emptyPlace(page, "Brought in", { position: [0, 1.4, 0], pitchDeg: -4 }, [wall]);
	await open(page, "Mass");
	await page.mouse.click(...(await at(0, 1, -5.8)));
	await page.getByRole("button", { name: "Choose" }).click();
	const files = [
		["tiles_basecolor.png", png(64, 3, (x, y) => (((x >> 4) + (y >> 4)) % 2 ? [200, 60, 40] : [60, 70, 90]))],
		["tiles_normal.png", png(64, 3, () => [128, 128, 255])],
		["tiles_rough.png", png(64, 1, () => [90])],
		["notes.png", Buffer.from("this is no picture")],
	] as const;
	await page
		.getByTestId("bring-pictures")
		.setInputFiles(files.map(([name, buffer]) => ({ name, mimeType: "image/png", buffer })));
	const lines = page.getByRole("region", { name: "Pictures brought in" });
	const role = (name: string) => lines.getByRole("combobox", { name });
	await expect(role("tiles_basecolor.png")).toHaveValue("colour");
	await expect(role("tiles_normal.png")).toHaveValue("normal");
	await expect(role("tiles_rough.png")).toHaveValue("roughness");
	await expect(role("notes.png")).toHaveValue("left out");
	const take = lines.getByRole("button", { name: "Take them" });
	await expect(lines.getByRole("status")).toContainText("which way green of its normals leans");
	await expect(take).toBeDisabled();
	await lines.getByRole("combobox", { name: "Green of normals leans" }).selectOption("up");
	await role("notes.png").selectOption("height");
	await number(page, "Shows").fill("1.5");
	await number(page, "Shows").press("Enter");
	await accessible(page);
	// What is no picture is told by its name, and nothing is lost.
	await take.click();
	await expect(page.getByText(/notes\.png: /)).toBeVisible();
	await role("notes.png").selectOption("left out");
	await take.click();
	await expect(page.getByTestId("laid")).toHaveText("tiles_basecolor", { timeout: 30_000 });
	const laidOn = async () => {
		const { imageSurfaces, pieces } = await keptDocument(page);
		const [one] = imageSurfaces ?? [];
		const { of, acrossM } = pieces[0].surface.laid ?? {};
		return { name: one?.name, sideM: one?.sideM, handed: one?.handed, laid: of === `picture ${one?.id}`, acrossM };
	};
	await expect.poll(laidOn).toEqual({ name: "tiles_basecolor", sideM: 1.5, handed: "up", laid: true, acrossM: 1.5 });
	await page.reload();
	await open(page, "Mass");
	await page.mouse.click(...(await at(0, 1, -5.8)));
	await expect(page.getByTestId("laid")).toHaveText("tiles_basecolor");
	// One of its faces has another, by its name, and goes back to what the rest has.
	await page.getByRole("combobox", { name: "Surface of" }).selectOption("near");
	await expect(page.getByTestId("face-outline")).toBeVisible();
	await page.getByRole("button", { name: "Lay bare" }).click();
	const faces = async () => (await keptDocument(page)).pieces[0].surface.faces;
	await expect.poll(faces).toEqual([{ face: "near", laid: null }]);
	await expect(page.getByTestId("laid")).toHaveText("bare");
	await page.getByRole("button", { name: "As the rest" }).click();
	await expect.poll(faces).toEqual([]);
	// Its pictures are read again, and met in the frame.
	await expect(page.locator("html")).toHaveAttribute("data-drawn", "yes", { timeout: 60_000 });
});
