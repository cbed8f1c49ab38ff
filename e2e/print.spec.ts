import { readFileSync } from "node:fs";
import { expect } from "@playwright/test";
import { readExr } from "../src/core/formats/exr.ts";
import { blank, drag, inFrame, number, open } from "./hands.ts";
import { test } from "./held.ts";

test("a part of the frame is drawn, printed light by light, and shown in its place", async ({ page }) => {
	await blank(page);
	await open(page, "Print");
	for (const [name, value] of [
		["Width", "160"],
		["Samples", "16"],
		["Stops at noise", "0"],
	]) {
		await number(page, name).fill(value);
		await number(page, name).press("Enter");
	}
	// All samples are taken: it can be told where they go.
	const where = page.getByRole("switch", { name: "Samples go" });
	await expect(where).toBeChecked();
	await number(page, "Samples").fill("4");
	await number(page, "Samples").press("Enter");
	await expect(page.getByText("So few tell nothing of the noise")).toBeVisible();
	await number(page, "Samples").fill("16");
	await number(page, "Samples").press("Enter");
	await page.getByRole("switch", { name: "Printed" }).click();
	await expect(page.getByTestId("part")).toBeVisible();
	await expect(number(page, "From left")).toHaveValue("30.0");

	// Its corner makes it larger, its edge moves it, undo takes the move back.
	await drag(page, await inFrame(page, 0.7, 0.7), await inFrame(page, 0.8, 0.9));
	await expect.poll(async () => Number(await number(page, "Across").inputValue())).toBeCloseTo(50, -0.5);
	await expect.poll(async () => Number(await number(page, "Down").inputValue())).toBeCloseTo(60, -0.5);
	await drag(page, await inFrame(page, 0.3, 0.6), await inFrame(page, 0.1, 0.6));
	await expect.poll(async () => Number(await number(page, "From left").inputValue())).toBeCloseTo(10, -0.5);
	await page.keyboard.press("Control+z");
	await expect.poll(async () => Number(await number(page, "From left").inputValue())).toBeCloseTo(30, -0.5);
	await number(page, "Across").fill("40");
	await number(page, "Across").press("Enter");
	await page.getByRole("switch", { name: "Lights, fog and openness by themselves" }).click();
	await expect(page.getByTestId("foretold")).toContainText("measured by a pilot", { timeout: 120_000 });

	await page.locator("aside footer").getByRole("button", { name: "Print", exact: true }).click();
	const row = page.getByTestId("print").first();
	await expect(row).toHaveAttribute("data-state", "done", { timeout: 120_000 });
	await expect(row).toContainText(/64 × \d+ of 160 × \d+, 16 samples where noise is/);
	const [file] = await Promise.all([
		page.waitForEvent("download"),
		row.getByRole("link", { name: "EXR", exact: true }).click(),
	]);
	const exr = readExr(readFileSync(await file.path()));
	expect([exr.width, exr.window?.x, exr.window?.width]).toEqual([64, 48, 160]);
	expect(exr.channels.map((c) => c.name)).toContain("light.sun.R");
	const taken = Array.from(exr.channels.find((c) => c.name === "samples")?.data ?? []);
	expect(Math.min(...taken)).toBe(8);
	expect(Math.max(...taken)).toBeGreaterThan(16);

	await row.getByRole("button", { name: /Print of/ }).click();
	const layer = row.getByRole("combobox");
	await expect(layer.locator("option")).toContainText(["picture", "depth", "light of sky"]);
	await layer.selectOption("light.sun");
	await expect(page.getByTestId("print-reader")).toBeVisible();
	await page.mouse.move(...(await inFrame(page, 0.5, 0.6)));
	await expect(page.getByText(/cd\/m².*16 samples/)).toBeVisible();
	await page.mouse.move(...(await inFrame(page, 0.05, 0.1)));
	await expect(page.getByText(/cd\/m².*16 samples/)).toHaveCount(0);
});
