import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { validateBytes } from "gltf-validator";
import type pg from "pg";
import sharp from "sharp";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { lanternDocument } from "../demo/checks.ts";
import { blankShot, newPiece } from "../src/core/doc/defaults.ts";
import { EDITS } from "../src/core/doc/edits.ts";
import { readExr } from "../src/core/formats/exr.ts";
import { groundHeight } from "../src/core/ground/height.ts";
import { withFile } from "../src/core/ground/ledger/fromFile.ts";
import { newEntry } from "../src/core/ground/ledger/ledger.ts";
import { getBlob } from "../src/store/blobs.ts";
import { keepLandPicture } from "../src/store/landPictures.ts";
import { createShot, findShot, readShot } from "../src/store/shots.ts";
import { cli, freshDatabase } from "./support.ts";

let pool: pg.Pool;
let url: string;
const folder = mkdtempSync(join(tmpdir(), "inquadra-scripts-"));

beforeAll(async () => {
	({ pool, url } = await freshDatabase("test_scripts"));
});
afterAll(async () => {
	rmSync(folder, { recursive: true });
	await pool.end();
});

const file = (value: unknown): string => {
	const path = join(folder, "file.json");
	writeFileSync(path, typeof value === "string" ? value : JSON.stringify(value));
	return path;
};

describe("shots by script", () => {
	it("are made, edited by a list of named edits, and undone one by one", async () => {
		const made = await cli(url, "new", "A quay at dawn");
		expect(made.answer).toEqual({ id: expect.any(String), title: "A quay at dawn", revision: 0 });
		const id = made.answer.id as string;
		const edits = [
			{ name: "shot.setTitle", title: "Quay" },
			{ name: "piece.add", pieces: [newPiece("shed", "box", { pitchDeg: 4 })] },
			{ name: "piece.turn", pieces: [{ id: "shed", rollDeg: -3 }] },
		];
		expect((await cli(url, "edit", "A quay at dawn", file(edits))).answer).toEqual({ id, revision: 3 });
		const { document, canUndo } = await readShot(pool, id);
		expect(document.pieces.find((p) => p.id === "shed")).toMatchObject({ pitchDeg: 4, rollDeg: -3 });
		expect(canUndo).toBe(true);
		const log = await pool.query("select edit->>'name' as name from edits where shot_id = $1 order by revision", [id]);
		expect(log.rows.map((r) => r.name)).toEqual(edits.map((e) => e.name));
		expect((await cli(url, "edit", id, file([]))).answer).toEqual({ id, revision: 3 });
	});

	it("stay as they are when one edit of a list is refused, and it is said which", async () => {
		const id = (await cli(url, "new", "Whole")).answer.id as string;
		const title = { name: "shot.setTitle", title: "Half" };
		const bad: [unknown, string][] = [
			[{ name: "piece.remove", ids: ["none"] }, "not-found"],
			[{ name: "air.setHaze", haze: 99 }, "bad-edit"],
			[{ name: "path.set" }, "unknown-edit"],
			[{ name: "clip.add", clip: { ...clip, blob: "0".repeat(64) } }, "no-blob"],
			[7, "unknown-edit"],
		];
		for (const [edit, code] of bad) {
			const { code: exit, answer } = await cli(url, "edit", id, file([title, title, edit, title]));
			expect(exit).toBe(1);
			expect(answer).toEqual({ error: { code, message: expect.any(String), at: 2 } });
		}
		expect(await readShot(pool, id)).toMatchObject({ title: "Whole", revision: 0 });
		expect((await cli(url, "edit", id, file({ name: "x" }))).answer.error?.code).toBe("bad-input");
		expect((await cli(url, "edit", id, file("{"))).answer.error?.code).toBe("bad-json");
	});

	const clip = { id: "c", name: "waves", widthPx: 64, heightPx: 36, seconds: 1 };

	it("take files that were kept before", async () => {
		const path = join(folder, "waves.webm");
		writeFileSync(path, Buffer.from([0x1a, 0x45, 0xdf, 0xa3, 1, 2, 3]));
		const kept = await cli(url, "keep", path);
		expect(kept.answer).toEqual({ blob: expect.stringMatching(/^[0-9a-f]{64}$/), bytes: 7 });
		const blob = kept.answer.blob as string;
		expect(await getBlob(pool, blob)).toEqual(readFileSync(path));
		expect((await pool.query("select media_type from blobs where hash = $1", [blob])).rows[0].media_type).toBe(
			"video/webm",
		);
		const id = (await cli(url, "new", "Waves")).answer.id as string;
		expect((await cli(url, "edit", id, file([{ name: "clip.add", clip: { ...clip, blob } }]))).answer.revision).toBe(1);
		expect((await cli(url, "keep", join(folder, "none"))).answer.error?.code).toBe("no-file");
	});

	it("are described by schemas of the document and of every edit", async () => {
		const { answer } = await cli(url, "schema");
		const { version, document, edits } = answer as {
			version: number;
			document: { type: string; properties: Record<string, unknown> };
			edits: Record<string, { label: string; schema: { type: string } }>;
		};
		expect(version).toBe(3);
		expect(Object.keys(document.properties)).toEqual(expect.arrayContaining(["pieces", "camera", "air"]));
		expect(Object.keys(edits).sort()).toEqual(Object.keys(EDITS).sort());
		for (const { label, schema } of Object.values(edits))
			expect([typeof label, schema.type]).toEqual(["string", "object"]);
	});
});

describe("surfaces for other programs", () => {
	it("are told, and baked as pictures that repeat; what is not there is named", async () => {
		const { answer } = await cli(url, "surfaces");
		expect(answer).toContainEqual({ kind: "sand", name: "sand, rippled by wind", family: "ground", metresAcross: 2 });
		const [colour, height] = ["sand.png", "sand.exr"].map((n) => join(folder, n));
		const baked = await cli(
			url,
			"surface",
			"sand",
			"--size",
			"64",
			"--seed",
			"5",
			"--colour",
			colour,
			"--height",
			height,
		);
		expect(baked.answer).toMatchObject({ kind: "sand", size: 64, seed: 5, metresAcross: 2, colour, height });
		expect(await sharp(colour).metadata()).toMatchObject({ width: 64, height: 64, channels: 3 });
		const metres = readExr(new Uint8Array(readFileSync(height))).channels[0].data;
		expect(1000 * Math.min(...metres)).toBeCloseTo((baked.answer as unknown as { leastMm: number }).leastMm, 3);
		// What has been taken finds its own surface again.
		const like = await cli(url, "surfaces", "--find", "ground", "--like", colour);
		expect((like.answer as unknown as { kind: string }[]).slice(0, 3).map((one) => one.kind)).toContain("sand");
		const refused = async (...args: string[]) => (await cli(url, "surface", ...args)).answer.error?.message ?? "";
		expect((await cli(url, "surfaces", "--like", join(folder, "none.png"))).answer.error?.message).toMatch(
			/none\.png cannot be read as a PNG/,
		);
		expect(await refused("felt")).toMatch(/there is no "felt"; there are ashlar, asphalt/);
		expect(await refused("sand", "--size", "100")).toMatch(/a power of two is asked for/);
	});
});

describe("the land for other programs", () => {
	it("is written as heights, masks and triangles that read back as they were; what is not there is named", async () => {
		const id = (await cli(url, "new", "Land")).answer.id as string;
		const entry = { kind: "swell", id: "s", out: false, where: [], seed: 3, sizeM: 40, heightM: 9, rough: 0.4 };
		await cli(url, "edit", id, file([{ name: "ground.addEntry", entry }]));
		const [exr, png, slope, obj] = ["h.exr", "h.png", "slope.png", "land.obj"].map((n) => join(folder, n));
		const square = ["--size", "32", "--metres", "64", "--at", "5,-40"];
		const { answer } = await cli(
			url,
			"land",
			id,
			...square,
			"--heights",
			exr,
			"--mask",
			`slope=${slope}`,
			"--mesh",
			obj,
		);
		const { leastM, mostM } = answer as unknown as { leastM: number; mostM: number };
		expect(answer).toMatchObject({ metresPerPixel: 2, masks: { slope }, at: { x: 5, z: -40 } });
		const heights = readExr(new Uint8Array(readFileSync(exr))).channels[0].data;
		expect([Math.min(...heights), Math.max(...heights)]).toEqual([leastM, mostM]);
		const { ground } = (await findShot(pool, id)).document;
		expect(heights[32 * 10 + 4]).toBe(Math.fround(groundHeight(ground, 5 + 9 - 32, -40 + 21 - 32)));

		// Grey of 16 bits: within half of its step, once it lies between the least and the most again.
		expect((await cli(url, "land", id, ...square, "--heights", png)).answer.error).toBeUndefined();
		const grey = await sharp(png).toColourspace("grey16").raw({ depth: "ushort" }).toBuffer();
		for (let i = 0; i < 32 * 32; i++)
			expect(Math.abs(leastM + (grey.readUInt16LE(2 * i) / 65_535) * (mostM - leastM) - heights[i])).toBeLessThan(
				(0.501 * (mostM - leastM)) / 65_535 + 1e-6,
			);
		expect((await sharp(slope).metadata()).width).toBe(32);
		const both = join(folder, "both.png");
		expect((await cli(url, "land", id, ...square, "--mask", `height,slope=${both}`)).answer.masks).toEqual({
			"height,slope": both,
		});
		const packed = await sharp(both)
			.toColourspace("rgb16")
			.raw({ depth: "ushort" })
			.toBuffer({ resolveWithObject: true });
		expect([packed.info.width, packed.info.channels]).toEqual([32, 3]);
		for (let i = 0; i < 32 * 32; i++) expect(packed.data.readUInt16LE(6 * i)).toBe(grey.readUInt16LE(2 * i));
		expect(readFileSync(obj, "utf8").match(/^v /gm)).toHaveLength(32 * 32);

		const refused = async (...args: string[]) => (await cli(url, "land", id, ...args)).answer.error?.message ?? "";
		expect(await refused(...square, "--mask", "soft=w.png")).toMatch(/no mask "soft"; there are height, slope/);
		expect(await refused("--size", "1", "--metres", "5")).toMatch(/size/);
		expect(await refused("--metres", "5")).toMatch(/size: is asked for/);
		expect(await refused(...square, "--heights", "h.jpg")).toMatch(/an .exr or a .png/);
	});

	it("comes back to its place from the files that it was written to, in another shot", async () => {
		const id = (await cli(url, "new", "Sent")).answer.id as string;
		await cli(url, "edit", id, file([{ name: "ground.set", preset: "moor", heightM: 30 }]));
		const square = ["--size", "64", "--metres", "96", "--at", "12,-50"];
		const [png, exr, again] = ["sent.png", "sent.exr", "again.exr"].map((n) => join(folder, n));
		const { answer } = await cli(url, "land", id, ...square, "--heights", png);
		await cli(url, "land", id, ...square, "--heights", exr);
		const { leastM, mostM } = answer as unknown as { leastM: number; mostM: number };
		const heights = (path: string) => readExr(new Uint8Array(readFileSync(path))).channels[0].data;
		for (const [path, share] of [
			[png, 0.505 / 65_535],
			[exr, 1e-6],
		] as const) {
			const { file: blob, ...facts } = await keepLandPicture(pool, new Uint8Array(readFileSync(path)), "heights");
			const { widthPx, heightPx, bits } = facts;
			const laid = { file: blob, name: "sent", widthPx, heightPx, bits };
			const entry = { ...withFile(newEntry("map", "m", 0, 0), "heights", laid, facts), featherM: 0 };
			const other = (await cli(url, "new", "Received")).answer.id as string;
			expect((await cli(url, "edit", other, file([{ name: "ground.addEntry", entry }]))).answer.error).toBeUndefined();
			expect((await cli(url, "land", other, ...square, "--heights", again)).answer.error).toBeUndefined();
			const [sent, received] = [heights(exr), heights(again)];
			for (let j = 1; j < 63; j++)
				for (let i = 1; i < 63; i++)
					expect(Math.abs(received[64 * j + i] - sent[64 * j + i])).toBeLessThanOrEqual(
						share * (mostM - leastM) + 1e-5,
					);
		}
	});

	it("says which picture it is that it lacks", async () => {
		const id = (await cli(url, "new", "Lacking")).answer.id as string;
		const laid = { file: "7".repeat(64), name: "far range", widthPx: 8, heightPx: 8, bits: 16 };
		const entry = withFile(newEntry("map", "m", 0, 0), "heights", laid, null);
		const refused = (await cli(url, "edit", id, file([{ name: "ground.addEntry", entry }]))).answer.error?.message;
		expect(refused).toMatch(/land picture "far range" has not been kept yet/);
	});

	it("is written as it has worn, with masks of what was taken", async () => {
		const id = (await cli(url, "new", "Worn land")).answer.id as string;
		const place = { out: false, where: [], x: 0, z: -60, radiusM: 80, featherM: 10, fineness: 6 };
		await cli(
			url,
			"edit",
			id,
			file([
				{ name: "ground.set", preset: "moor", heightM: 40 },
				{
					name: "ground.addEntry",
					entry: { id: "r", kind: "water", ...place, seed: 1, power: 0.8, laying: 0.2, restDeg: 40 },
				},
			]),
		);
		const [exr, png] = ["worn.exr", "wear.png"].map((n) => join(folder, n));
		await cli(
			url,
			"land",
			id,
			"--size",
			"48",
			"--metres",
			"120",
			"--at",
			"0,-60",
			"--heights",
			exr,
			"--mask",
			`wear=${png}`,
		);
		const heights = readExr(new Uint8Array(readFileSync(exr))).channels[0].data;
		const { ground } = (await findShot(pool, id)).document;
		// Here nothing has been made of it: the ground is what it was before rain.
		const bare = Array.from(heights, (_, at) =>
			groundHeight({ ...ground, ledger: [] }, ((at % 48) + 0.5) * 2.5 - 60, (Math.floor(at / 48) + 0.5) * 2.5 - 120),
		);
		expect(Math.max(...bare.map((h, at) => h - heights[at]))).toBeGreaterThan(0.3);
		const grey = await sharp(png).toColourspace("grey16").raw({ depth: "ushort" }).toBuffer();
		const wear = Array.from(heights, (_, at) => grey.readUInt16LE(2 * at) / 65_535);
		expect(Math.max(...wear)).toBe(1);
		const most = bare.map((h, at) => h - heights[at]).indexOf(Math.max(...bare.map((h, at) => h - heights[at])));
		expect(wear[most]).toBe(1);
	});
});

describe("the set for other programs", () => {
	it("is written as glTF that has no fault, with instances or without, and as OBJ with its materials", async () => {
		await createShot(pool, lanternDocument(), "set");
		for (const flags of [[], ["--instanced"]]) {
			const file = join(folder, `set${flags.length}.glb`);
			const { answer } = await cli(url, "export", "set", file, ...flags);
			expect(answer.error).toBeUndefined();
			const bytes = new Uint8Array(readFileSync(file));
			expect(answer.bytes).toBe(bytes.length);
			const { issues } = await validateBytes(bytes);
			expect(issues.messages.filter((m) => m.severity === 0)).toEqual([]);
		}
		const { answer } = await cli(url, "export", "set", join(folder, "set.obj"));
		expect(readFileSync(join(folder, "set.obj"), "utf8")).toContain("mtllib set.mtl");
		expect(readFileSync(answer.materials as string, "utf8")).toContain("newmtl material_0");
	});
});

describe("what the frame shows", () => {
	it("is told in shares that are those of a print's ids, and 100 together", async () => {
		await createShot(pool, lanternDocument(), "lantern");
		const { shares } = (await cli(url, "study", "lantern")).answer as {
			shares: {
				number: number;
				id: string;
				name: string;
				percent: number;
				distanceM: number | null;
				triangles: number;
			}[];
		};
		expect(shares.reduce((sum, s) => sum + s.percent, 0)).toBeCloseTo(100, 9);
		expect(shares.map((s) => s.number)).toEqual(shares.map((_, i) => i));
		const out = join(folder, "lantern.exr");
		await cli(url, "print", "lantern", "--out", out, "--width", "240", "--samples", "16");
		const ids = readExr(readFileSync(out)).channels.find((c) => c.name === "id")?.data as Float32Array;
		const counted = new Map<number, number>();
		for (const id of ids) counted.set(id, (counted.get(id) ?? 0) + 100 / ids.length);
		for (const { number, percent } of shares) expect(Math.abs(percent - (counted.get(number) ?? 0))).toBeLessThan(0.35);
		expect(shares.filter((s) => s.percent > 5).length).toBeGreaterThan(2);
		expect(shares.every((s) => s.triangles > 0 === (s.number !== 0 && s.number !== 2))).toBe(true);
		expect(shares.filter((s) => s.percent > 0 && s.number > 2).every((s) => (s.distanceM as number) > 0)).toBe(true);
	});

	it("counts water and sky, and a body that reaches behind the lens for what is seen of it", async () => {
		const doc = blankShot("Quay");
		doc.pieces = [newPiece("quay", "box", { position: [0, -2, 0], stands: "level", size: [4, 2.2, 400] })];
		doc.water = { ...doc.water, on: true, levelM: 0.02 };
		await createShot(pool, doc, "quay");
		const { shares } = (await cli(url, "study", "quay", "--time", "1.5")).answer as { shares: { percent: number }[] };
		const [sky, , water, quay] = shares.map((s) => s.percent);
		// The horizon lies in the middle; the quay's edges run from the lens's foot to the vanishing point.
		expect(sky).toBeCloseTo(50, 0);
		expect(water + quay).toBeCloseTo(50, 0);
		expect(quay).toBeGreaterThan(15);
		expect((await cli(url, "study", "quay", "--time=-1")).answer.error?.code).toBe("bad-input");
	});
});
