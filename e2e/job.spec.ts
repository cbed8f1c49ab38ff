import { readFileSync } from "node:fs";
import { expect, type Page } from "@playwright/test";
import { REFERENCE_SIZE, REFERENCE_TRUTH, referenceLines } from "../demo/reference.ts";
import { readExr } from "../src/core/formats/exr.ts";
import { drag, dropFiles, editElsewhere, inFrame, keptDocument, number, open, step } from "./hands.ts";
import { test } from "./held.ts";
import { served } from "./server.ts";

async function type(page: Page, name: string, value: string) {
	const field = number(page, name);
	await field.fill(value);
	await field.press("Enter");
}

test("the whole job, from a dropped reference to an EXR that reads back", async ({ page }) => {
	await page.goto(served().url);
	await expect(page.getByRole("heading", { name: "Salt works, first light" })).toBeVisible();
	await page.getByRole("button", { name: "shots" }).click();
	await page.getByRole("menuitem", { name: "New blank shot" }).click();
	await expect(page.getByRole("heading", { name: /^Shot \d/ })).toBeVisible();

	// Brief
	await open(page, "Brief");
	await page.getByRole("textbox", { name: "Title" }).fill("Evening ponds");
	await page.getByRole("textbox", { name: "Title" }).press("Enter");
	await page.getByRole("textbox", { name: "The idea, in a sentence" }).fill("Still brine before the night.");
	await page.getByRole("textbox", { name: "The idea, in a sentence" }).blur();
	await expect(page.getByRole("heading", { name: "Evening ponds" })).toBeVisible();
	await dropFiles(page, [{ name: "notes.png", bytes: Buffer.from("this is no picture") }]);
	await expect(page.getByRole("complementary").getByRole("alert")).toContainText(
		"notes.png: This file is not a picture",
	);
	await page.getByRole("button", { name: "Seen" }).click();
	await dropFiles(page, [{ name: "ponds.png", bytes: readFileSync("demo/assets/reference.png") }]);
	await expect(page.getByRole("button", { name: "ponds", exact: true })).toBeVisible();

	// Match
	await open(page, "Match");
	for (const axis of ["along", "across", "upright"] as const) {
		await page.getByRole("button", { name: new RegExp(`^${axis}`, "i") }).click();
		for (const l of referenceLines().filter((x) => x.axis === axis)) {
			const { width, height } = REFERENCE_SIZE;
			await drag(
				page,
				await inFrame(page, l.x1 / width, l.y1 / height),
				await inFrame(page, l.x2 / width, l.y2 / height),
			);
		}
	}
	const answer = page.getByTestId("match-answer");
	await expect(answer).toBeVisible();
	const told = async (name: string) => Number(await answer.getAttribute(`data-${name}`));
	expect(Math.abs((await told("focal")) / REFERENCE_TRUTH.focalMm - 1)).toBeLessThan(0.06);
	expect(Math.abs((await told("heading")) - REFERENCE_TRUTH.headingDeg)).toBeLessThan(2);
	const before = await told("focal");
	await page.getByRole("button", { name: /^Line 1,/ }).click();
	await page.keyboard.press("ArrowUp");
	await expect.poll(() => told("focal")).not.toBe(before);
	await page.keyboard.press("Control+z");
	await expect.poll(() => told("focal")).toBe(before);
	await page.keyboard.press("Delete");
	await expect(page.getByRole("button", { name: /^Line 8,/ })).toHaveCount(0);
	await page.keyboard.press("Control+z");
	await expect.poll(() => told("focal")).toBe(before);
	await type(page, "Eye height", String(REFERENCE_TRUTH.eyeHeightM));
	await page.getByRole("button", { name: "Set a staff" }).click();
	await page.mouse.click(...(await inFrame(page, 0.75, 0.85)));
	await expect(page.getByTestId("plate").getByText("4 m")).toBeVisible();
	await page.getByRole("button", { name: "Take and lock" }).click();
	await expect(page.getByTestId("caption")).toContainText("locked");

	// Mass
	await page.getByRole("radio", { name: "box", exact: true }).click();
	await drag(page, await inFrame(page, 0.35, 0.75), await inFrame(page, 0.5, 0.5));
	await expect(page.getByRole("textbox", { name: "Name of the piece" })).toHaveValue("Box 5");
	const width = Number(await number(page, "Width").inputValue());
	expect(width).toBeGreaterThan(0.3);
	const right = await number(page, "Right").inputValue();
	const foot = (await page.getByTestId("handle-foot").boundingBox()) as {
		x: number;
		y: number;
		width: number;
		height: number;
	};
	const middle: [number, number] = [foot.x + foot.width / 2, foot.y + foot.height / 2];
	await drag(page, middle, [middle[0] + 60, middle[1] - 8]);
	await expect(number(page, "Right")).not.toHaveValue(right);
	await type(page, "Height", "3.5");
	await type(page, "Heading", "24");
	await page.getByRole("radio", { name: "row", exact: true }).click();
	await type(page, "Count", "4");
	await page.getByRole("button", { name: "Another", exact: true }).click();
	await expect(step(page, "Mass")).toContainText("8 pieces");
	await page.keyboard.press("Delete");
	await expect(step(page, "Mass")).toContainText("7 pieces");

	// Ground, Dress
	await open(page, "Ground");
	await page.getByRole("radio", { name: "plain" }).click();
	await type(page, "Height", "0.6");
	await page.getByRole("switch", { name: "Sea or lake" }).click();
	await type(page, "Level of the water", "-0.1");
	await open(page, "Dress");
	await page.getByRole("button", { name: "Add tussocks" }).click();
	await type(page, "Density", "0.6");
	await page.getByRole("switch", { name: /not within/ }).click();
	await expect(step(page, "Dress")).toContainText(/[1-9]\d* plants|[1-9][\d,]* plants/);

	// Light and Air
	await open(page, "Light");
	await type(page, "Height", "14");
	await open(page, "Air");
	await page.getByRole("switch", { name: "Fog", exact: true }).click();
	await page.getByRole("button", { name: "Pick a piece" }).click();
	await page.getByRole("button", { name: /^In frame/ }).click();
	await page.getByRole("button", { name: "Box 5" }).click();
	await open(page, "Air");
	await type(page, "Box 5 keeps", "80");
	await expect(number(page, "Box 5 keeps")).toHaveValue("80");

	// Proof
	await expect(page.getByTestId("proof-state")).toHaveText(/^proof held at 4 samples(, \d+ pixels across)?$/, {
		timeout: 240_000,
	});
	await page.getByRole("button", { name: "go on", exact: true }).click();
	await expect(page.getByTestId("proof-state")).toContainText("noise", { timeout: 240_000 });
	await open(page, "Light");
	await page.getByRole("button", { name: "Propose from the proof" }).click();

	// Finish changes nothing that is traced: the proof goes on, and the time since what it was begun for is never less.
	const since = Number(await page.getByTestId("proof-state").getAttribute("data-since"));
	await open(page, "Finish");
	const least = await page.getByTestId("proof-state").evaluateHandle((state) => {
		const seen = { since: Number.POSITIVE_INFINITY };
		const look = () => {
			seen.since = Math.min(seen.since, Number(state.getAttribute("data-since")));
		};
		new MutationObserver(look).observe(state, { attributes: true });
		look();
		return seen;
	});
	await type(page, "Contrast", "1.1");
	await expect.poll(async () => (await keptDocument(page)).finish.contrast).toBe(1.1);
	expect(await least.evaluate((seen) => seen.since)).toBeGreaterThanOrEqual(since);

	// Keeping
	await page.keyboard.press("k");
	await expect(page.getByRole("complementary").getByRole("alert")).toContainText("Kept as checkpoint 1", {
		timeout: 120_000,
	});

	// Print
	await open(page, "Print");
	await type(page, "Width", "160");
	await type(page, "Samples", "16");
	await page.locator("aside footer").getByRole("button", { name: "Print", exact: true }).click();
	const row = page.getByTestId("print").first();
	await expect(row).toHaveAttribute("data-state", "done", { timeout: 120_000 });
	const [exr] = await Promise.all([page.waitForEvent("download"), row.getByRole("link", { name: "EXR" }).click()]);
	const image = readExr(readFileSync(await exr.path()));
	expect(image.width).toBe(160);
	expect(image.height).toBe(Math.round((160 * REFERENCE_SIZE.height) / REFERENCE_SIZE.width));
	const plane = (name: string) => image.channels.find((c) => c.name === name)?.data as Float32Array;
	expect(plane("R").every((v) => Number.isFinite(v) && v >= 0)).toBe(true);
	expect(Math.max(...plane("Z").filter((z) => z < 1e9))).toBeGreaterThan(50);
	const [png] = await Promise.all([page.waitForEvent("download"), row.getByRole("link", { name: "PNG" }).click()]);
	expect(
		readFileSync(await png.path())
			.subarray(1, 4)
			.toString(),
	).toBe("PNG");
	await row.getByRole("button", { name: /^Print of/ }).click();
	await expect(page.getByTestId("proof-state")).toHaveText("print");

	// Everything is there after a reload, and undo reaches back through it
	await page.reload();
	await expect(page.getByRole("heading", { name: "Evening ponds" })).toBeVisible();
	await expect(page.getByTestId("caption")).toContainText("locked");
	// The proof was let go on; so it does.
	await expect(page.getByRole("button", { name: "hold", exact: true })).toBeVisible();
	await page.getByRole("button", { name: "Undo" }).click();
	await page.getByRole("button", { name: "Redo" }).click();
	await page.getByRole("button", { name: "Contact sheet" }).click();
	await expect(page.getByTestId("contact-sheet").getByText("Checkpoint 1")).toBeVisible();
	await page.getByRole("button", { name: "Lay Checkpoint 1 beside another" }).click();
	await page.getByRole("button", { name: /^Lay 160 × 87/ }).click();
	await expect(page.getByTestId("pair").getByRole("img")).toHaveCount(2);
});

test("a second tab is told of newer edits and takes them", async ({ browser }) => {
	const context = await browser.newContext();
	const streams: Page[] = [];
	context.on("request", (r) => void (r.url().endsWith("/api/events") && streams.push(r.frame().page())));
	const one = await context.newPage();
	const two = await context.newPage();
	for (const p of [one, two]) await p.goto(`${served().url}/shot/blank`);
	await open(one, "Brief");
	await one.getByRole("textbox", { name: "Title" }).fill("Blank, renamed");
	await one.getByRole("textbox", { name: "Title" }).press("Enter");
	await expect(two.getByRole("heading", { name: "Blank, renamed" })).toBeVisible();
	// One stream serves both; when the tab that keeps it is closed the other one takes it over.
	expect(streams).toHaveLength(1);
	const [keeper] = streams;
	const left = keeper === one ? two : one;
	await keeper.close();
	await expect.poll(() => streams.length).toBe(2);
	expect(streams[1]).toBe(left);
	await editElsewhere("blank", [{ name: "shot.setTitle", title: "Blank, renamed elsewhere" }]);
	await expect(left.getByRole("heading", { name: "Blank, renamed elsewhere" })).toBeVisible();
	await context.close();
});

test("a request from elsewhere, of a wrong kind or too large changes nothing", async ({ request }) => {
	const { url } = served();
	const post = (path: string, data: unknown, headers = {}) =>
		request.post(`${url}${path}`, { data: data as string, headers });
	expect((await post("/api/shots", { title: "x" }, { Origin: "http://elsewhere.example" })).status()).toBe(403);
	expect((await post("/api/shots", { title: "x" }, { Host: "elsewhere.example" })).status()).toBe(403);
	// Pages neither: a foreign name that was bound to this machine reads nothing, and no other site shows them in a frame.
	const get = (path: string, headers = {}) => request.get(`${url}${path}`, { headers });
	expect((await get("/shot/blank", { Host: "elsewhere.example" })).status()).toBe(403);
	expect((await get("/api/shots", { "Sec-Fetch-Site": "cross-site" })).status()).toBe(403);
	const opened = await get("/shot/blank", { "Sec-Fetch-Site": "cross-site", "Sec-Fetch-Dest": "document" });
	expect(opened.status()).toBe(200);
	expect(opened.headers()["content-security-policy"]).toMatch(
		/script-src 'self' 'nonce-[^']+'.*frame-ancestors 'none'/,
	);
	expect((await get("/shot/blank", { "Sec-Fetch-Site": "cross-site", "Sec-Fetch-Dest": "iframe" })).status()).toBe(403);
	for (const path of ["/shot/%00", "/shot/%zz", "/api/shots/%E0", "/api/shots/%00", "/api/copies/%zz?width=512"])
		expect((await get(path)).status(), path).toBe(404);
	expect((await post("/api/shots", "{not json")).status()).toBe(400);
	expect((await post("/api/shots", { title: "" })).status()).toBe(400);
	expect(
		(
			await post("/api/shots/none/edits", {
				clientId: crypto.randomUUID(),
				sequence: 0,
				edit: { name: "shot.setIdea", idea: "" },
			})
		).status(),
	).toBe(404);
	const bad = await post("/api/shots/blank/edits", {
		clientId: crypto.randomUUID(),
		sequence: 1,
		edit: { name: "air.setSun", elevationDeg: 1e9 },
	});
	expect(bad.status()).toBe(400);
	expect((await bad.json()).error.message).toContain("elevationDeg");
	const cut = readFileSync("demo/assets/reference.png").subarray(0, 40_000);
	const damaged = await request.post(`${url}/api/pictures`, {
		data: cut,
		headers: { "Content-Type": "application/octet-stream" },
	});
	expect(damaged.status()).toBe(400);
	expect((await damaged.json()).error.message).toContain("damaged");
});

test("a print goes on when the web server is killed, and its pixels are those of an undisturbed one", async ({
	request,
}) => {
	const { url } = served();
	const settings = { widthPx: 160, samples: 256, seed: 3 };
	const order = async () =>
		(await (await request.post(`${url}/api/shots/blank/prints`, { data: settings })).json()).id as string;
	const done = async (id: string): Promise<string> => {
		for (let i = 0; i < 600; i++) {
			try {
				const print = await (await fetch(`${url}/api/prints/${id}`)).json();
				if (print.state === "done") return print.pixelsSha256;
				if (print.state === "failed") throw new Error(print.message);
			} catch (error) {
				if (!(error instanceof TypeError)) throw error; // the server is away for a moment
			}
			await new Promise((r) => setTimeout(r, 300));
		}
		throw new Error("the print was not done in time");
	};
	const quiet = await done(await order());
	const id = await order();
	await expect.poll(async () => (await (await fetch(`${url}/api/prints/${id}`)).json()).state).toBe("tracing");
	const { pids } = JSON.parse(readFileSync(`${process.env.INQUADRA_TEST_DATA ?? ".data/test-page"}/run.json`, "utf8"));
	const server = (pids as number[]).find((pid) => readFileSync(`/proc/${pid}/cmdline`, "utf8").includes("next"));
	process.kill(server as number, "SIGKILL");
	expect(await done(id)).toBe(quiet);
});
