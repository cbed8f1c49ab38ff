import { expect, type Page } from "@playwright/test";
import { blank, drag, inFrame, number, open, step } from "./hands.ts";
import { test } from "./held.ts";

async function type(page: Page, name: string, value: string) {
	const field = number(page, name).last();
	await field.fill(value);
	await field.press("Enter");
}

async function middleOf(page: Page, handle: string): Promise<[number, number]> {
	const box = (await page.getByTestId(handle).boundingBox()) as { x: number; y: number; width: number; height: number };
	return [box.x + box.width / 2, box.y + box.height / 2];
}

const value = async (page: Page, name: string) => Number(await number(page, name).last().inputValue());

test("lamps are placed, dragged and aimed in the frame, muted, carried and deleted", async ({ page }) => {
	await blank(page);
	await open(page, "Light");
	await page.getByRole("radio", { name: "spot", exact: true }).click();
	await page.mouse.click(...(await inFrame(page, 0.62, 0.85)));
	await expect(page.getByRole("textbox", { name: "Name of the lamp" })).toHaveValue("Spot lamp 1");
	await expect.poll(() => value(page, "Up")).toBeCloseTo(3, 2);
	await expect.poll(() => value(page, "Pitch")).toBeCloseTo(-90, 1);

	// Its foot slides it over the ground, itself it moves at its distance, the cross aims it, the ring opens it.
	const away = await value(page, "Away");
	const foot = await middleOf(page, "lamp-foot");
	await drag(page, foot, [foot[0] - 30, foot[1] - 20]);
	await expect.poll(() => value(page, "Away")).toBeGreaterThan(away + 0.3);
	await expect.poll(() => value(page, "Up")).toBeCloseTo(3, 1);
	const up = await value(page, "Up");
	const itself = await middleOf(page, "lamp-place");
	await drag(page, itself, [itself[0], itself[1] + 30]);
	await expect.poll(() => value(page, "Up")).toBeLessThan(up - 0.1);
	const aim = await middleOf(page, "lamp-aim");
	await drag(page, aim, [aim[0] + 70, aim[1] - 20]);
	await expect.poll(() => value(page, "Pitch")).toBeGreaterThan(-89);
	const cone = await value(page, "Cone");
	const ring = await middleOf(page, "lamp-cone");
	const end = await middleOf(page, "lamp-aim");
	await drag(page, ring, [ring[0] + (ring[0] - end[0]) * 0.4, ring[1] + (ring[1] - end[1]) * 0.4]);
	await expect.poll(() => value(page, "Cone")).toBeGreaterThan(cone + 2);
	await page.keyboard.press("Control+z");
	await expect.poll(() => value(page, "Cone")).toBe(cone);
	await type(page, "Strength", "1200");
	await type(page, "Warmth", "1900");
	await page.getByRole("radio", { name: "candela" }).click();

	// A second one; solo and mute decide which of them shines.
	await page.getByRole("radio", { name: "sphere", exact: true }).first().click();
	await page.mouse.click(...(await inFrame(page, 0.3, 0.9)));
	await expect(page.getByRole("textbox", { name: "Name of the lamp" })).toHaveValue("Sphere lamp 1");
	const spotLine = page.getByRole("button", { name: "Spot lamp 1", exact: true });
	await page.getByRole("button", { name: "alone Sphere lamp 1" }).click();
	await expect(spotLine.locator("span")).toHaveClass(/line-through/);
	await page.getByRole("button", { name: "alone Sphere lamp 1" }).click();
	await page.getByRole("button", { name: "left out Sphere lamp 1" }).click();
	await expect(spotLine.locator("span")).not.toHaveClass(/line-through/);
	await page.getByRole("button", { name: "left out Sphere lamp 1" }).click();

	// Carried by a stake it stays where it is, moves with the stake, and goes with it.
	const right = await value(page, "Right");
	await page.getByRole("combobox", { name: "Piece that carries the lamp" }).selectOption({ label: "Stake at 5 m" });
	await expect(page.getByText("Carried by Stake at 5 m")).toBeVisible();
	await expect.poll(() => value(page, "Right")).toBeCloseTo(right + 1.2, 1);
	await page.keyboard.press("y");
	await expect(step(page, "Light")).toContainText("3 lamps");
	await page.keyboard.press("Delete");
	await expect(step(page, "Light")).toContainText("2 lamps");
	await page.reload();
	await expect(step(page, "Light")).toContainText("2 lamps");
});

test("a piece becomes a pane, a body of glass, a lamp of its own", async ({ page }) => {
	await blank(page);
	await open(page, "Mass");
	await page.getByRole("radio", { name: "box", exact: true }).click();
	await drag(page, await inFrame(page, 0.55, 0.85), await inFrame(page, 0.7, 0.5));
	await expect(page.getByRole("textbox", { name: "Name of the piece" })).toHaveValue("Box 5");
	await page.getByRole("radio", { name: "pane" }).click();
	await expect(page.getByText("Clear: light goes straight through.")).toBeVisible();
	await page.getByRole("radio", { name: "body of glass" }).click();
	await type(page, "Has its colour after", "0.4");
	await page.getByRole("radio", { name: "solid" }).click();
	await page.getByRole("switch", { name: "Glows by itself" }).click();
	await type(page, "Luminance", "20000");
	await type(page, "Clear coat", "60");
	await expect(number(page, "Roughness of the coat")).toHaveValue("0.10");
	await page.keyboard.press("Control+z");
	await page.keyboard.press("Control+z");
	await expect(number(page, "Luminance")).toHaveValue("5000");
});
