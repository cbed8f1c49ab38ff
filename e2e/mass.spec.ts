/** Masses in the frame: what they stand on, how much of it shows, several at once; and the way back to what was. */
import { expect } from "@playwright/test";
import { newPiece } from "../src/core/doc/defaults.ts";
import { drag, emptyPlace, keptDocument, newShot, number, open, step, stored } from "./hands.ts";
import { test } from "./held.ts";
import { served } from "./server.ts";

const quay = newPiece("quay", "box", { name: "Quay", position: [0, 0, -9], size: [30, 1, 8], stands: "level" });

test("a shape drawn on a piece stands on it, follows it, leans and is told by what is seen of it", async ({ page }) => {
	const at = await emptyPlace(page, "On the quay", { position: [0, 3, 0], pitchDeg: -14 }, [quay]);
	await open(page, "Mass");
	await page.getByRole("radio", { name: "cylinder", exact: true }).click();
	await drag(page, await at(1, 1, -8), await at(2, 2.6, -8));
	await expect(page.getByText("It stands on Quay, 1.00 m up.")).toBeVisible();
	await expect(page.getByRole("combobox", { name: "Stands on" })).toHaveValue("quay");
	await expect.poll(async () => (await keptDocument(page)).pieces.length).toBe(2);
	const drawn = (await keptDocument(page)).pieces[1];
	expect(drawn).toMatchObject({ stands: { on: "quay" }, headingDeg: 0 });
	expect(Math.hypot(drawn.position[0] - 1.5, drawn.position[1], drawn.position[2] + 8)).toBeLessThan(0.1);

	// What is seen of it, as the lens sees it: far less than its box, and less than the frame together with the quay.
	const share = page.getByTestId("share");
	await expect(share).toHaveText(/^\d+\.\d % of the frame$/);
	const percent = async () => Number.parseFloat((await share.textContent()) as string);
	const cylinder = await percent();
	expect(cylinder).toBeGreaterThan(0.5);
	expect(cylinder).toBeLessThan(12);

	// Leaned by the rim of its crown it rests on the quay.
	const rim = await page.getByTestId("handle-lean-left").boundingBox();
	if (!rim) throw new Error("no rim");
	const grip: [number, number] = [rim.x + rim.width / 2, rim.y + rim.height / 2];
	await drag(page, grip, [grip[0] - 70, grip[1] + 20]);
	await expect.poll(async () => Math.abs((await keptDocument(page)).pieces[1].rollDeg)).toBeGreaterThan(10);
	expect((await keptDocument(page)).pieces[1].rests).toBe(true);
	await page.keyboard.press("Control+z");
	await expect.poll(async () => (await keptDocument(page)).pieces[1].rollDeg).toBe(0);

	// The quay moves and the piece with it; as a number it may stand on the ground again, as high as it is.
	await page.getByRole("button", { name: /^In frame/ }).click();
	await page.getByTestId("in-frame").getByRole("button", { name: "Quay" }).click();
	await number(page, "Right").fill("2");
	await number(page, "Right").press("Enter");
	await expect.poll(async () => (await keptDocument(page)).pieces[1].position[0]).toBeCloseTo(drawn.position[0] + 2, 2);
	await page.getByTestId("in-frame").getByRole("button", { name: "Cylinder 1" }).click();
	await page.getByRole("combobox", { name: "Stands on" }).selectOption("ground");
	await expect.poll(async () => (await keptDocument(page)).pieces[1]).toMatchObject({ stands: "ground" });
	expect((await keptDocument(page)).pieces[1].position[1]).toBeCloseTo(1, 2);

	// Both at once: steps, values and another shape.
	await page
		.getByTestId("in-frame")
		.getByRole("button", { name: "Quay" })
		.click({ modifiers: ["Shift"] });
	await expect(page.getByRole("paragraph").filter({ hasText: "2 pieces" })).toBeVisible();
	await number(page, "Up by").fill("0.5");
	await number(page, "Up by").press("Enter");
	await expect
		.poll(async () => (await keptDocument(page)).pieces.map((p) => p.position[1]))
		.toEqual([0.5, expect.closeTo(1.5, 2)]);
	await page.getByRole("radio", { name: "values", exact: true }).click();
	await number(page, "Height").fill("2");
	await number(page, "Height").press("Enter");
	await expect.poll(async () => (await keptDocument(page)).pieces.map((p) => p.size[1])).toEqual([2, 2]);
	await page.getByRole("combobox", { name: "Shape" }).selectOption("wedge");
	await expect.poll(async () => (await keptDocument(page)).pieces.map((p) => p.shape.kind)).toEqual(["wedge", "wedge"]);
});

test("a return is taken back by one undo, and a branch that is left lies on the contact sheet", async ({ page }) => {
	const id = await newShot("There and back", [{ name: "shot.setIdea", idea: "First" }]);
	await page.goto(`${served().url}/shot/${id}`);
	await expect(page.locator("html")).toHaveAttribute("data-drawn", "yes");
	await page.keyboard.press("k");
	await expect(page.getByText(/Kept as checkpoint 1/)).toBeVisible();
	await open(page, "Brief");
	const idea = page.getByRole("textbox", { name: "Idea" });
	await idea.fill("Second");
	await idea.press("Tab");
	await expect.poll(async () => (await stored(id)).idea).toBe("Second");
	await page.getByRole("button", { name: "Contact sheet" }).click();
	const sheet = page.getByTestId("contact-sheet");
	await expect(sheet.getByTestId("latest-edits")).toContainText('idea: "Second"');
	await sheet.getByRole("region", { name: "Checkpoints" }).getByRole("button", { name: "Return to it" }).click();
	await expect.poll(async () => (await stored(id)).idea).toBe("First");
	await page.getByRole("button", { name: "Undo" }).click();
	await expect(idea).toHaveValue("Second");
	// An edit after an undo leaves a branch; the frame as it stood there is on its card.
	await page.getByRole("button", { name: "Undo" }).click();
	await expect(idea).toHaveValue("First");
	await idea.fill("Third");
	await idea.press("Tab");
	await expect.poll(async () => (await stored(id)).idea).toBe("Third");
	await page.getByRole("button", { name: "Contact sheet" }).click();
	const left = sheet.getByRole("region", { name: "Left behind" });
	await expect(left.getByText('idea: "Second"')).toBeVisible();
	await expect(left.getByRole("img", { name: 'idea: "Second"' })).toBeVisible();
	await left.getByRole("button", { name: "Return to it" }).click();
	await expect.poll(async () => (await stored(id)).idea).toBe("Second");
});

test("plan and section are enlarged about the pointer and moved, and the whole is a word away", async ({ page }) => {
	await page.goto(`${served().url}/shot/lantern`);
	for (const name of ["plan", "section"]) {
		const drawing = page.getByTestId(name);
		const box = (await drawing.boundingBox()) as { x: number; y: number };
		await page.mouse.move(box.x + 60, box.y + 50);
		await page.mouse.wheel(0, -600);
		await expect.poll(async () => Number(await drawing.getAttribute("data-zoom"))).toBeGreaterThan(2);
		await page.getByRole("button", { name: "whole", exact: true }).click();
		await expect(drawing).toHaveAttribute("data-zoom", "1");
		if (name === "plan") await page.getByRole("button", { name: "from the side" }).click();
	}
});

test("the first address leads to the shot that was open last, and old links lead on", async ({ page }) => {
	await page.goto(`${served().url}/shot/lantern`);
	await expect(page.getByTestId("caption")).toBeVisible();
	await page.goto(served().url);
	await expect(page).toHaveURL(/\/shot\/lantern$/);
	await page.goto(`${served().url}/shot/salina`);
	await expect(page).toHaveURL(/\/shot\/saltworks$/);
	await expect(step(page, "Mass")).toContainText(`${(await stored("saltworks")).pieces.length} pieces`);
});
