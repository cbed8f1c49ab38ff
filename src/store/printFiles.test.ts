import { mkdtempSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import sharp from "sharp";
import { afterAll, describe, expect, it } from "vitest";
import { blankShot } from "../core/doc/defaults.ts";
import type { Finish } from "../core/doc/schema.ts";
import { ExrError, readExr } from "../core/formats/exr.ts";
import { NO_CHARACTER } from "../core/lens/character.ts";
import type { Area } from "../core/maths/area.ts";
import { emptyPicture, type Picture } from "../core/scene/picture.ts";
import {
	type BytesAt,
	depthPng,
	exrForOthers,
	finishedPixels,
	openPrintBytes,
	openPrintFile,
	pictureNames,
	printPng,
	shownLines,
	withPrintAt,
	withSteady,
} from "./printFiles.ts";
import { type CleanLight, ExrFileWriter, PrintWriter, pixelsSha256, type Rgb } from "./printWriter.ts";

const folder = mkdtempSync(join(tmpdir(), "inquadra-test-"));
afterAll(() => rmSync(folder, { recursive: true }));
const { camera, finish } = blankShot();

/** Values that tell their plane and place. */
function filled(width: number, height: number, from = 0, lights: string[] = []): Picture {
	const p = emptyPicture(width, height, lights);
	const fill = (plane: Float32Array | Uint32Array, k: number) => {
		for (let i = 0; i < plane.length; i++) plane[i] = k * 1000 + from * width + i;
	};
	[...p.rgb, ...p.albedo, ...p.normal, p.depth, p.id, p.counts, p.error].forEach(fill);
	p.masks.forEach((m, k) => {
		fill(m.id, 20 + k);
		m.cover.fill(0.25);
	});
	return p;
}
const cleanOf = (p: Picture): CleanLight => {
	const without = (rgb: Rgb) => rgb.map((c) => c.map((v) => v + 0.5)) as Rgb;
	return {
		rgb: without(p.rgb),
		layers: p.light ? [...p.light.lights.map((l) => l.rgb), p.light.fog].map(without) : [],
	};
};
const plan = (width: number, height: number, lights: string[] = []) => ({
	frame: { width: width + 10, height: height + 10 },
	area: { x: 3, y: 5, width, height },
	part: { x: 3, y: 5, width, height },
	text: { title: "Strips" },
	lights,
	camera,
	finish,
});

/** A file of some strips, and what its writer says of it. */
async function written(name: string, width: number, strips: number[], lights: string[] = []) {
	const path = join(folder, name);
	const height = strips.reduce((n, rows) => n + rows, 0);
	const writer = await PrintWriter.create(path, plan(width, height, lights));
	let y = 0;
	for (const rows of strips) {
		const strip = filled(width, rows, y, lights);
		await writer.strip(y, strip, cleanOf(strip));
		y += rows;
	}
	return { path, ...(await writer.end()) };
}

describe("a print that is written in strips", () => {
	it("is the file, and has the digest, of one that is written at once", async () => {
		const many = await written("many.exr", 21, [32, 32, 11]);
		const one = await written("one.exr", 21, [75]);
		expect(readFileSync(many.path).equals(readFileSync(one.path))).toBe(true);
		expect(many.pixelsSha256).toBe(one.pixelsSha256);
		expect(many.pixelsSha256).toBe(pixelsSha256(filled(21, 75)));
		expect(many.pixelsSha256).not.toBe(pixelsSha256(filled(21, 75, 1)));
		expect(many.thumbnail.equals(one.thumbnail)).toBe(true);
		const exr = readExr(readFileSync(one.path));
		expect(exr.window).toEqual({ x: 3, y: 5, width: 31, height: 85 });
		expect(exr.channels.find((c) => c.name === "G")?.data).toEqual(filled(21, 75).rgb[1]);
		expect(exr.channels.find((c) => c.name === "clean.B")?.data).toEqual(cleanOf(filled(21, 75)).rgb[2]);
		expect(exr.channels.find((c) => c.name === "mask2.cover")).toMatchObject({ half: true });
	});

	it("has a small picture of it that is at most 1,279 pixels wide before it is made smaller", async () => {
		const { thumbnail } = await written("wide.exr", 2600, [16, 9]);
		expect(await sharp(thumbnail).metadata()).toMatchObject({ format: "png", width: 640 });
	});

	it("keeps its layers of light", async () => {
		const { path } = await written("lights.exr", 8, [16, 4], ["sun", "sky"]);
		expect(readExr(readFileSync(path)).channels.map((c) => c.name)).toEqual(
			expect.arrayContaining(["light.sky.B", "light.sun.R", "fog.G", "openness"]),
		);
	});
});

describe("a print that is read a few lines at a time", () => {
	it("gives its lines in order, and reads no more of the file than they lie in", async () => {
		const { path } = await written("lines.exr", 30, [48, 20]);
		const file = readFileSync(path);
		const asked: [number, number][] = [];
		const bytesAt: BytesAt = async (from, to) => {
			asked.push([from, to]);
			return file.subarray(from, to);
		};
		const print = await openPrintFile(bytesAt, file.length);
		expect(asked).toHaveLength(1);
		let y = 0;
		for await (const lines of print.lines(["Z", "nothing"])) {
			expect(lines.y).toBe(y);
			expect([...lines.planes.keys()]).toEqual(["Z"]);
			expect(lines.planes.get("Z")).toEqual(filled(30, 68).depth.subarray(y * 30, (y + lines.rows) * 30));
			y += lines.rows;
		}
		expect(y).toBe(68);
		asked.length = 0;
		expect((await print.line(40)).get("R")).toEqual(filled(30, 68).rgb[0].subarray(40 * 30, 41 * 30));
		await print.line(41);
		expect(asked).toHaveLength(1);
		expect(asked[0][1] - asked[0][0]).toBeLessThan(file.length / 3);
	});

	it("says when it is cut off or damaged, and where", async () => {
		const { path } = await written("cut.exr", 30, [48]);
		const file = readFileSync(path);
		await expect(openPrintBytes(file.subarray(0, 60))).rejects.toThrow(ExrError);
		const cut = await openPrintBytes(file.subarray(0, file.length - 100));
		const all = async () => {
			for await (const _ of cut.lines(["R"]));
		};
		await expect(all()).rejects.toThrow(ExrError);
		const swapped = Buffer.from(file);
		const [first, second] = [0, 8].map((k) => swapped.readBigUInt64LE(tableAt(file) + k));
		swapped.writeBigUInt64LE(second, tableAt(file));
		swapped.writeBigUInt64LE(first, tableAt(file) + 8);
		await expect(openPrintBytes(swapped)).rejects.toThrow(/not in order/);
	});

	it("gives the picture with its neighbours taken in as if it were a part of the file, where it is opened with that", async () => {
		const { path } = await written("steadied.exr", 24, [32, 8]);
		const beside = join(folder, "steady.exr");
		const light = (c: string, k: number) => ({
			name: `steady.${c}`,
			data: new Float32Array(24 * 40).fill(k),
			half: true,
		});
		const channels = [light("R", 1), light("G", 2), light("B", 3)];
		const writer = await ExrFileWriter.create(beside, channels, 24, 40, {});
		await writer.lines(channels, 40);
		await writer.end();
		await withPrintAt(path, (own) =>
			withPrintAt(beside, async (steady) => {
				const file = withSteady(own, steady);
				expect(pictureNames(file, true)).toEqual(["steady.R", "steady.G", "steady.B"]);
				expect(pictureNames(file, false)).toEqual(["R", "G", "B"]);
				expect(pictureNames(own, true)).toEqual(["clean.R", "clean.G", "clean.B"]);
				expect((await file.line(17)).get("steady.G")?.[5]).toBe(2);
				expect((await file.line(17)).get("R")).toEqual((await own.line(17)).get("R"));
				let rows = 0;
				for await (const lines of file.lines(["steady.B", "Z"])) {
					expect([...lines.planes.keys()].sort()).toEqual(["Z", "steady.B"]);
					expect(new Set(lines.planes.get("steady.B"))).toEqual(new Set([3]));
					rows += lines.rows;
				}
				expect(rows).toBe(40);
			}),
		);
	});

	it("gives its picture with or without noise, its depth, and a file for others", async () => {
		const { path } = await written("others.exr", 24, [32, 8]);
		await withPrintAt(path, async (print) => {
			expect(pictureNames(print, true)).toEqual(["clean.R", "clean.G", "clean.B"]);
			expect(pictureNames(print, false)).toEqual(["R", "G", "B"]);
			const png = sharp(await printPng(print, true, camera, finish));
			expect(await png.metadata()).toMatchObject({ width: 24, height: 40, channels: 3 });
			const grey = await sharp((await depthPng(print, 9000, 9960, finish)) as Buffer)
				.toColourspace("grey16")
				.raw({ depth: "ushort" })
				.toBuffer();
			const first = new Uint16Array(grey.buffer, grey.byteOffset, 2);
			expect(first[0]).toBeGreaterThan(first[1]);
			const other = join(folder, "half.exr");
			await exrForOthers(other, print, camera, { half: true, places: true });
			const exr = readExr(readFileSync(other));
			expect(exr.channels.find((c) => c.name === "R")?.half).toBe(true);
			expect(exr.channels.find((c) => c.name === "Z")?.half).toBeUndefined();
			expect(exr.channels.map((c) => c.name)).toEqual(expect.arrayContaining(["P.X", "P.Y", "P.Z", "facing"]));
		});
	});

	it("has its layers of light with and without noise, where it has layers", async () => {
		const { path } = await written("lights.exr", 12, [32, 4], ["sun", "lamp"]);
		await withPrintAt(path, async (print) => {
			for (const light of ["light.sun", "light.lamp", "fog"]) {
				expect(pictureNames(print, false, light)).toEqual([`${light}.R`, `${light}.G`, `${light}.B`]);
				const names = pictureNames(print, true, light);
				expect(names[0]).toBe(`clean.${light}.R`);
				for await (const { planes } of print.lines([`${light}.G`, names[1]])) {
					const [noisy, clean] = [planes.get(`${light}.G`), planes.get(names[1])];
					expect(clean?.every((v, i) => v === Math.fround((noisy?.[i] ?? 0) + 0.5))).toBe(true);
				}
			}
		});
		const { path: bare } = await written("bare.exr", 12, [32]);
		await withPrintAt(bare, async (print) =>
			expect(pictureNames(print, true, "light.sun")).toEqual(["light.sun.R", "light.sun.G", "light.sun.B"]),
		);
	});

	it("shows its frame, or the part that it was ordered for, of all that was traced about it", async () => {
		const beyond = async (name: string, part: Area | null, lens?: Finish["lens"]) => {
			const path = join(folder, name);
			const area = { x: -6, y: -4, width: 44, height: 32 };
			const how = { ...plan(44, 32), frame: { width: 32, height: 24 }, area, part, finish: { ...finish, lens } };
			const writer = await PrintWriter.create(path, how);
			const strip = filled(44, 32, 0);
			await writer.strip(0, strip, cleanOf(strip));
			const { thumbnail } = await writer.end();
			return { path, strip, thumbnail };
		};
		const whole = await beyond("beyond.exr", null);
		expect(await sharp(whole.thumbnail).metadata()).toMatchObject({ width: 32, height: 24 });
		await withPrintAt(whole.path, async (print) => {
			expect(print.part).toEqual({ x: 0, y: 0, width: 32, height: 24 });
			expect(print.window).toEqual({ x: -6, y: -4, width: 32, height: 24 });
			expect(await sharp(await printPng(print, false, camera, finish)).metadata()).toMatchObject({
				width: 32,
				height: 24,
			});
			let y = 0;
			for await (const lines of shownLines(print, ["G"], NO_CHARACTER)) {
				for (let j = 0; j < lines.rows; j++, y++)
					expect(lines.planes[0].subarray(j * 32, (j + 1) * 32)).toEqual(
						whole.strip.rgb[1].subarray((y + 4) * 44 + 6, (y + 4) * 44 + 38),
					);
			}
			expect(y).toBe(24);
			const grey = await sharp((await depthPng(print, 1, 9960, finish)) as Buffer).metadata();
			expect([grey.width, grey.height]).toEqual([32, 24]);
		});
		const part = { x: 10, y: -2, width: 9, height: 20 };
		const some = await beyond("part-beyond.exr", part, { ...NO_CHARACTER, bend: -0.1 });
		expect(await sharp(some.thumbnail).metadata()).toMatchObject({ width: 9, height: 20 });
		await withPrintAt(some.path, async (print) => {
			expect(print.part).toEqual(part);
			const bent = { ...finish, lens: { ...NO_CHARACTER, bend: -0.1 } };
			const [straight, other] = [
				await finishedPixels(print, true, camera, finish),
				await finishedPixels(print, true, camera, bent),
			];
			expect([straight.length, other.length]).toEqual([9 * 20 * 3, 9 * 20 * 3]);
			expect(straight.equals(other)).toBe(false);
			// A file made for others keeps all of it, and what it is to show.
			const copy = join(folder, "copy.exr");
			await exrForOthers(copy, print, camera, { half: true, places: false });
			await withPrintAt(copy, async (again) => expect([again.part, again.window]).toEqual([print.part, print.window]));
		});
	});
	it("may lack what older files do not have", async () => {
		const path = join(folder, "old.exr");
		const channels = ["R", "G", "B"].map((name) => ({ name, data: new Float32Array(6).fill(2) }));
		const writer = await ExrFileWriter.create(path, channels, 3, 2, {});
		await writer.lines(channels, 2);
		await writer.end();
		const print = await openPrintBytes(readFileSync(path));
		expect(pictureNames(print, true)).toEqual(["R", "G", "B"]);
		expect(await depthPng(print, 1, 2, finish)).toBeNull();
	});
});

/** Where the table of blocks begins: after the last attribute's empty name. */
function tableAt(file: Buffer): number {
	let at = 8;
	while (file[at] !== 0) {
		at = file.indexOf(0, at) + 1;
		at = file.indexOf(0, at) + 1;
		at += 4 + file.readUInt32LE(at);
	}
	return at + 1;
}
