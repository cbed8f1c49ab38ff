/** What the page does at its bounds: no WebGL, a server that is away, two tabs, very many plants. */
import { chromium, expect, type Page, test } from "@playwright/test";
import { blankShot } from "../src/core/doc/defaults.ts";
import type { Edit } from "../src/core/doc/edits.ts";
import { coverCells, placeCell, surroundingsOf } from "../src/core/dress/placeCover.ts";
import { newCover } from "../src/core/dress/plant.ts";
import { newShot, post, step, stored } from "./hands.ts";
import { served } from "./server.ts";

const drawn = (page: Page) =>
	page.waitForFunction(() => document.documentElement.dataset.drawn === "yes", null, { timeout: 120_000 });

test("a browser without WebGL is told so, and the rest of the room works", async () => {
	const id = await newShot("No drawing here");
	const browser = await chromium.launch({
		executablePath: "/usr/bin/chromium",
		args: ["--no-sandbox", "--disable-3d-apis"],
	});
	try {
		const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
		await page.goto(`${served().url}/shot/${id}`);
		await expect(page.getByText("This browser offers no WebGL 2")).toBeVisible();
		await step(page, "Brief").click();
		const title = page.getByRole("textbox", { name: "Title" });
		await title.fill("Named without a picture");
		await title.press("Enter");
		await expect.poll(async () => (await stored(id)).title).toBe("Named without a picture");
	} finally {
		await browser.close();
	}
});

test("edits made while the server is away are kept, said, and sent when it is back", async ({ page, context }) => {
	const id = await newShot("Cut off");
	await page.goto(`${served().url}/shot/${id}`);
	await drawn(page);
	await step(page, "Brief").click();
	await context.setOffline(true);
	const idea = page.getByRole("textbox", { name: "The idea, in a sentence" });
	await idea.fill("Written without a line.");
	await idea.blur();
	await expect(page.getByRole("complementary").getByText(/away/)).toBeVisible();
	expect((await stored(id)).idea).not.toBe("Written without a line.");
	await context.setOffline(false);
	await expect.poll(async () => (await stored(id)).idea).toBe("Written without a line.");
	await expect(page.getByRole("complementary").getByText(/away/)).toBeHidden();
});

test("two tabs on one shot: the older one takes the newer edits in and loses none of its own", async ({
	page,
	context,
}) => {
	const id = await newShot("Two tabs");
	const other = await context.newPage();
	for (const p of [page, other]) {
		await p.goto(`${served().url}/shot/${id}`);
		await drawn(p);
		await step(p, "Brief").click();
	}
	const title = page.getByRole("textbox", { name: "Title" });
	await title.fill("Named in the first tab");
	await title.press("Enter");
	const idea = other.getByRole("textbox", { name: "The idea, in a sentence" });
	await idea.fill("Told in the second tab.");
	await idea.blur();
	await expect.poll(async () => (await stored(id)).idea).toBe("Told in the second tab.");
	expect((await stored(id)).title).toBe("Named in the first tab");
	for (const p of [page, other]) await expect(p.getByRole("heading", { name: "Named in the first tab" })).toBeVisible();
	await other.close();
});

test("two hundred thousand plants: the working view thins them and says so, the scene has them all", async ({
	page,
}) => {
	const doc = blankShot();
	const cover = newCover("grass", "tussock", {
		densityPerM2: 10,
		rules: [{ kind: "near the lens", out: false, distanceM: 120, featherM: 0 }],
	});
	const count = () => {
		const around = surroundingsOf(doc, cover);
		return coverCells(around).reduce((n, job) => n + placeCell(job, around).count, 0);
	};
	cover.densityPerM2 = Math.ceil((10 * 205_000) / count());
	const all = count();
	expect(all).toBeGreaterThan(200_000);
	const id = await newShot("Very many plants", [{ name: "cover.add", cover } as Edit]);
	await page.goto(`${served().url}/shot/${id}`);
	await drawn(page);
	await step(page, "Dress").click();
	await expect(
		page.getByRole("complementary").getByText(new RegExp(`^[\\d,]+ of ${all.toLocaleString("en")}$`)),
	).toBeVisible({ timeout: 120_000 });
	const { id: print } = await post<{ id: string }>(`/api/shots/${id}/prints`, { widthPx: 96, samples: 16, seed: 1 });
	await expect
		.poll(async () => (await (await fetch(`${served().url}/api/prints/${print}`)).json()).state, { timeout: 120_000 })
		.toBe("done");
});

test("a proof is shown without its noise, or as it was traced; a print is foretold, paused, let go on and cancelled", async ({
	page,
}) => {
	const id = await newShot("Clean and calm");
	await page.goto(`${served().url}/shot/${id}`);
	await drawn(page);
	const state = page.getByTestId("proof-state");
	await expect(state).toHaveAttribute("data-clean", "true", { timeout: 180_000 });
	await page.getByRole("button", { name: "cleaned" }).click();
	await expect(state).toHaveAttribute("data-clean", "false", { timeout: 120_000 });
	await page.getByRole("button", { name: "as traced" }).click();
	await expect(state).toHaveAttribute("data-clean", "true", { timeout: 120_000 });

	await step(page, "Print").click();
	const set = async (name: string, value: string) => {
		const field = page.getByRole("textbox", { name, exact: true });
		await field.fill(value);
		await field.press("Enter");
	};
	await set("Width", "1600");
	await set("Stops at noise", "0");
	await expect(page.getByText("At 0 all samples are taken.")).toBeVisible();
	await expect(page.getByTestId("foretold")).toHaveText(/^About \d/);
	await page.getByRole("button", { name: "Print", exact: true }).click();
	const print = page.getByTestId("print").first();
	await expect(print).toHaveAttribute("data-state", "tracing");
	await print.getByRole("button", { name: "Pause" }).click();
	await expect(print).toHaveAttribute("data-state", "paused");
	await page.reload();
	await step(page, "Print").click();
	await expect(print).toHaveAttribute("data-state", "paused");
	await print.getByRole("button", { name: "Go on" }).click();
	await expect(print).toHaveAttribute("data-state", "tracing");
	await print.getByRole("button", { name: "Cancel" }).click();
	await expect(print).toHaveAttribute("data-state", "cancelled");
});

test("a picture is pasted as a reference, and the exposure is proposed from the proof", async ({ page }) => {
	const id = await newShot("Pasted");
	await page.goto(`${served().url}/shot/${id}`);
	await drawn(page);
	await page.evaluate(async () => {
		const canvas = document.createElement("canvas");
		[canvas.width, canvas.height] = [64, 40];
		canvas.getContext("2d")?.fillRect(0, 0, 20, 20);
		const blob = (await new Promise<Blob | null>((r) => canvas.toBlob(r, "image/png"))) as Blob;
		const data = new DataTransfer();
		data.items.add(new File([blob], "from the clipboard.png", { type: "image/png" }));
		window.dispatchEvent(new ClipboardEvent("paste", { clipboardData: data, bubbles: true }));
	});
	await expect
		.poll(async () => (await stored(id)).references.map((r) => [r.name, r.widthPx, r.heightPx]))
		.toEqual([["from the clipboard", 64, 40]]);
	await step(page, "Brief").click();
	await expect(page.getByRole("button", { name: "from the clipboard", exact: true })).toBeVisible();

	await step(page, "Light").click();
	const before = (await stored(id)).camera.ev100;
	const propose = page.getByRole("button", { name: "Propose from the proof" });
	await expect(propose).toBeEnabled({ timeout: 120_000 });
	await propose.click();
	await expect.poll(async () => (await stored(id)).camera.ev100).not.toBe(before);
	const proposed = (await stored(id)).camera.ev100;
	expect(proposed).toBeGreaterThan(10);
	expect(proposed).toBeLessThan(17);
	await page.keyboard.press("Control+z");
	await expect.poll(async () => (await stored(id)).camera.ev100).toBe(before);
});
