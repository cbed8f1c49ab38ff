import { execFileSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { expect } from "@playwright/test";
import sharp from "sharp";
import { accessible, blank, drag, dropFiles, open, step } from "./hands.ts";
import { test } from "./held.ts";

const ponds = { name: "ponds.png", bytes: readFileSync("demo/assets/reference.png") };

/** A short clip whose colour turns. */
function clip(): Buffer {
	const folder = mkdtempSync(join(tmpdir(), "inquadra-clip-"));
	const file = join(folder, "waves.webm");
	execFileSync("ffmpeg", [
		...["-v", "error", "-f", "lavfi", "-i", "color=c=0x145a3c:s=96x64:r=20:d=0.6,hue=H=t"],
		...["-c:v", "libvpx", "-b:v", "200k", file],
	]);
	const bytes = readFileSync(file);
	rmSync(folder, { recursive: true });
	return bytes;
}

test("pictures and clips on the pin-up sheet, palette and values, guides", async ({ page }) => {
	await blank(page);
	await open(page, "Brief");
	await page.getByRole("textbox", { name: "What carries it, up to three" }).fill("low sun, the shed");
	await page.getByRole("textbox", { name: "Mood, in words" }).fill("still, salt");
	await page.getByRole("textbox", { name: "Mood, in words" }).blur();
	const dusk = await sharp({ create: { width: 320, height: 200, channels: 3, background: "#c25a2c" } })
		.jpeg()
		.toBuffer();
	await dropFiles(page, [
		ponds,
		{ name: "dusk.jpg", bytes: dusk },
		{ name: "waves.webm", bytes: clip(), type: "video/webm" },
		{ name: "broken.mp4", bytes: Buffer.from("no clip at all"), type: "video/mp4" },
	]);
	const trouble = page.getByRole("complementary").getByRole("alert");
	await expect(trouble).toContainText("broken.mp4: This browser cannot play this clip");
	await expect(trouble).not.toContainText("waves");
	await page.getByRole("button", { name: "Seen" }).click();
	await expect(step(page, "Brief")).toContainText("2 references");

	// Palette and values are aimed at; the frame's distance from them is told; the colours are offered.
	await page.getByRole("button", { name: "Aim at these" }).click();
	await expect(page.getByTestId("target-distance")).toContainText(/Colours \d+\.\d apart, values \d+\.\d L\* apart/);
	await accessible(page);

	// Hung under headings.
	await page.getByRole("button", { name: "Pin-up sheet" }).click();
	const sheet = page.getByTestId("pin-sheet");
	await expect(sheet).toBeVisible();
	await sheet.getByRole("textbox", { name: "A heading of your own" }).fill("mills");
	await sheet.getByRole("textbox", { name: "A heading of your own" }).press("Enter");
	await expect(sheet.getByTestId("heading-mills")).toBeVisible();
	const middle = async (name: string | RegExp): Promise<[number, number]> => {
		const b = (await sheet.getByRole("button", { name }).boundingBox()) as {
			x: number;
			y: number;
			width: number;
			height: number;
		};
		return [b.x + b.width / 2, b.y + b.height / 2];
	};
	const under = async (heading: string): Promise<[number, number]> => {
		const b = (await sheet.getByTestId(`heading-${heading}`).boundingBox()) as { x: number; y: number; width: number };
		return [b.x + b.width / 2, b.y + 60];
	};
	/** Let go once the sheet has seen where the hand is. */
	const hang = async (from: [number, number], heading: string) => {
		const to = await under(heading);
		await page.mouse.move(...from);
		await page.mouse.down();
		await page.mouse.move((from[0] + to[0]) / 2, (from[1] + to[1]) / 2, { steps: 3 });
		await page.mouse.move(...to, { steps: 3 });
		const column = `[data-testid="heading-${heading}"]`;
		await expect(sheet.locator(`${column}[data-over], ${column} [data-over]`)).toHaveCount(1);
		await page.mouse.up();
	};
	await hang(await middle("Take dusk down"), "palette");
	await expect(sheet.getByTestId("heading-palette").getByRole("button", { name: "Take dusk down" })).toBeVisible();
	await hang(await middle(/^mills$/), "light");
	await expect(sheet.getByRole("heading")).toHaveText([
		"Pin-up sheet",
		"not sorted",
		"mills",
		"light",
		"building",
		"skyline",
		"palette",
		"clips",
	]);
	await sheet.getByRole("textbox", { name: "Caption of dusk" }).fill("this orange");
	await sheet.getByRole("textbox", { name: "Caption of dusk" }).press("Enter");

	// Taken down: mirrored, written on, cropped, adjusted; all of it undone at will.
	await sheet.getByRole("button", { name: "Take ponds down" }).click();
	const down = page.getByTestId("taken-down");
	await down.getByRole("button", { name: "Mirror" }).click();
	await expect(down.getByRole("button", { name: "Mirror back" })).toBeVisible();
	await down.getByRole("button", { name: "Stroke" }).click();
	const picture = (await down.getByRole("img", { name: "ponds" }).boundingBox()) as {
		x: number;
		y: number;
		width: number;
		height: number;
	};
	const at = (x: number, y: number): [number, number] => [
		picture.x + x * picture.width,
		picture.y + y * picture.height,
	];
	await drag(page, at(0.2, 0.3), at(0.5, 0.35));
	await expect(down.locator("path")).toHaveCount(2);
	await down.getByRole("button", { name: "Words" }).click();
	await page.mouse.click(...at(0.3, 0.6));
	await down.getByRole("textbox", { name: "Words on the picture" }).fill("roof line");
	await down.getByRole("textbox", { name: "Words on the picture" }).press("Enter");
	await expect(down.getByText("roof line")).toBeVisible();
	await down.getByRole("textbox", { name: "Warmth" }).fill("0.4");
	await down.getByRole("textbox", { name: "Warmth" }).press("Enter");
	await expect(down.locator("feColorMatrix")).toHaveCount(1);
	await down.getByRole("button", { name: "Crop" }).click();
	await drag(page, at(0, 0.5), at(0.25, 0.5));
	await down.getByRole("button", { name: "Take the crop" }).click();
	await expect(down).toContainText(/(89|90)\d × 649 px/);
	await accessible(page);
	await page.getByRole("button", { name: "Undo" }).click();
	await expect(down).toContainText("1200 × 649 px");
	await down.getByRole("button", { name: "Hang it back" }).click();

	// A still pulled from the clip hangs beside the others.
	await sheet.getByRole("button", { name: "Open the clip waves" }).click();
	const pull = page.getByTestId("clip-view").getByRole("button", { name: "Pull a still" });
	await page.getByTestId("clip-view").getByRole("button", { name: "Frame after" }).click();
	await pull.click();
	await expect(page.getByTestId("clip-view").getByText("1 still hung")).toBeVisible();
	await page.getByTestId("clip-view").getByRole("button", { name: "Back to the sheet" }).click();
	await expect(sheet.getByRole("button", { name: /^Take waves, .* down$/ })).toBeVisible();
	await accessible(page);
	await sheet.getByRole("button", { name: "Close" }).click();

	// Guides, the focal point and the empty shares.
	await page.getByRole("button", { name: "guides" }).click();
	await page.getByRole("checkbox", { name: "thirds" }).check();
	await page.getByRole("checkbox", { name: /focal point/ }).check();
	await expect(page.getByTestId("guide-thirds")).toBeVisible();
	await expect(page.getByTestId("focal-point")).toBeVisible();
	await expect(page.getByTestId("emptiness")).toContainText(
		/left third \d+ %, middle \d+ %, right \d+ %; around the focal point \d+ %/,
	);
	await page.keyboard.press("Escape");

	// Wipe, and everything again after a reload.
	await page.getByRole("radio", { name: "wipe" }).first().click();
	await expect(page.getByTestId("wipe-edge")).toBeVisible();
	await page.reload();
	await open(page, "Brief");
	await expect(step(page, "Brief")).toContainText("3 references");
	await expect(page.getByRole("textbox", { name: "What carries it, up to three" })).toHaveValue("low sun, the shed");
	await expect(page.getByTestId("guide-thirds")).toBeVisible();
	await expect(page.getByTestId("target-distance")).toBeVisible();
});
