import { execFileSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import fc from "fast-check";
import { zlibSync } from "fflate";
import { describe, expect, it } from "vitest";
import { randomStream } from "../maths/hash.ts";
import { type ExrChannel, ExrError, type ExrImage, fromHalf, openExr, readExr } from "./exr.ts";
import { toHalf, writeExr } from "./exrWrite.ts";

const plane = (n: number, seed: number) => {
	const random = randomStream(seed);
	return Float32Array.from({ length: n }, () => (random() - 0.4) * 10 ** (random() * 8 - 4));
};

describe("EXR files of any make", () => {
	it("come back as they went: sizes, names, halves, whole numbers, text", () => {
		fc.assert(
			fc.property(
				fc.integer({ min: 1, max: 70 }),
				fc.integer({ min: 1, max: 50 }),
				fc.uniqueArray(fc.constantFrom("R", "G", "B", "A", "Z", "id", "N.X", "clean.R", "albedo.B", "samples"), {
					minLength: 1,
					maxLength: 10,
				}),
				fc.integer(),
				(width, height, names, seed) => {
					const channels: ExrChannel[] = names
						.sort()
						.map((name, k) =>
							name === "id" || name === "samples"
								? { name, data: Uint32Array.from({ length: width * height }, (_, i) => (i * 2654435761) >>> 0) }
								: k % 3 === 1
									? { name, data: plane(width * height, seed + k).map((v) => fromHalf(toHalf(v))), half: true }
									: { name, data: plane(width * height, seed + k) },
						);
					const text = { title: "Ponds, évening", seed: String(seed) };
					const back = readExr(writeExr({ width, height, channels, text }));
					expect(back).toMatchObject({ width, height, text });
					back.channels.forEach((c, k) => {
						expect(c.name).toBe(channels[k].name);
						expect(c.data).toEqual(channels[k].data);
					});
				},
			),
			{ numRuns: 60 },
		);
	});

	it("keep what is not finite: infinities and not-a-number, in halves too", () => {
		const odd = new Float32Array([Infinity, -Infinity, Number.NaN, -0, 1e38, 1e-40]);
		const back = readExr(writeExr({ width: 6, height: 1, channels: [{ name: "R", data: odd }], text: {} }));
		expect([...back.channels[0].data]).toEqual([...odd]);
		expect([Infinity, -Infinity, 65504, 1e9, Number.NaN].map((v) => fromHalf(toHalf(v)))).toEqual([
			Infinity,
			-Infinity,
			65504,
			Infinity,
			Number.NaN,
		]);
		for (let h = 0; h < 0x10000; h += 7) if ((h & 0x7c00) !== 0x7c00) expect(toHalf(fromHalf(h))).toBe(h);
	});

	it("are read by another program of the standard", () => {
		const folder = mkdtempSync(join(tmpdir(), "inquadra-exr-"));
		try {
			const file = join(folder, "a.exr");
			writeFileSync(
				file,
				writeExr({
					width: 20,
					height: 33,
					channels: [
						{ name: "R", data: plane(660, 1) },
						{ name: "Z", data: plane(660, 2), half: true },
					],
					text: { title: "x" },
				}),
			);
			const told = execFileSync("/usr/bin/exrheader", [file], { encoding: "utf8" });
			expect(told).toMatch(/R, 32-bit floating-point/);
			expect(told).toMatch(/Z, 16-bit floating-point/);
			expect(told).toMatch(/dataWindow.*\(0 0\) - \(19 32\)/s);
		} finally {
			rmSync(folder, { recursive: true, force: true });
		}
	});
});

describe("EXR files of a print", () => {
	it("have the values that another reader finds in them, channel by channel", () => {
		const folder = mkdtempSync(join(tmpdir(), "inquadra-exr-"));
		try {
			const file = join(folder, "print.exr");
			const [width, height] = [37, 21];
			const n = width * height;
			const ids = Uint32Array.from({ length: n }, (_, i) => (i * 7) % 400);
			const channels = [
				{ name: "B", data: plane(n, 3) },
				{ name: "G", data: plane(n, 2) },
				{ name: "R", data: plane(n, 1) },
				{ name: "Z", data: plane(n, 4).map((v) => Math.abs(v) * 900 + 1) },
				{ name: "clean.R", data: plane(n, 5), half: true },
				{ name: "id", data: ids },
				{ name: "mask0.cover", data: plane(n, 6).map((v) => Math.abs(v % 1)), half: true },
				{ name: "mask0.id", data: ids },
			];
			writeFileSync(file, writeExr({ width, height, channels, text: { title: "x" } }));
			const told = execFileSync("/usr/bin/oiiotool", ["--info", "-v", "--stats", file], { encoding: "utf8" });
			const names = (told.match(/channel list: (.*)/)?.[1] ?? "")
				.split(", ")
				.map((s) => s.replace(/ \(.*\)$/, "").trim());
			expect([...names].sort()).toEqual(channels.map((c) => c.name).sort());
			const line = (name: string) =>
				(told.match(new RegExp(`Stats ${name}: (.*?) \\(`))?.[1] ?? "").trim().split(/\s+/).map(Number);
			const [low, high, mean] = ["Min", "Max", "Avg"].map(line);
			for (const { name, data, half } of channels) {
				// Whole numbers are told as shares of the largest one, which the printed digits do not reach.
				if (data instanceof Uint32Array) continue;
				const at = names.indexOf(name);
				const values = [...data];
				const near = (half ? 0.002 : 2e-6) * Math.max(...values.map(Math.abs));
				expect(Math.abs(low[at] - Math.min(...values))).toBeLessThan(near + 1e-6);
				expect(Math.abs(high[at] - Math.max(...values))).toBeLessThan(near + 1e-6);
				expect(Math.abs(mean[at] - values.reduce((s, v) => s + v, 0) / n)).toBeLessThan(near + 1e-6);
			}
			expect(execFileSync("/usr/bin/exrinfo", ["-v", file], { encoding: "utf8" })).toMatch(/mask0.id/);
		} finally {
			rmSync(folder, { recursive: true, force: true });
		}
	});
});

describe("files of other makers", () => {
	const folder = mkdtempSync(join(tmpdir(), "inquadra-"));
	const [width, height] = [93, 45];
	// Smooth, even and wild parts: all ways of the coding occur.
	const values = (k: number) =>
		Float32Array.from({ length: width * height }, (_, i) =>
			i % width < 40 ? 0.5 : i % width < 66 ? Math.sin(i / 50 + k) * 900 : plane(1, i + k)[0],
		);
	const from = join(folder, "from.exr");
	writeFileSync(
		from,
		writeExr({ width, height, channels: ["R", "G", "B"].map((name, k) => ({ name, data: values(k) })), text: {} }),
	);

	for (const compression of ["none", "rle", "zips", "zip", "piz", "pxr24"]) {
		for (const kind of ["float", "half"]) {
			it(`packed by ${compression} as ${kind}s are read as they are`, () => {
				const to = join(folder, `${compression}-${kind}.exr`);
				execFileSync("oiiotool", [from, "-d", kind, "--compression", compression, "-o", to]);
				const image = readExr(readFileSync(to));
				expect([image.width, image.height]).toEqual([width, height]);
				["R", "G", "B"].forEach((name, k) => {
					const got = image.channels.find((c) => c.name === name)?.data as Float32Array;
					values(k).forEach(
						(v, i) =>
							void (kind === "float" && compression !== "pxr24"
								? expect(got[i]).toBe(v)
								: expect(Math.abs(got[i] - v)).toBeLessThanOrEqual(
										Math.abs(v) * 2 ** (kind === "float" ? -15 : -10) + 1e-7,
									)),
					);
				});
			});
		}
	}

	for (const [how, ways] of [
		["one level", ["-o"]],
		["levels halved both ways", ["-m"]],
		["levels halved each way", ["-r"]],
		["levels halved both ways and rounded up", ["-m", "-u"]],
	] as const) {
		it.each(["none", "zip", "piz", "rle"])(
			`in tiles of 16 × 32 with ${how}, packed by %s, are read as they are`,
			(compression) => {
				const to = join(folder, `tiled-${how.replaceAll(" ", "-")}-${compression}.exr`);
				execFileSync("exrmaketiled", [...ways, "-t", "16", "32", "-z", compression, from, to]);
				const image = readExr(readFileSync(to));
				expect([image.width, image.height]).toEqual([width, height]);
				["R", "G", "B"].forEach((name, k) => {
					expect(image.channels.find((c) => c.name === name)?.data).toEqual(values(k));
				});
				const exr = openExr(readFileSync(to));
				for (const y of [0, 31, 32, 44])
					expect(exr.line(y).get("G")).toEqual(values(1).subarray(y * width, (y + 1) * width));
			},
		);
	}

	it("in tiles whose places or sizes cannot be are refused, and say why", () => {
		const good = readFileSync(join(folder, "tiled-one-level-zip.exr"));
		const tiles = good.indexOf("tiledesc") + 9 + 4;
		const broken = (change: (b: Buffer) => void) => {
			const b = Buffer.from(good);
			change(b);
			return () => readExr(b);
		};
		expect(broken((b) => b.writeUInt32LE(0, tiles))).toThrow(/tiles of 0 × 32 pixels/);
		expect(broken((b) => b.writeUInt8(3, tiles + 8))).toThrow(/levels of an unknown kind/);
		expect(broken((b) => b.writeUInt32LE(8, tiles))).toThrow(ExrError);
		expect(broken((b) => b.write("tilez", good.indexOf("tiles\0")))).toThrow(/does not say how/);
		// The table of 6 × 2 tiles is where its first entry points to its own end.
		let table = tiles;
		while (good.readBigUInt64LE(table) !== BigInt(table + 8 * 12)) table++;
		expect(broken((b) => b.writeInt32LE(77, table + 8 * 12))).toThrow(
			/A tile of the EXR file claims place 77, 0 of 6 × 2/,
		);
	});

	it("packed in a way that cannot be read here are named", () => {
		const to = join(folder, "b44.exr");
		execFileSync("oiiotool", [from, "-d", "half", "--compression", "b44", "-o", to]);
		expect(() => readExr(readFileSync(to))).toThrow(/by B44, which cannot be read here/);
	});

	it("packed by PIZ, RLE and PXR24 or in tiles and then damaged are an error or a picture: 2,000 of them", () => {
		const random = randomStream(4);
		const pick = (n: number) => Math.floor(random() * n);
		for (const name of [
			"piz-half",
			"piz-float",
			"rle-half",
			"rle-float",
			"pxr24-half",
			"pxr24-float",
			"tiled-one-level-piz",
			"tiled-levels-halved-each-way-zip",
		]) {
			const good = readFileSync(join(folder, `${name}.exr`));
			for (let k = 0; k < 250; k++) {
				const bad = Uint8Array.from(k % 3 === 0 ? good.subarray(0, pick(good.length)) : good);
				for (let i = 0; i < 1 + pick(6) && bad.length > 0; i++)
					bad[k % 3 === 1 ? 400 + pick(bad.length - 400) : pick(bad.length)] = pick(256);
				try {
					readExr(bad, 1_000_000);
				} catch (error) {
					expect(error).toBeInstanceOf(ExrError);
				}
			}
		}
	});
});

describe("a part of a larger picture", () => {
	const window = { x: 30, y: 17, width: 200, height: 100 };
	const image: ExrImage = {
		width: 23,
		height: 40,
		channels: ["G", "R"].map((name, k) => ({ name, data: plane(920, k) })),
		text: {},
		window,
	};

	it("keeps its window, and comes back", () => {
		expect(readExr(writeExr(image))).toEqual(image);
	});

	it("lies there for other readers, too", () => {
		const file = join(mkdtempSync(join(tmpdir(), "inquadra-")), "part.exr");
		writeFileSync(file, writeExr(image));
		const info = execFileSync("exrheader", [file], { encoding: "utf8" });
		expect(info).toMatch(/dataWindow \(type box2i\): \(30 17\) - \(52 56\)/);
		expect(info).toMatch(/displayWindow \(type box2i\): \(0 0\) - \(199 99\)/);
		expect(execFileSync("oiiotool", ["--info", "-v", file], { encoding: "utf8" })).toMatch(
			/pixel data origin: x=30, y=17/,
		);
	});
});

describe("hostile EXR files", () => {
	const good = writeExr({
		width: 23,
		height: 40,
		channels: ["R", "G", "id"].map((name, k) =>
			name === "id" ? { name, data: new Uint32Array(920) } : { name, data: plane(920, k) },
		),
		text: { title: "t" },
	});

	const tried = (bytes: Uint8Array) => {
		try {
			const image = readExr(bytes, 1_000_000);
			for (const c of image.channels) expect(c.data.length).toBe(image.width * image.height);
		} catch (error) {
			expect(error).toBeInstanceOf(ExrError);
			expect((error as Error).message.length).toBeGreaterThan(8);
		}
	};

	it("cut anywhere, with bytes changed, swapped or repeated, are an error or a picture: 2,500 of them", () => {
		const random = randomStream(99);
		const pick = (n: number) => Math.floor(random() * n);
		for (let k = 0; k < 2500; k++) {
			let bad = good.slice();
			const kind = k % 5;
			if (kind === 0) bad = bad.slice(0, pick(bad.length));
			if (kind === 1) for (let i = 0; i < 1 + pick(12); i++) bad[pick(bad.length)] = pick(256);
			if (kind === 2) for (let i = 0; i < 1 + pick(4); i++) bad[pick(360)] ^= 1 << pick(8);
			if (kind === 3) {
				const [at, n, to] = [pick(bad.length - 40), pick(40), pick(bad.length - 40)];
				bad.copyWithin(to, at, at + n);
			}
			if (kind === 4)
				new DataView(bad.buffer).setUint32(
					pick(bad.length - 4),
					[0, 1, 0x7fffffff, 0x80000000, 0xffffffff][pick(5)],
					true,
				);
			tried(bad);
		}
	});

	it("that claim to be enormous are refused before anything is reserved", () => {
		const text = new TextDecoder("latin1").decode(good);
		const window = text.indexOf("dataWindow\0box2i\0") + "dataWindow\0box2i\0".length + 4;
		const bad = good.slice();
		new DataView(bad.buffer).setInt32(window + 8, 2_000_000_000, true);
		new DataView(bad.buffer).setInt32(window + 12, 2_000_000_000, true);
		const before = process.memoryUsage().arrayBuffers;
		expect(() => readExr(bad, 1_000_000)).toThrow(ExrError);
		expect(process.memoryUsage().arrayBuffers - before).toBeLessThan(50e6);
	});

	it("whose blocks unpack to more than they may are refused", () => {
		const bomb = zlibSync(new Uint8Array(40_000_000));
		const bad = new Uint8Array(good.length + bomb.length);
		bad.set(good);
		const view = new DataView(bad.buffer);
		// Three blocks of 16 rows: the table's first offset leads to just behind its three.
		let table = 0;
		while (table < 2000 && Number(view.getBigUint64(table, true)) !== table + 24) table++;
		expect(table).toBeLessThan(2000);
		const block = table + 24;
		expect(view.getInt32(block, true)).toBe(0);
		// The block now says that it is as long as the bomb, and holds it.
		view.setUint32(block + 4, bomb.length, true);
		bad.set(bomb, block + 8);
		expect(() => readExr(bad, 1_000_000)).toThrow(ExrError);
	});

	it("of nothing, of zeros and of text are said to be no EXR", () => {
		for (const bytes of [
			new Uint8Array(0),
			new Uint8Array(4096),
			new TextEncoder().encode("a".repeat(999)),
			good.slice(0, 8),
		])
			expect(() => readExr(bytes)).toThrow(ExrError);
	});
});
