import { type ChildProcess, execFileSync } from "node:child_process";
import { mkdtempSync, readFileSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type pg from "pg";
import sharp from "sharp";
import { afterAll, afterEach, beforeAll, describe, expect, it } from "vitest";
import { blankShot, newPiece } from "../src/core/doc/defaults.ts";
import { readExr } from "../src/core/formats/exr.ts";
import { writeHdr } from "../src/core/formats/hdr.ts";
import { newLamp } from "../src/core/light/lamp.ts";
import { getBlob } from "../src/store/blobs.ts";
import { inTransaction } from "../src/store/database.ts";
import { nextUnit } from "../src/store/frames.ts";
import { askPilot, pressBusy } from "../src/store/pilots.ts";
import { finishedPixels, openPrintBytes } from "../src/store/printFiles.ts";
import { cancelPrint, deletePrint, deleteUnits, orderPrint, pausePrint, readPrint } from "../src/store/prints.ts";
import { createShot } from "../src/store/shots.ts";
import { keepSky } from "../src/store/skies.ts";
import { type Claim, LEASE_SECONDS, renewLeases, returnUnit } from "../src/store/units.ts";
import { cli, freshDatabase, killed, startPress, until } from "./support.ts";

let pool: pg.Pool;
let url: string;
const running: ChildProcess[] = [];
const folder = mkdtempSync(join(tmpdir(), "inquadra-"));

const shot = () => {
	const doc = blankShot("Press test");
	doc.pieces.push(
		newPiece("ball", "sphere", {
			position: [1, 0, -6],
			size: [2, 2, 2],
			surface: { colour: [0.6, 0.3, 0.2], roughness: 0.3, metal: 0.5 },
		}),
	);
	doc.water = { ...doc.water, on: true, levelM: 0.02 };
	doc.air.fog = { ...doc.air.fog, on: true, visibilityM: 900 };
	doc.camera.ratio = 1.6;
	return doc;
};
const order = { width: 192, height: 120, samples: 64, seed: 5, noisePercent: null as number | null };

beforeAll(async () => {
	({ pool, url } = await freshDatabase("test_press"));
});
afterEach(() => killed(pool, ...running.splice(0)));
afterAll(() => pool.end());

const press = (threads?: number) => {
	const p = startPress(url, threads);
	running.push(p);
	return p;
};
const done = (id: string) =>
	until("the print", async () => {
		const p = await readPrint(pool, id);
		if (p?.state === "failed") throw new Error(p.message ?? "failed");
		return p?.state === "done" ? p : null;
	});
const print = async (id: string, over = {}) => {
	const s = await createShot(pool, shot(), id);
	return orderPrint(pool, s.id, s.revision, s.document, { ...order, ...over });
};

describe("the press", () => {
	it("prints what the command line prints, with 1 or 4 workers: the same pixels", async () => {
		const id = await print("same", { samples: 32 });
		press(2);
		const p = await done(id);
		const flags = ["--width", "192", "--height", "120", "--samples", "32", "--seed", "5"];
		const one = await cli(url, "print", "same", "--out", join(folder, "one.exr"), ...flags, "--workers", "1");
		const four = await cli(
			url,
			"print",
			"Press test",
			"--out",
			join(folder, "four.exr"),
			"--png",
			join(folder, "four.png"),
			...flags,
			"--workers",
			"4",
		);
		expect(one.answer.pixelsSha256).toBe(p.pixelsSha256);
		expect(four.answer.pixelsSha256).toBe(p.pixelsSha256);
		const exr = readExr(readFileSync(join(folder, "one.exr")));
		expect(exr.channels.map((c) => c.name)).toEqual([
			"B",
			"G",
			"N.X",
			"N.Y",
			"N.Z",
			"R",
			"Z",
			"albedo.B",
			"albedo.G",
			"albedo.R",
			"clean.B",
			"clean.G",
			"clean.R",
			"id",
			...[0, 1, 2, 3].flatMap((k) => [`mask${k}.cover`, `mask${k}.id`]),
			"samples",
			"variance.Y",
		]);
		const whole = readExr((await getBlob(pool, p.exr as string)) as Buffer);
		for (const name of ["clean.R", "clean.G", "clean.B", "variance.Y", "samples"]) {
			expect(exr.channels.find((c) => c.name === name)?.data).toEqual(
				whole.channels.find((c) => c.name === name)?.data,
			);
		}
		expect(exr.channels.find((c) => c.name === "R")?.data).toEqual(
			readExr((await getBlob(pool, p.exr as string)) as Buffer).channels.find((c) => c.name === "R")?.data,
		);
	});

	it("gives samples where noise is: the same pixels on the command line, by two processes, and after one was killed", async () => {
		const flags = ["--width", "192", "--height", "120", "--samples", "64", "--seed", "5", "--spread", "noise"];
		const id = await print("spread", { spread: "noise" });
		press(1);
		press(1);
		const p = await done(id);
		const one = await cli(url, "print", "spread", "--out", join(folder, "spread.exr"), ...flags, "--workers", "2");
		expect(one.answer.pixelsSha256).toBe(p.pixelsSha256);
		const counts = readExr(readFileSync(join(folder, "spread.exr"))).channels.find((c) => c.name === "samples");
		const mean = Array.from(counts?.data ?? []).reduce((s, n) => s + n, 0) / (192 * 120);
		expect(mean).toBeGreaterThan(58);
		expect(mean).toBeLessThanOrEqual(64);
		expect(p).toMatchObject({ spread: "noise", done: 1, samplesLeft: 0 });

		await killed(pool, ...running.splice(0));
		const again = await print("spread-killed", { spread: "noise" });
		const first = press(1);
		await until(
			"what has been decided",
			async () =>
				(await pool.query("select 1 from units where print_id = $1 and limits is not null", [again])).rowCount ||
				(await readPrint(pool, again))?.state === "done",
		);
		await killed(pool, first);
		press(1);
		expect((await done(again)).pixelsSha256).toBe(p.pixelsSha256);
	});

	it("survives a worker killed while it holds a unit, and the pixels are those of an undisturbed print", async () => {
		const quiet = await print("quiet", { samples: 128 });
		press(1);
		const undisturbed = await done(quiet);
		await killed(pool, ...running.splice(0));

		const id = await print("killed", { samples: 128 });
		const first = press(1);
		await until(
			"a unit that is held",
			async () => (await pool.query("select 1 from units where print_id = $1 and lease_until > now()", [id])).rowCount,
		);
		await killed(pool, first);
		const held = await pool.query(
			"select tile, lease_token, extract(epoch from lease_until - now()) as left from units where print_id = $1 and lease_until > now()",
			[id],
		);
		expect(held.rowCount).toBe(1);
		expect(Number(held.rows[0].left)).toBeLessThanOrEqual(LEASE_SECONDS);
		press(1);
		await until(
			"the unit's take-over",
			async () =>
				(
					await pool.query(
						"select 1 from units where print_id = $1 and tile = $2 and lease_token is distinct from $3",
						[id, held.rows[0].tile, held.rows[0].lease_token],
					)
				).rowCount,
		);
		expect((await done(id)).pixelsSha256).toBe(undisturbed.pixelsSha256);
	});

	it("goes on when the database drops all its connections, with the same pixels", async () => {
		press(1);
		const id = await print("cut", { samples: 128 });
		await until(
			"a unit that is held",
			async () => (await pool.query("select 1 from units where print_id = $1 and lease_until > now()", [id])).rowCount,
		);
		await pool.query(
			"select pg_terminate_backend(pid) from pg_stat_activity where datname = current_database() and pid <> pg_backend_pid()",
		);
		const quiet = (
			await pool.query<{ pixels_sha256: string }>(
				"select f.pixels_sha256 from prints p join frames f on f.print_id = p.id where shot_id = 'quiet'",
			)
		).rows[0].pixels_sha256;
		expect((await done(id)).pixelsSha256).toBe(quiet);
	});

	it("frees its threads when a print is cancelled, and goes on with the next", async () => {
		press(1);
		const long = await print("long", { samples: 65_536 });
		await until(
			"a unit that is held",
			async () =>
				(await pool.query("select 1 from units where print_id = $1 and lease_until > now()", [long])).rowCount,
		);
		expect(await cancelPrint(pool, long)).toBe(true);
		const next = await print("next", { samples: 16, width: 32, height: 20 });
		expect((await done(next)).state).toBe("done");
		expect((await readPrint(pool, long))?.state).toBe("cancelled");
		expect((await pool.query("select 1 from units where print_id = $1", [long])).rowCount).toBe(0);
	});
});

describe("prints and their units", () => {
	const TRACED = { done: 16, sums: new Uint8Array(8), firsts: new Uint8Array(8), rays: 1, ms: 1 };
	const claimed = async (id: string) => {
		const printId = await print(id);
		const claim = (await nextUnit(pool, printId)) as Claim;
		const give = () => returnUnit(pool, claim, TRACED);
		return { printId, claim, give };
	};

	it("are locked in one order: a unit that comes back while those of its print are deleted waits, and is then gone", async () => {
		const { printId, claim, give } = await claimed("ring");
		let given: Promise<boolean> | undefined;
		await inTransaction(pool, async (client) => {
			await client.query("update prints set state = 'cancelled' where id = $1", [printId]);
			await deleteUnits(client, printId);
			given = give();
			await until(
				"the unit that waits",
				async () => (await pool.query("select 1 from pg_stat_activity where wait_event_type = 'Lock'")).rowCount,
			);
		});
		expect(await given).toBe(false);
		expect((await renewLeases(pool, [claim.token])).size).toBe(0);
	});

	it("come back at once while the row of their print is in another's hands", async () => {
		const { printId, give } = await claimed("beside");
		await inTransaction(pool, async (client) => {
			await client.query("update prints set message = 'in hand' where id = $1", [printId]);
			expect(await give()).toBe(true);
		});
		expect((await readPrint(pool, printId))?.rays).toBe(1);
	});

	it("are renewed, given back, cancelled and deleted by many at once without a ring of waiting", async () => {
		for (let round = 0; round < 6; round++) {
			const printId = await print(`many${round}`, { width: 640, height: 400 });
			const claims: Claim[] = [];
			for (let k = 0; k < 12; k++) claims.push((await nextUnit(pool, printId)) as Claim);
			await Promise.all([
				renewLeases(pool, claims.map((c) => c.token).reverse()),
				...claims.map((c) => returnUnit(pool, c, TRACED)),
				cancelPrint(pool, printId),
				renewLeases(
					pool,
					claims.map((c) => c.token),
				),
				deletePrint(pool, printId),
			]);
			expect(await readPrint(pool, printId)).toBeNull();
		}
	});
});

describe("a print that may stop at a noise", () => {
	const channel = async (id: string, name: string) => {
		const p = await done(id);
		return readExr((await getBlob(pool, p.exr as string)) as Buffer).channels.find((c) => c.name === name)
			?.data as Float32Array;
	};

	it("takes fewer samples where the picture is calm, the same with any workers, and the same as at the command line", async () => {
		press(2);
		const id = await print("calm", { samples: 512, noisePercent: 3 });
		const p = await done(id);
		const counts = [...new Set(await channel(id, "samples"))].sort((a, b) => a - b);
		expect(counts[0]).toBeLessThan(512);
		for (const n of counts) expect([32, 64, 128, 256, 512]).toContain(n);
		const flags = ["--width", "192", "--height", "120", "--samples", "512", "--seed", "5", "--noise", "3"];
		const line = await cli(url, "print", "calm", "--out", join(folder, "calm.exr"), ...flags, "--workers", "3");
		expect(line.answer.pixelsSha256).toBe(p.pixelsSha256);
	});

	it("is as bright as one that takes all its samples, within its noise", async () => {
		press(2);
		const all = await channel(await print("all", { samples: 512, seed: 77 }), "G");
		const calm = await pool.query<{ id: string }>("select id from prints where shot_id = 'calm'");
		const stopped = await channel(calm.rows[0].id, "G");
		const mean = (a: Float32Array) => a.reduce((s, v) => s + v, 0) / a.length;
		expect(Math.abs(mean(stopped) / mean(all) - 1)).toBeLessThan(0.01);
	});
});

describe("a print that is paused", () => {
	it("keeps what is traced, over the end of its worker too, frees its threads, and goes on to the same pixels", async () => {
		const first = press(1);
		const id = await print("paused", { samples: 128 });
		await until(
			"a returned unit",
			async () => (await pool.query("select 1 from units where print_id = $1 and done > 0", [id])).rowCount,
		);
		expect(await pausePrint(pool, id, true)).toBe(true);
		expect(await pausePrint(pool, id, true)).toBe(false);
		const other = await print("meanwhile", { samples: 16, width: 32, height: 20 });
		expect((await done(other)).state).toBe("done");
		await killed(pool, first);
		const kept = (await pool.query("select coalesce(sum(done), 0)::int as n from units where print_id = $1", [id]))
			.rows[0].n;
		expect(kept).toBeGreaterThan(0);
		expect((await readPrint(pool, id))?.state).toBe("paused");
		expect(await pausePrint(pool, id, false)).toBe(true);
		press(1);
		const quiet = (
			await pool.query<{ pixels_sha256: string }>(
				"select f.pixels_sha256 from prints p join frames f on f.print_id = p.id where shot_id = 'quiet'",
			)
		).rows[0].pixels_sha256;
		expect((await done(id)).pixelsSha256).toBe(quiet);
		expect(await pausePrint(pool, id, true)).toBe(false);
	});
});

describe("the command line", () => {
	it("prints each light, fog and openness as layers that sum to the picture, as the command line does", async () => {
		const doc = shot();
		doc.lamps.push(newLamp("gate", "sphere", { name: "Gate lamp", position: [0, 1.5, -5] }));
		const s = await createShot(pool, doc, "layered");
		const id = await orderPrint(pool, s.id, s.revision, s.document, {
			...order,
			width: 64,
			height: 40,
			samples: 32,
			layers: true,
		});
		press(2);
		const p = await done(id);
		const exr = readExr((await getBlob(pool, p.exr as string)) as Buffer);
		const plane = (name: string) => exr.channels.find((c) => c.name === name)?.data as Float32Array;
		const names = ["sun", "sky", "glow", "Gate-lamp"];
		for (const c of ["R", "G", "B"]) {
			plane(c).forEach(
				(v, i) =>
					void expect(Math.abs(names.reduce((sum, n) => sum + plane(`light.${n}.${c}`)[i], 0) - v)).toBeLessThanOrEqual(
						3e-5 * v + 1e-6,
					),
			);
			expect(plane(`fog.${c}`)).toHaveLength(2560);
		}
		expect(plane("openness").some((v) => v < 1)).toBe(true);
		const flags = ["--width", "64", "--height", "40", "--samples", "32", "--seed", "5", "--layers"];
		expect(
			(await cli(url, "print", "layered", "--out", join(folder, "layered.exr"), ...flags)).answer.pixelsSha256,
		).toBe(p.pixelsSha256);
	});
	it("prints a part of the frame with the very pixels of the whole, in its window, as the command line does", async () => {
		const s = await createShot(pool, shot(), "part");
		const size = { ...order, width: 320, height: 200, samples: 16 };
		const part = { x: 100, y: 70, width: 141, height: 90 };
		const whole = await orderPrint(pool, s.id, s.revision, s.document, size);
		const own = await orderPrint(pool, s.id, s.revision, s.document, { ...size, part });
		press(2);
		const file = async (id: string) => readExr((await getBlob(pool, (await done(id)).exr as string)) as Buffer);
		const [all, some] = [await file(whole), await file(own)];
		expect([some.width, some.height, some.window]).toEqual([141, 90, { x: 100, y: 70, width: 320, height: 200 }]);
		for (const name of ["R", "Z", "id", "N.Y", "mask0.cover"]) {
			const [a, b] = [all, some].map((f) => f.channels.find((c) => c.name === name)?.data as Float32Array);
			for (let y = 0; y < 90; y++)
				expect(b.subarray(y * 141, (y + 1) * 141)).toEqual(a.subarray((y + 70) * 320 + 100, (y + 70) * 320 + 241));
		}
		const shares = [100 / 320, 70 / 200, 141 / 320, 90 / 200].map((v) => v.toFixed(6)).join(",");
		const flags = ["--width", "320", "--height", "200", "--samples", "16", "--seed", "5", "--part", shares];
		const here = await cli(
			url,
			"print",
			"part",
			"--out",
			join(folder, "part.exr"),
			"--png",
			join(folder, "part.png"),
			...flags,
		);
		expect(here.answer.pixelsSha256).toBe((await readPrint(pool, own))?.pixelsSha256);
		expect(
			await cli(url, "print", "part", "--out", join(folder, "part.exr"), "--part", "0.5,0.5,0.7,0.2"),
		).toMatchObject({ code: 1, answer: { error: { code: "bad-input" } } });
		expect(await cli(url, "print", "part", "--out", join(folder, "part.exr"), "--part", "a,b")).toMatchObject({
			code: 1,
			answer: { error: { code: "bad-input" } },
		});
	});
	it("traces what the lens bends in and an overscan beyond the frame, keeps both in the file, and shows the frame", async () => {
		const doc = shot();
		doc.finish.lens = { bend: -0.12, fringe: 0.002, falloff: 0.5, tint: [1, 0.95, 0.9] };
		doc.print.overscan = 0.05;
		const s = await createShot(pool, doc, "bent");
		const size = { ...order, samples: 16 };
		const [whole, some] = await Promise.all(
			[null, { x: 40, y: 30, width: 101, height: 61 }].map((part) =>
				orderPrint(pool, s.id, s.revision, s.document, { ...size, part }),
			),
		);
		press(2);
		const printed = await done(whole);
		const { area } = printed;
		// A corner comes from 1 / 0.88 times as far, and a twentieth of the frame lies beyond that.
		expect(area.x).toBeLessThan(-(96 * (1 / 0.88 - 1) + 0.05 * 192));
		expect(area.width).toBe(192 - 2 * area.x);
		const bytes = (await getBlob(pool, printed.exr as string)) as Buffer;
		const exr = readExr(bytes);
		expect([exr.width, exr.height, exr.window]).toEqual([
			area.width,
			area.height,
			{ x: area.x, y: area.y, width: 192, height: 120 },
		]);
		writeFileSync(join(folder, "bent.exr"), bytes);
		const told = execFileSync("exrheader", [join(folder, "bent.exr")]).toString();
		expect(told).toMatch(new RegExp(`dataWindow.*\\(${area.x} ${area.y}\\)`));
		expect(told).toMatch(/displayWindow.*\(0 0\) - \(191 119\)/);
		const { camera, finish } = s.document;
		const pixels = await finishedPixels(await openPrintBytes(bytes), true, camera, finish);
		expect(pixels.length).toBe(192 * 120 * 3);
		// A part shows what the whole shows there: the same light, without its noise but for the part's edge.
		const own = await openPrintBytes((await getBlob(pool, (await done(some)).exr as string)) as Buffer);
		expect(own.part).toEqual({ x: 40, y: 30, width: 101, height: 61 });
		const raw = await finishedPixels(own, false, camera, finish);
		const rawWhole = await finishedPixels(await openPrintBytes(bytes), false, camera, finish);
		for (let y = 0; y < 61; y++) {
			const from = ((y + 30) * 192 + 40) * 3;
			expect(raw.subarray(y * 303, (y + 1) * 303)).toEqual(rawWhole.subarray(from, from + 303));
		}
		const flags = ["--width", "192", "--height", "120", "--samples", "16", "--seed", "5"];
		const png = join(folder, "bent.png");
		const here = await cli(url, "print", "bent", "--out", join(folder, "here.exr"), "--png", png, ...flags);
		expect(here.answer.pixelsSha256).toBe(printed.pixelsSha256);
		expect(await sharp(png).metadata()).toMatchObject({ width: 192, height: 120 });
		const more = await cli(url, "print", "bent", "--out", join(folder, "more.exr"), "--overscan", "0.2", ...flags);
		expect(more.answer).not.toHaveProperty("error");
		expect(readExr(readFileSync(join(folder, "more.exr"))).width).toBeGreaterThan(area.width + 40);
	});
	it("flies a pilot for the one who waits, and none when nobody does or the shot cannot be traced", async () => {
		const doc = shot();
		const asked = { document: doc, width: 640, height: 400, part: null };
		press(2);
		const pilot = await askPilot(pool, asked);
		expect(pilot?.threads).toBe(2);
		expect(pilot?.noises).toHaveLength(48);
		expect(pilot?.noises.every((n) => n >= 0 && n < 5)).toBe(true);
		expect(pilot?.msPerSample).toBeGreaterThan(0.0005);
		expect(pilot?.msPerSample).toBeLessThan(1);
		doc.air.picture = {
			file: "0".repeat(64),
			name: "Lost",
			widthPx: 2,
			heightPx: 1,
			turnDeg: 0,
			lux: 1,
			saturation: 1,
			sun: false,
		};
		expect(await askPilot(pool, asked)).toBeNull();
		expect((await pool.query("select 1 from pilots")).rowCount).toBe(0);
		expect(await pressBusy(pool)).toBe(false);
		await print("after the pilot", { samples: 16, width: 32, height: 20 });
		expect(await pressBusy(pool)).toBe(true);
	});
	it("prints under a sky picture as the press does, and carries the picture out and in again", async () => {
		const rgb = new Float32Array(128 * 64 * 3).map((_, i) => (i === 3 * (20 * 128 + 70) ? 30_000 : 1 + (i % 3) / 4));
		const { file } = await keepSky(pool, writeHdr({ width: 128, height: 64, rgb }));
		const doc = shot();
		doc.air.picture = {
			file,
			name: "Even light",
			widthPx: 128,
			heightPx: 64,
			turnDeg: 30,
			lux: 3000,
			saturation: 1,
			sun: false,
		};
		const s = await createShot(pool, doc, "hung");
		const id = await orderPrint(pool, s.id, s.revision, s.document, { ...order, width: 64, height: 40, samples: 16 });
		press(2);
		const p = await done(id);
		const at = ["--width", "64", "--height", "40", "--samples", "16", "--seed", "5"];
		const here = await cli(url, "print", "hung", "--out", join(folder, "hung.exr"), ...at);
		expect(here.answer.pixelsSha256).toBe(p.pixelsSha256);
		const path = join(folder, "hung.json");
		expect((await cli(url, "export", "hung", path)).answer.blobs).toBe(1);
		const other = await freshDatabase("test_press_other");
		await other.pool.end();
		const { imported } = (await cli(other.url, "import", path)).answer;
		const there = await cli(other.url, "print", String(imported), "--out", join(folder, "there.exr"), ...at);
		expect(there.answer.pixelsSha256).toBe(p.pixelsSha256);
		const torn = JSON.parse(readFileSync(path, "utf8"));
		torn.blobs[file].base64 = "AAAA";
		writeFileSync(path, JSON.stringify(torn));
		expect(await cli(other.url, "import", path)).toMatchObject({
			code: 1,
			answer: { error: { message: expect.stringMatching(/sky picture "Even light" is missing or damaged/) } },
		});
	});
	it("carries a shot out and in again with its pictures", async () => {
		const file = join(folder, "shot.json");
		expect((await cli(url, "export", "same", file)).code).toBe(0);
		const back = await cli(url, "import", file);
		expect(back.answer.title).toBe("Press test");
		const list = (await cli(url, "shots")).answer.shots as { id: string }[];
		expect(list.map((s) => s.id)).toContain(back.answer.imported);
	});
	it("answers what it cannot do with one JSON document and exit code 1", async () => {
		expect(await cli(url, "print", "nowhere", "--out", "x.exr")).toMatchObject({
			code: 1,
			answer: { error: { code: "no-shot" } },
		});
		expect(await cli(url, "match", join(folder, "none.json"))).toMatchObject({
			code: 1,
			answer: { error: { code: "no-file" } },
		});
		expect(await cli(url, "print", "same", "--out", "x.exr", "--samples", "7")).toMatchObject({
			code: 1,
			answer: { error: { code: "bad-input" } },
		});
		expect(await cli(url, "sing")).toMatchObject({ code: 1, answer: { error: { code: "bad-usage" } } });
	});
});
