import { expect } from "@playwright/test";
import { towards } from "../src/core/air/skyPicture.ts";
import { writeHdr } from "../src/core/formats/hdr.ts";
import { blank, drag, number, open, step } from "./hands.ts";
import { test } from "./held.ts";

/** An even sky with a sun at heading 20°, 12° high. */
function sky(): Buffer {
	const [width, height] = [256, 128];
	const rgb = new Float32Array(width * height * 3);
	const sun = towards(0.5 + 20 / 360, 78 / 180);
	for (let y = 0; y < height; y++) {
		for (let x = 0; x < width; x++) {
			const d = towards((x + 0.5) / width, (y + 0.5) / height);
			const near = d[0] * sun[0] + d[1] * sun[1] + d[2] * sun[2] > Math.cos(0.02);
			rgb.set(near ? [30_000, 20_000, 9000] : d[1] < 0 ? [0.1, 0.1, 0.1] : [0.4, 0.6, 1], (y * width + x) * 3);
		}
	}
	return Buffer.from(writeHdr({ width, height, rgb }));
}

test("a sky picture is hung, turned by its sun, made brighter, refused when it is none, and taken down", async ({
	page,
}) => {
	await blank(page);
	await open(page, "Light");
	const field = (name: string) => number(page, name).last();
	await page
		.getByTestId("pick-sky")
		.setInputFiles({ name: "dusk.hdr", mimeType: "application/octet-stream", buffer: sky() });
	await expect(page.getByText("256 × 128:")).toBeVisible({ timeout: 120_000 });
	await expect(step(page, "Light")).toContainText("dusk");
	// Its light is that of the sky before it, so the exposure stays; and what has no effect under it is not shown.
	await expect.poll(async () => Number(await field("Light on level ground").inputValue())).toBeGreaterThan(1000);
	await expect(page.getByText("High thin cloud")).toHaveCount(0);
	await expect(page.getByText("Its sun is a true one")).toBeVisible({ timeout: 120_000 });

	const mark = page.getByTestId("picture-sun");
	await expect(mark).toBeVisible();
	const box = (await mark.boundingBox()) as { x: number; y: number; width: number; height: number };
	const at: [number, number] = [box.x + 20, box.y + box.height / 2];
	await drag(page, at, [at[0] - 150, at[1]]);
	await expect.poll(async () => Number(await field("Turn").inputValue())).toBeGreaterThan(300);
	await page.keyboard.press("Control+z");
	await expect.poll(async () => Number(await field("Turn").inputValue())).toBe(0);

	await field("Light on level ground").fill("2500");
	await field("Light on level ground").press("Enter");
	await page.reload();
	await open(page, "Light");
	await expect(field("Light on level ground")).toHaveValue("2500");

	await page
		.getByTestId("pick-sky")
		.setInputFiles({ name: "note.exr", mimeType: "application/octet-stream", buffer: Buffer.from("not a picture") });
	await expect(page.getByText("note.exr: This file is no picture that can be read")).toBeVisible();
	await expect(step(page, "Light")).toContainText("dusk");

	await page.getByRole("button", { name: "Take it down" }).click();
	await expect(page.getByText("High thin cloud")).toBeVisible();
	await page.keyboard.press("Control+z");
	await expect(page.getByText("256 × 128:")).toBeVisible();
});
