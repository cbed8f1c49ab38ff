/** The land by its ledger: a preset, what happened to it, where, in which order, by hand in the frame and in the plan. */
import { readFileSync } from "node:fs";
import { expect } from "@playwright/test";
import { encode } from "fast-png";
import { unzipSync } from "fflate";
import { newPiece } from "../src/core/doc/defaults.ts";
import { type Ground, LandEntry } from "../src/core/doc/schema.ts";
import { readExr } from "../src/core/formats/exr.ts";
import { groundHeight, waterInLand } from "../src/core/ground/height.ts";
import { landSquare } from "../src/core/ground/landSquare.ts";
import { newEntry } from "../src/core/ground/ledger/ledger.ts";
import { frameOfView, project, rayThrough } from "../src/core/lens/camera.ts";
import { settleLand } from "../src/core/scene/compileLand.ts";
import { NO_MAKERS } from "../src/core/scene/inputs.ts";
import { nodeLand } from "../src/makers/wear/node.ts";
import {
	accessible,
	drag,
	dropFiles,
	emptyPlace,
	inFrame,
	keptDocument,
	middleOf,
	newShot,
	number,
	open,
} from "./hands.ts";
import { test } from "./held.ts";
import { served } from "./server.ts";

/** Makes here what the land needs that is not told by one place alone. */
async function settle(ground: Ground): Promise<void> {
	const steps = settleLand(ground, { ...NO_MAKERS, land: nodeLand() });
	for (let step = steps.next(); !step.done; ) step = steps.next(await step.value);
}

test("a land is picked, levelled where the hand drags it, benched, put in order, struck out and taken back", async ({
	page,
}) => {
	const at = await emptyPlace(page, "Land", { position: [0, 9, 0], pitchDeg: -12 });
	await open(page, "Ground");
	const ground = async () => (await keptDocument(page)).ground;
	const entries = async (): Promise<LandEntry[]> => (await ground()).ledger ?? [];
	await page.getByRole("radio", { name: "moor" }).click();
	// Level land rises when a preset is picked, so that it shows what it is.
	await expect.poll(async () => (await ground()).heightM).toBe(40);
	await number(page, "Height").fill("0");
	await number(page, "Height").press("Enter");
	await expect.poll(async () => (await ground()).heightM).toBe(0);

	await page.getByRole("button", { name: "Swell", exact: true }).click();
	await expect.poll(async () => (await entries())[0]?.kind).toBe("swell");
	const lines = page.getByTestId("land-entry");
	await expect(lines).toHaveCount(1);
	await number(page, "Across").fill("30");
	await number(page, "Across").press("Enter");
	await expect(lines.first()).toContainText("30 m across");
	await accessible(page);

	// A place before the lens is levelled; its middle is dragged over the land, its ring made wider.
	await page.getByRole("button", { name: "Level off", exact: true }).click();
	await expect(lines).toHaveCount(2);
	const place = async () =>
		(await entries()).find((e): e is Extract<LandEntry, { kind: "level" }> => e.kind === "level");
	await expect.poll(place).toMatchObject({ x: 0, z: -40, radiusM: 8 });
	const from = await middleOf(page, "land-place--1");
	await drag(page, from, await at(6, 0, -30));
	await expect.poll(async () => Math.abs(((await place())?.z ?? 0) + 30)).toBeLessThan(3);
	await expect.poll(async () => Math.abs(((await place())?.x ?? 0) - 6)).toBeLessThan(1.5);
	const now = (await place()) as NonNullable<Awaited<ReturnType<typeof place>>>;
	await drag(page, await at(now.x - 8, 0, now.z), await at(now.x - 12, 0, now.z));
	await expect.poll(async () => Math.abs(((await place())?.radiusM ?? 0) - 12)).toBeLessThan(1);
	expect(groundHeight(await ground(), now.x + 3, now.z - 2)).toBe(0);

	// In the plan as well, up to farther away.
	const [x, y] = await middleOf(page, "plan-place--1");
	await drag(page, [x, y], [x, y - 12]);
	await expect.poll(async () => (await place())?.z ?? 0).toBeLessThan(now.z - 1);
	expect((await place())?.radiusM).toBeCloseTo(12, 0);
	await page.keyboard.press("Control+z");
	await expect.poll(async () => (await place())?.z).toBe(now.z);

	// What happened later comes after: the swell is told last, and the place is not level any more.
	await page.getByRole("button", { name: "Swell later" }).click();
	await expect.poll(async () => (await entries()).map((e) => e.kind)).toEqual(["level", "swell"]);
	const spread = async () => {
		const land = await ground();
		const all = Array.from({ length: 20 }, (_, i) => groundHeight(land, now.x - 4 + (i % 5) * 2, now.z - 4 + i * 0.4));
		return Math.max(...all) - Math.min(...all);
	};
	expect(await spread()).toBeGreaterThan(0.05);
	await page.keyboard.press("Control+z");
	await expect.poll(async () => (await entries()).map((e) => e.kind)).toEqual(["swell", "level"]);

	// Only where it is said: not on the heights, turned round by a click on the words.
	await page.getByRole("button", { name: "Between heights" }).click();
	await page.getByRole("switch", { name: /between 5 and 60 m/ }).click();
	await expect.poll(async () => (await place())?.where).toMatchObject([{ kind: "between heights", not: true }]);
	await page.getByRole("button", { name: "Strike it out" }).click();
	await expect.poll(async () => (await place())?.out).toBe(true);
	await page.keyboard.press("Delete");
	await expect.poll(async () => (await entries()).length).toBe(1);
});

test("land wears in the page as it does in the press, and handles lie on what is left", async ({ page }) => {
	const at = await emptyPlace(
		page,
		"Worn",
		{ position: [0, 30, 60], pitchDeg: -16 },
		[],
		[{ name: "ground.set", preset: "ridges", heightM: 90, seed: 5 }],
	);
	await open(page, "Ground");
	const ground = async () => (await keptDocument(page)).ground;
	await page.getByRole("button", { name: "Wear by water", exact: true }).click();
	await expect(page.getByTestId("land-entry").first()).toContainText("rain cut it by 40 %");
	for (const [name, value] of [
		["Fineness", "7"],
		["Cut", "90"],
		["Away", "90"],
	]) {
		await number(page, name).fill(value);
		await number(page, name).press("Enter");
	}
	await expect.poll(async () => (await ground()).ledger?.[0]).toMatchObject({ fineness: 7, power: 0.9, z: -90 });
	const land = await ground();
	const bare = groundHeight({ ...land, ledger: [] }, 0, -90);
	await settle(land);
	const worn = groundHeight(land, 0, -90);
	expect(Math.abs(worn - bare)).toBeGreaterThan(0.5);
	const [, y] = await at(0, worn, -90);
	await expect
		.poll(async () => Math.abs((await middleOf(page, "land-place--1"))[1] - y), { timeout: 120_000 })
		.toBeLessThan(1.5);
});

test("the land is shaped by hand in the frame and the plan; each stroke is undone by itself", async ({ page }) => {
	const shed = newPiece("shed", "box", { name: "Shed", position: [0, 0, -40], size: [4, 3, 3] });
	const at = await emptyPlace(page, "By hand", { position: [0, 6, 0], pitchDeg: -10 }, [shed]);
	await open(page, "Ground");
	const strokes = async () => {
		const entry = (await keptDocument(page)).ground.ledger?.[0];
		return entry?.kind === "hand" ? entry.strokes : [];
	};
	const height = async (x: number, z: number) => groundHeight((await keptDocument(page)).ground, x, z);
	await page.getByRole("radio", { name: "Raise" }).click();
	await page.mouse.move(...(await at(0, 0, -20)));
	await expect(page.getByTestId("land-brush")).toBeVisible();
	await expect(page.getByTestId("plan-brush")).toBeVisible();
	await accessible(page);
	// Wider by its key, as strong as is typed.
	await page.keyboard.press("+");
	await expect(number(page, "Radius")).toHaveValue("7.2");
	await page.keyboard.press("-");
	// While Shift is held its rim is at the pointer, while Alt is held up is stronger; the ring stays where it lies.
	await page.keyboard.down("Shift");
	await page.mouse.move(...(await at(9, 0, -20)), { steps: 3 });
	await page.keyboard.up("Shift");
	await expect.poll(async () => Number(await number(page, "Radius").inputValue())).toBeCloseTo(9, 0);
	await page.keyboard.down("Alt");
	const [bx, by] = await at(9, 0, -20);
	await page.mouse.move(bx, by - 40, { steps: 4 });
	await page.keyboard.up("Alt");
	await expect.poll(async () => Number(await number(page, "Rises by").inputValue())).toBeGreaterThan(1.4);
	await number(page, "Radius").fill("6");
	await number(page, "Radius").press("Enter");
	await number(page, "Rises by").fill("5");
	await number(page, "Rises by").press("Enter");
	// Drawn across before the shed, it tells what it begins to hide.
	await page.mouse.move(...(await at(-6, 0, -20)));
	await page.mouse.down();
	await page.mouse.move(...(await at(-2, 0, -20)), { steps: 2 });
	await page.mouse.move(...(await at(1, 0, -20)), { steps: 2 });
	await expect(page.getByText(/hides Shed from its foot up to \d/)).toBeVisible();
	await page.mouse.move(...(await at(6, 0, -20)), { steps: 2 });
	await page.mouse.up();
	await expect.poll(strokes).toHaveLength(1);
	expect((await strokes())[0]).toMatchObject({ tool: "raise", radiusM: 6, byM: 5 });
	expect((await strokes())[0].points.length).toBeGreaterThan(3);
	expect(await height(0, -20)).toBeGreaterThan(4.5);
	expect(await height(0, -40)).toBe(0);
	await expect(page.getByTestId("land-entry")).toContainText("shaped by hand, 1 stroke");

	// A tap in the plan goes to the same entry.
	await page.getByRole("radio", { name: "Lower" }).click();
	const plan = (await page.getByTestId("plan").boundingBox()) ?? { x: 0, y: 0, width: 0, height: 0 };
	await page.mouse.click(plan.x + plan.width / 2, plan.y + plan.height / 3);
	await expect.poll(strokes).toHaveLength(2);
	const [, tap] = await strokes();
	expect(tap).toMatchObject({ tool: "lower", points: [expect.anything()] });
	expect(await height(...tap.points[0])).toBeLessThan(-4);
	await page.keyboard.press("Control+z");
	await expect.poll(strokes).toHaveLength(1);

	// Rain wears what was raised, along the stroke; another one goes to the same entry.
	await page.getByRole("radio", { name: "Wear", exact: true }).click();
	const rain = async () => (await keptDocument(page)).ground.ledger?.[1];
	const lines = async () => {
		const where = (await rain())?.where[0];
		return where?.kind === "along lines" ? where.lines.length : 0;
	};
	for (const [n, x] of [-5, 3].entries()) {
		await page.mouse.move(...(await at(x, 3, -20)));
		await page.mouse.down();
		await page.mouse.move(...(await at(x + 3, 3, -19)), { steps: 2 });
		await page.mouse.up();
		await expect.poll(lines, { timeout: 120_000 }).toBe(n + 1);
	}
	expect(await rain()).toMatchObject({ kind: "water", power: 0.4 });
	await page.keyboard.press("Control+z");
	await expect.poll(lines).toBe(1);
	await page.keyboard.press("Control+z");
	await expect.poll(async () => (await keptDocument(page)).ground.ledger).toHaveLength(1);
	await page.getByRole("radio", { name: "Lower" }).click();
	await page.keyboard.press("Escape");
	await expect(page.getByRole("radio", { name: "Lower" })).not.toBeChecked();
	await expect(page.getByTestId("land-brush")).toHaveCount(0);
});

test("a path is laid, led by its points, given one more and relieved of one, and tells what it cuts", async ({
	page,
}) => {
	const at = await emptyPlace(
		page,
		"Path",
		{ position: [0, 12, 0], pitchDeg: -16 },
		[],
		[
			{
				name: "ground.addEntry",
				entry: LandEntry.parse({ ...newEntry("level", "hill", 0, -45), radiusM: 12, atM: 4 }),
			},
		],
	);
	await open(page, "Ground");
	const path = async () => {
		const entry = (await keptDocument(page)).ground.ledger?.find((e) => e.kind === "path");
		return entry?.kind === "path" ? entry : null;
	};
	await page.getByRole("button", { name: "Lay a path", exact: true }).click();
	await expect.poll(path).toMatchObject({ widthM: 3 });
	await expect(page.getByText(/^\d+ m long/)).toBeVisible();
	// Its far end is dragged up the hill: it climbs as its grade lets it, and cuts.
	await drag(page, await middleOf(page, "land-point-2"), await at(4, 4, -45));
	await expect.poll(async () => Math.abs(((await path())?.points[2][0] ?? 0) - 4)).toBeLessThan(2);
	await expect(page.getByText(/cuts \d\.\d m deep at \d+ m/)).toBeVisible();
	const { ground } = await keptDocument(page);
	const [x, z] = ground.ledger?.[1]?.kind === "path" ? ground.ledger[1].points[1] : [0, 0];
	expect(Math.abs(groundHeight(ground, x + 0.5, z) - groundHeight(ground, x - 0.5, z))).toBeLessThan(0.02);
	// A press on the line sets a point, Delete takes it out again.
	const line = await page.getByTestId("land-line").boundingBox();
	const points = (await path())?.points ?? [];
	const [ax, az] = [(points[1][0] + points[2][0]) / 2, (points[1][1] + points[2][1]) / 2];
	expect(line).not.toBeNull();
	const on = await at(ax, groundHeight(ground, ax, az), az);
	await drag(page, on, [on[0] + 30, on[1]]);
	await expect.poll(async () => (await path())?.points.length).toBe(4);
	await page.keyboard.press("Delete");
	await expect.poll(async () => (await path())?.points.length).toBe(3);
	await page.keyboard.press("Control+z");
	await page.keyboard.press("Control+z");
	await expect.poll(async () => (await path())?.points).toEqual(points);
});

test("a line is drawn over the frame, far land meets it, and follows its points", async ({ page }) => {
	await emptyPlace(
		page,
		"Skyline",
		{ position: [0, 3, 0], pitchDeg: 4 },
		[],
		[{ name: "ground.set", preset: "moor", heightM: 30, seed: 2 }],
	);
	await open(page, "Ground");
	const skyline = async () => {
		const entry = (await keptDocument(page)).ground.ledger?.[0];
		return entry?.kind === "skyline" ? entry : null;
	};
	await page.getByRole("button", { name: "Draw a skyline" }).click();
	const line: [number, number][] = [
		[0.1, 0.45],
		[0.3, 0.32],
		[0.5, 0.4],
		[0.9, 0.36],
	];
	await page.mouse.move(...(await inFrame(page, ...line[0])));
	await page.mouse.down();
	for (const [x, y] of line.slice(1)) await page.mouse.move(...(await inFrame(page, x, y)));
	await page.mouse.up();
	await expect.poll(async () => (await skyline())?.line.length).toBe(4);
	await expect(page.getByText(/meets the line within 0\.\d m at its distance/)).toBeVisible();
	// Where the land ends in the picture, in the middle of the third stretch.
	const { ground, camera } = await keptDocument(page);
	const view = frameOfView(camera);
	const [dx, , dz] = rayThrough(view, 0.7, 0.38);
	const [ex, , ez] = camera.position;
	const tops = Array.from({ length: 900 }, (_, i) => {
		const far = 150 * 1.005 ** i;
		const [x, z] = [ex + (dx * far) / Math.hypot(dx, dz), ez + (dz * far) / Math.hypot(dx, dz)];
		return project(view, [x, groundHeight(ground, x, z), z]).y;
	});
	expect(Math.abs(Math.min(...tops) - 0.38)).toBeLessThan(0.004);
	// A point of it is dragged; undone, the line is as it was drawn.
	const before = (await skyline())?.line ?? [];
	const point = await middleOf(page, "skyline-point-1");
	await drag(page, point, [point[0], point[1] - 40]);
	await expect.poll(async () => (await skyline())?.line[1][1]).toBeGreaterThan(before[1][1] + 0.02);
	await page.keyboard.press("Control+z");
	await expect.poll(async () => (await skyline())?.line).toEqual(before);
	await page.keyboard.press("Control+z");
	await expect.poll(skyline).toBeNull();
});

test("a lens that the land has risen over is told so, and lifted; the land is saved as files", async ({ page }) => {
	const id = await newShot("Risen", [{ name: "ground.set", preset: "plain", levelM: 12 }]);
	await page.goto(`${served().url}/shot/${id}`);
	await open(page, "Ground");
	await expect(page.getByText(/The lens lies 10\.\d m under the ground/)).toBeVisible();
	await page.getByRole("button", { name: "Lift it to the height of the eyes" }).click();
	await expect(page.getByText(/under the ground/)).toHaveCount(0);
	const liftedM = async () => {
		const { camera, match } = await keptDocument(page);
		return camera.position[1] - match.eyeHeightM;
	};
	await expect.poll(liftedM).toBeCloseTo(12, 3);
	const { camera, ground } = await keptDocument(page);

	// The land goes out as it lies.
	const pixels = async (side: string) => {
		await number(page, "Pixels of a side").fill(side);
		await number(page, "Pixels of a side").press("Enter");
	};
	// Much of it is given up, from the step that was left meanwhile as well.
	await pixels("8192");
	await page.getByRole("button", { name: "Save them as one file" }).click();
	await open(page, "Dress");
	await open(page, "Ground");
	await page.getByRole("button", { name: "Give up" }).click();
	await pixels("64");
	await page.getByRole("button", { name: "triangles", exact: true }).click();
	const [file] = await Promise.all([
		page.waitForEvent("download"),
		page.getByRole("button", { name: "Save them as one file" }).click(),
	]);
	const files = unzipSync(readFileSync(await file.path()));
	expect(Object.keys(files).sort()).toEqual(["flow.png", "heights.exr", "land.json", "land.obj", "slope.png"]);
	const [x, , z] = camera.position;
	const { heights } = landSquare(ground, { x, z, metres: 1000, size: 64 });
	expect([...(readExr(files["heights.exr"]).channels[0].data as Float32Array)]).toEqual([...heights]);
});

test("a height map is laid over the land by its file, led by its corners, smoothed, refused in words where it is none", async ({
	page,
}) => {
	const id = await newShot("Laid", [{ name: "ground.set", preset: "plain", heightM: 0 }]);
	await page.goto(`${served().url}/shot/${id}`);
	await open(page, "Ground");
	const entry = async () => {
		const [own] = (await keptDocument(page)).ground.ledger ?? [];
		return own?.kind === "map" ? own : null;
	};
	// A hill of 8 bits, 32 pixels wide.
	const data = Uint8Array.from({ length: 32 * 32 }, (_, at) => {
		const r = Math.hypot((at % 32) - 15.5, Math.floor(at / 32) - 15.5) / 16;
		return 255 * Math.max(0, 1 - r * r);
	});
	const hill = Buffer.from(encode({ width: 32, height: 32, channels: 1, depth: 8, data }));
	const input = page.getByTestId("lay-map");
	await input.setInputFiles({ name: "nothing.png", mimeType: "image/png", buffer: Buffer.from("no picture at all") });
	await expect(page.getByText(/nothing\.png: This file is no picture of heights/)).toBeVisible();
	await input.setInputFiles({ name: "hill.png", mimeType: "image/png", buffer: hill });
	await expect(page.getByText("1. hill was laid over 1000 m, 0 to 100 m high")).toBeVisible();
	await expect(
		page.getByText(/32 × 32 px, one every 31 m. Its 8 bits have steps of 0\.39 m, which will show/),
	).toBeVisible();
	// The page knows the land as it is now.
	await expect(page.getByText(/The lens lies 9\d\.\d m under the ground/)).toBeVisible();
	await page.getByLabel("Steps of few bits").selectOption("smoothed");
	await expect(page.getByText(/smoothed within half of one/)).toBeVisible();
	await expect.poll(async () => (await entry())?.steps).toBe("smoothed");
	// Its corner is dragged over the land: it becomes smaller and turns.
	await number(page, "Across").fill("30");
	await number(page, "Across").press("Enter");
	await expect.poll(async () => (await entry())?.acrossM).toBe(30);
	const from = await middleOf(page, "land-corner-0");
	await drag(page, from, [from[0] + 60, from[1]]);
	await expect.poll(async () => (await entry())?.acrossM).toBeLessThan(28);
	expect(Math.abs((await entry())?.headingDeg ?? 0)).toBeGreaterThan(2);
	await page.keyboard.press("Control+z");
	await expect.poll(async () => (await entry())?.acrossM).toBe(30);
	// All of it is there again after a reload, and goes with the entry.
	await page.reload();
	await open(page, "Ground");
	await expect(page.getByText(/hill was laid over 30 m/)).toBeVisible();
	await page.getByRole("button", { name: "Another ground behind" }).click();
	await page.getByLabel("What lies there").selectOption("cliffs");
	await expect(page.getByText("2. beyond 1500 m lies cliffs, 600 m high")).toBeVisible();
	// A height map dropped while the land is worked on is laid over it.
	await dropFiles(page, [{ name: "dropped.png", bytes: hill }]);
	await expect(page.getByText(/3\. dropped was laid over 1000 m/)).toBeVisible();
	await accessible(page);
});

test("ponds fill the hollows before the lens, a river is led by its points, and water is told under the pointer", async ({
	page,
}) => {
	const id = await newShot("Waters", [{ name: "ground.set", preset: "plain", heightM: 0 }]);
	await page.goto(`${served().url}/shot/${id}`);
	await open(page, "Ground");
	const ledger = async () => (await keptDocument(page)).ground.ledger ?? [];
	await page.getByRole("button", { name: "Ponds", exact: true }).click();
	await expect(page.getByText("No hollow here is 0.15 m deep: dig one, or lower the land by hand.")).toBeVisible();
	await number(page, "Dug by").fill("2");
	await number(page, "Dug by").press("Enter");
	await expect(page.getByText(/^One pond, about \d\d m across and 1\.7 m deep\.$/)).toBeVisible();
	await expect.poll(async () => waterInLand((await keptDocument(page)).ground, 0, -40)).toBeCloseTo(-0.3, 1);
	// Undone it is dry again.
	const [x, y] = await inFrame(page, 0.5, 0.5);
	await expect(page.getByTestId("land-place--1")).toBeVisible();
	await page.keyboard.press("Control+z");
	await expect(page.getByText(/No hollow here/)).toBeVisible();
	await page.keyboard.press("Control+Shift+z");
	await page.getByRole("button", { name: "Lead a river", exact: true }).click();
	await expect(page.getByText(/^\d+ m long, falls \d\.\d m/)).toBeVisible();
	// Its first point is dragged.
	const points = async () => {
		const river = (await ledger()).find((e) => e.kind === "river");
		return river?.kind === "river" ? river.points : [];
	};
	const before = await points();
	await drag(page, await middleOf(page, "land-point-0"), [x - 60, y + 30]);
	await expect.poll(async () => (await points())[0]?.[0]).not.toBe(before[0][0]);
	await accessible(page);
});

test("a rough form becomes land: of a file, and of a piece that is picked, which is left out then", async ({
	page,
}) => {
	const block = newPiece("block", "cone", { name: "Block", position: [0, 0, -24], size: [12, 6, 12] });
	const id = await newShot("Formed", [
		{ name: "ground.set", preset: "plain", heightM: 0 },
		{ name: "piece.add", pieces: [block] },
	]);
	await page.goto(`${served().url}/shot/${id}`);
	await open(page, "Mass");
	await page.mouse.click(...(await inFrame(page, 0.42, 0.55)));
	await open(page, "Ground");
	await page.getByRole("button", { name: "Form of Block" }).click();
	await expect(page.getByText(/1\. Block was laid over 12 m, 0 to 6 m high/)).toBeVisible();
	const ground = async () => (await keptDocument(page)).ground;
	await expect.poll(async () => (await keptDocument(page)).pieces.find((p) => p.id === "block")?.hidden).toBe(true);
	// Detail on top keeps the form, and it is told how closely.
	await page.getByRole("button", { name: "Swell", exact: true }).click();
	await page.getByRole("button", { name: /^1\. Block was laid/ }).click();
	await expect(page.getByText(/What happened since moved it by \d\.\d\d m in the mean square/)).toBeVisible();
	const obj = "v -9 0 -60\nv 9 0 -60\nv 9 5 -80\nv -9 5 -80\nf 1 2 3\nf 1 3 4\n";
	await page
		.getByTestId("lay-form")
		.setInputFiles({ name: "note.obj", mimeType: "text/plain", buffer: Buffer.from("?") });
	await expect(page.getByText(/note\.obj: This file is no mesh that can be read/)).toBeVisible();
	await page
		.getByTestId("lay-form")
		.setInputFiles({ name: "ramp.obj", mimeType: "text/plain", buffer: Buffer.from(obj) });
	await expect(page.getByText(/3\. ramp was laid over 20 m, 0 to 5 m high/)).toBeVisible();
	await expect.poll(async () => (await ground()).ledger?.length).toBe(3);
});
