import { execFileSync } from "node:child_process";
import { readFileSync } from "node:fs";
import { expect, test } from "@playwright/test";
import { unzipSync } from "fflate";
import { trackOf } from "../src/core/doc/keyedValues.ts";
import { readExr } from "../src/core/formats/exr.ts";
import { blank, drag, keptDocument, number, open } from "./hands.ts";

test("a move is kept by walking, played, led in the plan, printed in three frames, and its video is one that others read", async ({
	page,
}) => {
	await blank(page);
	await expect(page.locator("html")).toHaveAttribute("data-drawn", "yes");
	await page.keyboard.press("m");
	await page.getByRole("button", { name: "Begin a move of four seconds" }).click();
	const strip = page.getByTestId("time-strip");
	const frame = page.getByTestId("strip-frame");
	await expect(frame).toContainText("frame 0 of 96");
	await page.getByRole("button", { name: "4.00 s at 24" }).click();
	await number(page, "Length").fill("9");
	await number(page, "Length").press("Enter");
	await page.keyboard.press("Escape");
	await expect(frame).toContainText("frame 0 of 9");

	// The first place is the camera's own; the next is walked to.
	await strip.getByRole("button", { name: "Keep the camera here" }).click();
	await expect(strip.getByTestId("notch")).toHaveCount(1);
	await expect(page.getByRole("dialog")).toHaveCount(0);
	const film = strip.getByRole("slider");
	await film.focus();
	await page.keyboard.press("End");
	await expect(frame).toContainText("frame 8 of 9");
	await page.keyboard.press("w");
	for (let i = 0; i < 3; i++) await page.keyboard.press("ArrowUp");
	await strip.getByRole("button", { name: "Keep this view here" }).click();
	await expect(strip.getByTestId("notch")).toHaveCount(2);
	const way = async () =>
		trackOf((await keptDocument(page)).move, "camera.place")?.keys.map((k) => k.value as number[]);
	await expect.poll(async () => (await way())?.map(([, , z]) => z)).toEqual([0, -3]);
	await expect(page.getByTestId("caption")).toContainText("eye 1.65 m");

	// Between them it goes as the word says; a click on it says another.
	await strip.getByRole("button", { name: /^Goes on ease/ }).click();
	await expect(strip.getByRole("button", { name: /^Goes on hold/ })).toBeVisible();
	await page.keyboard.press("Control+z");
	await expect(strip.getByRole("button", { name: /^Goes on ease/ })).toBeVisible();

	// Played, it goes on and comes to rest where it is halted.
	await page.keyboard.press("r");
	await expect(strip.getByRole("button", { name: "Halt" })).toBeVisible();
	await expect.poll(async () => (await frame.textContent())?.includes("frame 8 ")).toBe(false);
	await page.keyboard.press("r");
	await expect(strip.getByRole("button", { name: "Play", exact: true })).toBeVisible();

	// A third place in the middle of the way, then dragged aside in the plan.
	await film.focus();
	await page.keyboard.press("Home");
	for (let i = 0; i < 4; i++) await page.keyboard.press("ArrowRight");
	await expect(frame).toContainText("frame 4 of 9");
	await strip.getByRole("button", { name: "Keep the camera here" }).click();
	await expect(strip.getByTestId("notch")).toHaveCount(3);
	const key = page.getByTestId("way-key").nth(1).locator("path");
	const box = (await key.boundingBox()) as { x: number; y: number; width: number; height: number };
	const from: [number, number] = [box.x + box.width / 2, box.y + box.height / 2];
	await drag(page, from, [from[0] + 30, from[1]]);
	await expect.poll(async () => (await way())?.[1][0] ?? 0).toBeGreaterThan(0.5);
	// A notch is dragged to another moment; undo takes that back.
	const notch = strip.getByTestId("notch").nth(1);
	const at = (await notch.boundingBox()) as { x: number; y: number; width: number; height: number };
	await drag(page, [at.x + 9, at.y + 10], [at.x + 120, at.y + 10]);
	const middle = async () => trackOf((await keptDocument(page)).move, "camera.place")?.keys[1].timeS ?? 0;
	await expect.poll(middle).toBeGreaterThan(4.5 / 24);
	await page.keyboard.press("Control+z");
	await expect.poll(middle).toBeCloseTo(4 / 24, 6);

	// The small frames are traced meanwhile.
	await expect(strip.getByTestId("small-traced")).toHaveCount(0, { timeout: 120_000 });

	// What it does to the picture leads to the frames that show it.
	await strip.getByRole("button", { name: "what it does" }).click();
	const table = page.getByTestId("move-table");
	await expect(table).toContainText("px across the move");
	await expect(table).toContainText("fastest");
	await table
		.getByRole("button", { name: /^frame \d/ })
		.first()
		.click();
	await page.keyboard.press("Escape");

	await open(page, "Print");
	for (const [name, value] of [
		["Width", "96"],
		["Samples", "4"],
		["Stops at noise", "0"],
	]) {
		await number(page, name).fill(value);
		await number(page, name).press("Enter");
	}
	await page.getByRole("switch", { name: "Printed of the move" }).click();
	const frames = page.getByRole("textbox", { name: "Frames", exact: true });
	await frames.fill("0-12:4");
	await frames.press("Enter");
	await expect(page.getByRole("alert").filter({ hasText: "frames 0 to 8" })).toBeVisible();
	await frames.fill("0-8:4");
	await frames.press("Enter");
	await expect(page.getByText("3 frames of 9.")).toBeVisible();
	await page.locator("aside footer").getByRole("button", { name: "Print", exact: true }).click();
	const row = page.getByTestId("print").first();
	await expect(row).toHaveAttribute("data-state", "done", { timeout: 120_000 });
	await expect(row).toContainText("3 frames of 96 ×");

	// Frames are handed out by themselves where their neighbours are not wanted.
	const steadied = row.getByRole("switch", { name: "Noise that is left" });
	await expect(steadied).toBeChecked();
	await steadied.click();
	const unpacked = async () => {
		const archive = page.waitForEvent("download");
		await row.getByRole("link", { name: "EXR frames" }).click();
		return unzipSync(readFileSync(await (await archive).path()));
	};
	const files = await unpacked();
	expect(Object.keys(files).map((name) => name.slice(-8))).toEqual(["0000.exr", "0004.exr", "0008.exr"]);
	expect(readExr(Object.values(files)[1]).width).toBe(96);

	await steadied.click();
	await row.getByRole("button", { name: "Make the MP4 with this finish" }).click();
	const link = row.getByRole("link", { name: "MP4", exact: true });
	await expect(link).toBeVisible({ timeout: 120_000 });
	const video = page.waitForEvent("download");
	await link.click();
	const told = execFileSync("ffprobe", [
		...["-v", "error", "-count_frames", "-select_streams", "v:0", "-of", "csv=p=0"],
		...["-show_entries", "stream=codec_name,width,r_frame_rate,nb_read_frames", await (await video).path()],
	]).toString();
	expect(told.trim().split(",")).toEqual(["h264", "96", "6/1", "3"]);

	// The video waited for them.
	expect(Object.keys(await unpacked()).filter((name) => name.endsWith(".steady.exr"))).toHaveLength(3);

	// The still is as it was.
	await page.keyboard.press("m");
	await expect(page.getByTestId("ribbon")).toBeVisible();
	expect((await keptDocument(page)).camera.position).toEqual([0, 1.65, 0]);

	// All of it is there again after a reload.
	await page.reload();
	await expect(page.locator("html")).toHaveAttribute("data-drawn", "yes");
	await page.keyboard.press("m");
	await expect(strip.getByTestId("notch")).toHaveCount(3);
	// Its small frames, too: nothing of them is traced again.
	await expect(strip.getByTestId("small-traced")).toHaveCount(0, { timeout: 120_000 });
	await open(page, "Print");
	await expect(page.getByTestId("print").first().getByRole("link", { name: "MP4", exact: true })).toBeVisible();
});
