import { expect, test } from "@playwright/test";
import { blank, drag, inFrame, keptDocument, number, open } from "./hands.ts";
import { served } from "./server.ts";

test("the focus is picked in the frame, the exposure follows its shutter, and a delivery is led in the frame and printed", async ({
	page,
}) => {
	await blank(page);
	await expect(page.locator("html")).toHaveAttribute("data-drawn", "yes");
	await expect
		.poll(async () => Number(await page.getByTestId("proof-state").getAttribute("data-samples")))
		.toBeGreaterThan(0);
	// The staff stands 20 m off, straight ahead.
	await page.getByRole("button", { name: "Pick in the frame" }).click();
	await page.mouse.click(...(await inFrame(page, 0.5, 0.45)));
	await expect.poll(async () => (await keptDocument(page)).camera.focusM ?? 0).toBeCloseTo(20, 0);
	await page.getByRole("radio", { name: "a piece", exact: true }).click();
	await page.mouse.click(...(await inFrame(page, 0.5, 0.45)));
	await expect(page.getByTestId("focus-follows")).toContainText("Follows Staff");
	// Wide open and focused near, the place looks like a toy; the cure takes that away.
	await page.getByRole("radio", { name: "a distance", exact: true }).click();
	for (const [name, value] of [
		["Focal length", "85"],
		["f-stop", "1.4"],
		["Focus at", "6"],
	]) {
		await number(page, name).fill(value);
		await number(page, name).press("Enter");
	}
	await expect(page.getByTestId("toy")).toContainText("times smaller", { timeout: 120_000 });
	await page
		.getByTestId("toy")
		.getByRole("button", { name: /^Close to f/ })
		.click();
	await expect(page.getByTestId("toy")).toHaveCount(0);
	const ribbon = (await page.getByTestId("ribbon").boundingBox()) as {
		x: number;
		y: number;
		width: number;
		height: number;
	};
	await page.mouse.move(ribbon.x + ribbon.width / 2, ribbon.y + 60);
	await expect(page.getByTestId("blur-here")).toContainText(/blur [\d.]+ px of 1,920/);

	await open(page, "Light");
	await expect(page.getByTestId("exposure-told")).toContainText("is held");
	await page.getByRole("switch", { name: "This EV" }).click();
	await number(page, "ISO").fill("400");
	await number(page, "ISO").press("Enter");
	const exposed = async () => {
		const { camera } = await keptDocument(page);
		return camera.ev100 - Math.log2(camera.fStop ** 2 * 125 * 0.25);
	};
	await expect.poll(exposed).toBeCloseTo(0, 6);

	// A lens that bends: the frame is shown so, and what is bent in is traced.
	await open(page, "Finish");
	await number(page, "Bend").fill("-12");
	await number(page, "Bend").press("Enter");
	await expect(page.getByText("outwards, like a barrel")).toBeVisible();
	await expect.poll(async () => (await keptDocument(page)).finish.lens?.bend).toBeCloseTo(-0.12, 6);

	await open(page, "Print");
	await page.getByRole("radio", { name: "9:16", exact: true }).click();
	const delivery = page.getByTestId("delivery").first();
	await expect(delivery).toContainText("1080 × 1920");
	await expect(page.getByTestId("delivery-mark")).toBeVisible();
	const middle = async () => (await keptDocument(page)).deliveries?.[0];
	await expect.poll(async () => (await middle())?.middle[0]).toBeCloseTo(0.5, 3);
	// By its edge it is moved, by a corner made smaller; undo takes that back.
	const edge = 0.5 - 9 / 16 / 1.85 / 2;
	await drag(page, await inFrame(page, edge, 0.5), await inFrame(page, edge + 0.2, 0.5));
	await expect.poll(async () => (await middle())?.middle[0]).toBeCloseTo(0.7, 1);
	await drag(page, await inFrame(page, edge + 0.2, 0.995), await inFrame(page, edge + 0.26, 0.9));
	await expect.poll(async () => (await middle())?.share ?? 1).toBeLessThan(0.8);
	await page.keyboard.press("Control+z");
	await expect.poll(async () => (await middle())?.share).toBe(1);
	for (const [name, value] of [
		["Samples", "4"],
		["Stops at noise", "0"],
		["Width of its picture", "48"],
	]) {
		await number(page, name).fill(value);
		await number(page, name).press("Enter");
	}
	await expect(delivery).toContainText("48 × 85");
	await page.getByRole("button", { name: "Print this delivery" }).click();
	const row = page.getByTestId("print").first();
	await expect(row).toHaveAttribute("data-state", "done", { timeout: 120_000 });
	await expect(row).toContainText("48 × 85 of 158 × 85");
	const id = new URL(page.url()).pathname.split("/").pop();
	const [{ part, area }] = (await (await page.request.get(`${served().url}/api/shots/${id}/prints`)).json()).prints;
	expect(area.y).toBeLessThan(0);
	expect(area.height).toBeGreaterThan(part.height + 8);
	// Turned by its own aim its outline is led in the frame; it may reach beyond it.
	await number(page, "Turned to the right").fill("6");
	await number(page, "Turned to the right").press("Enter");
	await number(page, "Raised").fill("20");
	await number(page, "Raised").press("Enter");
	await expect(delivery).toContainText("It reaches 20 % of the frame beyond it. Its lens is turned 6.0° to the right.");
	await expect(page.getByTestId("delivery-mark")).toBeVisible();
});
