/** Bodies cut out of others by the pointer, and the same body in the page and on the server. */
import { expect } from "@playwright/test";
import { build } from "esbuild";
import loadHere from "manifold-3d";
import { newPiece } from "../src/core/doc/defaults.ts";
import { cutBody } from "./cutBody.ts";
import { drag, emptyPlace, keptDocument, middleOf, open } from "./hands.ts";
import { test } from "./held.ts";
import { served } from "./server.ts";

test("a body is cut, joined and met to the very same corners in the page as on the server", async ({ page }) => {
	const here = cutBody(await loadHere());
	const { outputFiles } = await build({
		entryPoints: ["e2e/cutBody.ts"],
		bundle: true,
		format: "iife",
		globalName: "cuts",
		write: false,
		platform: "browser",
	});
	await page.goto(`${served().url}/shot/blank`);
	await page.addScriptTag({ content: outputFiles[0].text });
	const there = await page.evaluate(`import("/manifold.js").then(async (m) => cuts.cutBody(await m.default()))`);
	expect(there).toEqual(here);
	expect(here.faces).toEqual(expect.arrayContaining(["soffit", "holes side"]));
	expect(here.volume).toBeGreaterThan(1);
});

test("a door is cut out of a wall by a sentence, and cuts anew where it is moved", async ({ page }) => {
	const at = await emptyPlace(page, "Cuts", { position: [0, 3, 0], pitchDeg: -8 }, [
		newPiece("wall", "box", { name: "Wall", position: [0, 0, -12], size: [9, 4, 0.5] }),
		newPiece("door", "box", { name: "Door", position: [-2, 0, -12], size: [1.4, 2.4, 1.2] }),
		newPiece("all", "box", { name: "All of it", position: [0, -2, -12], size: [12, 9, 6], hidden: true }),
	]);
	await open(page, "Mass");
	const pieces = async () => (await keptDocument(page)).pieces;
	const name = page.getByRole("textbox", { name: "Name of the piece" });
	await page.mouse.click(...(await at(-2, 1, -11.4)));
	await expect(name).toHaveValue("Door");
	await page.getByRole("combobox", { name: "which of them" }).selectOption({ label: "Wall" });
	await expect(page.getByText("The frame shows what would be.")).toBeVisible();
	expect((await pieces())[1].act).toBeUndefined();
	await page.getByRole("button", { name: "Do it" }).click();
	await expect.poll(async () => (await pieces())[1].act).toEqual({ kind: "cut", on: "wall" });
	await expect(page.getByTestId("acting")).toContainText("It is cut out of Wall.");

	// Through the hole the ground is met; beside it the wall, which tells what is done to it.
	await page.keyboard.press("Escape");
	await expect
		.poll(async () => {
			await page.mouse.click(...(await at(-2, 1, -11.8)));
			await page.waitForTimeout(700);
			return name.count();
		})
		.toBe(0);
	await page.mouse.click(...(await at(1.5, 1, -11.8)));
	await expect(name).toHaveValue("Wall");
	await page.getByRole("button", { name: "Door (cut)" }).click();
	await expect(name).toHaveValue("Door");

	// Dragged along the wall by its foot, it cuts there, and the wall is whole where it was.
	const foot = await middleOf(page, "handle-foot");
	const [x0] = await at(-2, 0, -12);
	const [x1] = await at(1.5, 0, -12);
	await drag(page, foot, [foot[0] + x1 - x0, foot[1]]);
	await expect.poll(async () => (await pieces())[1].position[0]).toBeGreaterThan(1.2);
	await page.keyboard.press("Escape");
	await expect
		.poll(async () => {
			await page.mouse.click(...(await at(-2, 1, -11.8)));
			await page.waitForTimeout(700);
			return (await name.count()) ? name.inputValue() : "";
		})
		.toBe("Wall");

	// What would leave nothing is told beforehand, and is not done.
	await open(page, "In frame");
	await page.getByRole("textbox", { name: "Filter by name" }).fill("All of it");
	await page.getByRole("button", { name: "left out" }).click();
	await page.getByRole("button", { name: "All of it", exact: true }).click();
	await expect(name).toHaveValue("All of it");
	await page.getByRole("combobox", { name: "which of them" }).selectOption({ label: "Wall" });
	await expect(page.getByText("Nothing would be left of Wall.")).toBeVisible();
	await expect(page.getByRole("button", { name: "Do it" })).toBeDisabled();
	await page.getByRole("button", { name: "Leave it" }).click();
	expect((await pieces())[2].act).toBeUndefined();
});
