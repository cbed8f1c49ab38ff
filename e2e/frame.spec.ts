import { expect, type Page, test } from "@playwright/test";
import { accessible, blank, drag, inFrame, keptDocument, open } from "./hands.ts";

const nearest = async (page: Page) => Number(await page.getByTestId("ribbon-chosen").first().getAttribute("data-at"));

test("the ribbon pushes pieces along their line of sight, by hand and by keys", async ({ page }) => {
	await blank(page);
	await open(page, "Mass");
	await page.getByRole("radio", { name: "box", exact: true }).click();
	await drag(page, await inFrame(page, 0.3, 0.75), await inFrame(page, 0.4, 0.5));
	await expect(page.getByTestId("ribbon-chosen")).toHaveCount(1);
	const before = await nearest(page);
	const chosen = async () => {
		const b = (await page.getByTestId("ribbon-chosen").first().boundingBox()) as {
			x: number;
			y: number;
			width: number;
			height: number;
		};
		return [b.x + 5, b.y + b.height / 2] as [number, number];
	};
	const width = page.getByRole("textbox", { name: "Width", exact: true });
	const wide = Number(await width.inputValue());

	// In metres it stays as large as it is.
	const from = await chosen();
	await drag(page, from, [from[0] + 60, from[1]]);
	await expect.poll(() => nearest(page)).toBeGreaterThan(before * 1.3);
	expect(Number(await width.inputValue())).toBe(wide);

	// In the frame it grows by as much as it goes away.
	await page.getByRole("radio", { name: "in the frame" }).click();
	const at = await nearest(page);
	const again = await chosen();
	await drag(page, again, [again[0] + 60, again[1]]);
	await expect.poll(() => nearest(page)).toBeGreaterThan(at * 1.3);
	const factor = (await nearest(page)) / at;
	await expect.poll(async () => Number(await width.inputValue()) / wide).toBeCloseTo(factor, 1);

	// One undo takes one push back; keys push, pick and enlarge.
	await page.getByRole("button", { name: "Undo" }).click();
	await expect.poll(() => nearest(page)).toBeCloseTo(at, 3);
	await page.getByTestId("ribbon").focus();
	await page.keyboard.press("Shift+ArrowRight");
	await expect.poll(() => nearest(page)).toBeCloseTo(at * 1.1, 1);
	await page.keyboard.press("ArrowUp");
	await expect.poll(() => nearest(page)).not.toBeCloseTo(at * 1.1, 1);
	await page.keyboard.press("+");
	await expect(page.getByRole("button", { name: /whole ribbon/ })).toBeVisible();
	await accessible(page);
	await page.keyboard.press("0");
	await expect(page.getByRole("button", { name: /whole ribbon/ })).toHaveCount(0);
});

test("the frame is enlarged to 800 %, shown as a stamp, in grey and mirrored by held keys", async ({ page }) => {
	await blank(page);
	for (let i = 0; i < 12; i++) await page.keyboard.press("+");
	await expect(page.getByRole("button", { name: "800 %, whole frame" })).toBeVisible();
	await page.keyboard.press("0");
	await expect(page.getByRole("button", { name: "Enlarge the frame" })).toBeVisible();
	await expect(page.getByTestId("proof-state")).toContainText(/noise \d/);
	const width = async () => ((await page.getByTestId("plate").boundingBox()) as { width: number }).width;
	const full = await width();
	await page.keyboard.down("s");
	await expect.poll(width).toBeLessThan(full * 0.25);
	await page.keyboard.up("s");
	await expect.poll(width).toBe(full);
	await page.keyboard.down("v");
	await expect(page.getByTestId("caption")).toContainText("grey");
	await page.keyboard.up("v");
	await page.keyboard.down("o");
	await expect(page.getByTestId("caption")).toContainText("turned over");
	await page.keyboard.up("o");
	await expect(page.getByTestId("caption")).not.toContainText("turned over");
});

test("one walks and flies through the set, and the camera stays", async ({ page }) => {
	await blank(page);
	const camera = await page.getByTestId("caption").textContent();
	await page.keyboard.press("w");
	await expect(page.getByText(/Walking in steps of 1 m/)).toBeVisible();
	await page.keyboard.press(".");
	await page.keyboard.press("f");
	await expect(page.getByText(/Flying in steps of 2 m/)).toBeVisible();
	await page.keyboard.press("PageUp");
	await page.keyboard.press("ArrowUp");
	// The view from there is kept as a camera: two metres ahead, two metres up.
	await open(page, "Match");
	await page.getByRole("button", { name: "Keep this view" }).click();
	await expect(page.getByTestId("candidate")).toContainText("eye 3.65 m");
	await page.keyboard.press("l");
	await expect(page.getByTestId("caption")).toHaveText(camera ?? "");
});

test("a piece is slid and lifted in the section, which takes the frame's place by a key", async ({ page }) => {
	await blank(page);
	await open(page, "Mass");
	await page.getByRole("radio", { name: "box", exact: true }).click();
	await drag(page, await inFrame(page, 0.3, 0.75), await inFrame(page, 0.4, 0.5));
	await page.getByRole("button", { name: "from the side" }).click();
	await page.keyboard.press("x");
	const chosen = page.getByTestId("section-chosen");
	await expect(chosen).toBeVisible();
	const middle = async (): Promise<[number, number]> => {
		const b = (await chosen.boundingBox()) as { x: number; y: number; width: number; height: number };
		return [b.x + b.width / 2, b.y + b.height / 2];
	};
	const away = page.getByRole("textbox", { name: "Away", exact: true });
	const up = page.getByRole("textbox", { name: "Up", exact: true });
	const [before, low] = [await away.inputValue(), await up.inputValue()];
	const from = await middle();
	await drag(page, from, [from[0] + 60, from[1] + 2]);
	await expect(away).not.toHaveValue(before);
	await expect(up).toHaveValue(low);
	const again = await middle();
	await drag(page, again, [again[0] + 2, again[1] - 50]);
	await expect(up).not.toHaveValue(low);
	await page.keyboard.press("x");
	await page.getByRole("button", { name: "from above" }).click();
	await expect(page.getByTestId("plan")).toBeVisible();
});

test("keys stay with the sheet, the list and the choice that have them", async ({ page }) => {
	await blank(page);
	await open(page, "Mass");
	await page.getByRole("radio", { name: "box", exact: true }).click();
	await drag(page, await inFrame(page, 0.3, 0.75), await inFrame(page, 0.4, 0.5));
	await expect(page.getByTestId("ribbon-chosen")).toHaveCount(1);
	const document = () => keptDocument(page);
	await expect.poll(async () => (await document()).pieces.length).toBe(7);
	await open(page, "Light");
	await page.getByRole("radio", { name: "spot", exact: true }).click();
	await page.mouse.click(...(await inFrame(page, 0.62, 0.85)));
	await expect.poll(async () => (await document()).lamps.length).toBe(1);
	const before = await document();

	// Behind a sheet.
	await page.keyboard.press("t");
	await expect(page.getByRole("dialog")).toBeVisible();
	for (const key of ["Delete", "g", "ArrowLeft", "Control+z"]) await page.keyboard.press(key);
	await page.keyboard.press("t");
	await expect(page.getByRole("dialog")).toHaveCount(0);

	// In a list of the browser's own.
	await page.getByRole("combobox", { name: "Piece that carries the lamp" }).focus();
	for (const key of ["Delete", "g", "x"]) await page.keyboard.press(key);

	// In a choice: arrows go from word to word, Space picks.
	await open(page, "Ground");
	const word = (name: string) => page.getByRole("radio", { name, exact: true });
	await expect(word("plain")).toHaveAttribute("aria-checked", "true");
	await word("plain").focus();
	await page.keyboard.press("ArrowRight");
	await expect(word("moor")).toBeFocused();
	await page.keyboard.press("ArrowUp");
	await expect(word("plain")).toBeFocused();
	expect(await document()).toEqual(before);
	await page.keyboard.press("ArrowRight");
	await expect(word("moor")).toBeFocused();
	await page.keyboard.press("Space");
	await expect(word("moor")).toHaveAttribute("aria-checked", "true");
	await expect.poll(async () => (await document()).ground.preset).toBe("moor");
	expect((await document()).pieces).toEqual(before.pieces);
	await accessible(page);
});
