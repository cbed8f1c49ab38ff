import { randomUUID } from "node:crypto";
import { existsSync, mkdirSync, mkdtempSync, readdirSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type pg from "pg";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { blankShot } from "../src/core/doc/defaults.ts";
import { mostOf } from "../src/core/scene/spread.ts";
import { blobInfo, blobRange, collectBlobs, getBlob, putBlob, putBlobFile, sha256 } from "../src/store/blobs.ts";
import { announce, inTransaction, isAway, listen, migrate, openPool, withPatience } from "../src/store/database.ts";
import {
	claimAssembly,
	failAssembly,
	finishAssembly,
	nextUnit,
	pauseAssembly,
	renewAssembly,
} from "../src/store/frames.ts";
import { findMade, madeOnce } from "../src/store/made.ts";
import {
	cancelPrint,
	deletePrint,
	failPrint,
	foldProgress,
	isFull,
	listPrints,
	orderPrint,
	pausePrint,
	readPrint,
} from "../src/store/prints.ts";
import { createShot, findShot, listShots } from "../src/store/shots.ts";
import { decideFrame, undecidedFrame } from "../src/store/spread.ts";
import { clearTemporary, temporaryFolder } from "../src/store/temporary.ts";
import { dropUnit, numbersOf, renewLeases, returnUnit } from "../src/store/units.ts";
import { freshDatabase, migrations, until } from "./support.ts";

let pool: pg.Pool;
let url: string;
beforeAll(async () => {
	({ pool, url } = await freshDatabase("test_store"));
});
afterAll(() => pool.end());

const bytes = (n: number) => Uint8Array.from({ length: n }, (_, i) => (i * 31) & 255);

describe("the database", () => {
	it("migrates once however often it is asked", async () => {
		await Promise.all([migrate(pool, migrations), migrate(pool, migrations)]);
		expect((await pool.query("select count(*)::int as n from migrations")).rows[0].n).toBe(
			readdirSync(migrations).length,
		);
	});
	it("takes back what a failed transaction did", async () => {
		const failing = inTransaction(pool, async (c) => {
			await putBlob(c, bytes(10), "x/y");
			throw new Error("stop");
		});
		await expect(failing).rejects.toThrow("stop");
		expect(await blobInfo(pool, sha256(bytes(10)))).toBeNull();
	});
	it("takes a transaction from one who stands still in it, whose process goes on", async () => {
		const standing = inTransaction(pool, async (client) => {
			await client.query("select 1");
			await new Promise((r) => setTimeout(r, 5500));
			await client.query("select 2");
		});
		await expect(standing.catch((error) => Promise.reject(new Error(String(isAway(error)))))).rejects.toThrow("true");
		expect((await pool.query("select 3 as n")).rows[0].n).toBe(3);
	});
	it("is waited for while it is away, and other errors are not", async () => {
		let tries = 0;
		const answer = await withPatience(async () => {
			if (++tries < 3) throw Object.assign(new Error("away"), { code: "ECONNREFUSED" });
			return "here";
		});
		expect([answer, tries]).toEqual(["here", 3]);
		await expect(withPatience(async () => Promise.reject(new Error("a fault")))).rejects.toThrow("a fault");
		expect(isAway(Object.assign(new Error(), { code: "57P01" }))).toBe(true);
	});
	it("announces what changes, and connects again when its connection is cut", async () => {
		const ending = new AbortController();
		const heard: string[] = [];
		void listen(url, (e) => heard.push(e ? e.id : "gap"), ending.signal);
		await until("the first word", async () => {
			await announce(pool, { kind: "shot", id: "a" });
			return heard.includes("a");
		});
		await pool.query(
			"select pg_terminate_backend(pid) from pg_stat_activity where query = 'listen inquadra' and datname = current_database()",
		);
		await until("the gap", async () => heard.includes("gap"));
		await until("the second word", async () => {
			await announce(pool, { kind: "shot", id: "b" });
			return heard.includes("b");
		});
		ending.abort();
	});
	it("is let go of when listening is called off while the connection is being made", async () => {
		const listening = async () =>
			(
				await pool.query(
					"select 1 from pg_stat_activity where query = 'listen inquadra' and datname = current_database()",
				)
			).rowCount;
		await until("the others to end", async () => (await listening()) === 0);
		const all = Array.from({ length: 20 }, () => {
			const ending = new AbortController();
			const ended = listen(url, () => {}, ending.signal);
			setImmediate(() => ending.abort());
			return ended;
		});
		await Promise.all(all);
		await until("all connections to end", async () => (await listening()) === 0);
	});
});

describe("folders for files that are being made", () => {
	it("are cleared when their process is gone, and no others", async () => {
		const dead = join(tmpdir(), "inquadra-work-4194300-test");
		mkdirSync(dead, { recursive: true });
		writeFileSync(join(dead, "half.exr"), "half");
		const own = await temporaryFolder();
		expect(await clearTemporary()).toBeGreaterThan(0);
		expect([existsSync(dead), existsSync(own)]).toEqual([false, true]);
		rmSync(own, { recursive: true });
	});
});

describe("blobs", () => {
	it("of several MiB come back as they were, and twice the same is one", async () => {
		const data = bytes(2_500_000);
		const hash = await inTransaction(pool, (c) => putBlob(c, data, "a/b"));
		await inTransaction(pool, (c) => putBlob(c, data, "a/b"));
		expect(hash).toBe(sha256(data));
		expect(await blobInfo(pool, hash)).toEqual({ hash, size: data.length, mediaType: "a/b" });
		expect(Buffer.compare((await getBlob(pool, hash)) as Buffer, Buffer.from(data))).toBe(0);
		expect((await pool.query("select count(*)::int as n from blob_chunks where hash = $1", [hash])).rows[0].n).toBe(3);
		expect(await getBlob(pool, "0".repeat(64))).toBeNull();
	});
	it("are kept from a file, and read in part", async () => {
		const data = Uint8Array.from({ length: 2_300_000 }, (_, i) => (i * 31 + (i >> 8)) & 255);
		const folder = mkdtempSync(join(tmpdir(), "inquadra-test-"));
		writeFileSync(join(folder, "large"), data);
		const hash = await inTransaction(pool, (client) =>
			putBlobFile(client, join(folder, "large"), "application/x-test"),
		);
		rmSync(folder, { recursive: true });
		expect(hash).toBe(sha256(data));
		expect((await getBlob(pool, hash))?.equals(data)).toBe(true);
		for (const [from, to] of [
			[0, 10],
			[1_048_570, 1_048_590],
			[5, 2_300_000],
			[2_299_999, 2_300_000],
		])
			expect((await blobRange(pool, hash, from, to)).equals(data.subarray(from, to))).toBe(true);
		await expect(blobRange(pool, hash, 3_200_000, 3_200_001)).rejects.toThrow(/piece 3/);
	});
	it("are collected only when nothing refers to them", async () => {
		const kept = await inTransaction(pool, (c) => putBlob(c, bytes(21), "a/b"));
		const loose = await inTransaction(pool, (c) => putBlob(c, bytes(22), "a/b"));
		await createShot(pool, {
			...blankShot(),
			references: [{ id: "r", name: "r", blob: kept, widthPx: 1, heightPx: 1 }],
		});
		await collectBlobs(pool, "0 seconds");
		expect(await blobInfo(pool, kept)).not.toBeNull();
		expect(await blobInfo(pool, loose)).toBeNull();
	});
});

describe("what is made for scenes", () => {
	const name = (key: string) => ({ maker: "test", code: 1, key, file: null });
	it("is made once, however many ask at once, and each gets it", async () => {
		let makes = 0;
		const make = async () => {
			makes++;
			await new Promise((r) => setTimeout(r, 300));
			return bytes(40);
		};
		const others = openPool(url, 8);
		const all = await Promise.all(
			Array.from({ length: 10 }, (_, i) => madeOnce(i % 2 ? pool : others, name("one"), make)),
		);
		await others.end();
		expect(makes).toBe(1);
		expect(new Set(all).size).toBe(1);
		expect(await getBlob(pool, all[0])).toEqual(Buffer.from(bytes(40)));
		await collectBlobs(pool, "0 seconds");
		expect(await findMade(pool, name("one"))).toBe(all[0]);
		expect(await findMade(pool, { ...name("one"), code: 2 })).toBeNull();
	});
	it("is made by the next who asks when it could not be made", async () => {
		const fail = async () => {
			throw new Error("no room");
		};
		await expect(madeOnce(pool, name("two"), fail)).rejects.toThrow("no room");
		expect(await madeOnce(pool, name("two"), async () => bytes(3))).toBe(sha256(bytes(3)));
	});
	it("goes with the file that it was made from", async () => {
		const file = await inTransaction(pool, (c) => putBlob(c, bytes(55), "a/b"));
		await madeOnce(pool, { ...name("three"), file }, async () => bytes(56));
		await collectBlobs(pool, "0 seconds");
		expect(await findMade(pool, name("three"))).toBeNull();
	});
});

describe("shots", () => {
	it("are found by id and by title, and an unknown one is said", async () => {
		const shot = await createShot(pool, blankShot("A title of its own"));
		expect((await findShot(pool, shot.id)).id).toBe(shot.id);
		expect((await findShot(pool, "A title of its own")).id).toBe(shot.id);
		await expect(findShot(pool, "nowhere")).rejects.toThrow(/no shot "nowhere"/);
		expect((await listShots(pool)).map((s) => s.id)).toContain(shot.id);
	});
});

describe("units of a print", () => {
	const sums = bytes(64);
	const traced = (done: number) => ({ done, sums, firsts: sums, rays: 1000, ms: 50 });
	const order = async (over = {}) => {
		const s = await createShot(pool, blankShot());
		return {
			shot: s.id,
			print: await orderPrint(pool, s.id, s.revision, s.document, {
				width: 200,
				height: 100,
				samples: 32,
				seed: 1,
				noisePercent: null,
				...over,
			}),
		};
	};
	it("are claimed by one worker each, come back in order and make the print ready", async () => {
		const { print } = await order();
		expect((await readPrint(pool, print))?.state).toBe("queued");
		const claims = (await Promise.all([1, 2, 3, 4].map(() => nextUnit(pool, print)))).filter((c) => c !== null);
		expect(claims.map((c) => c.tile).sort()).toEqual([0, 1]);
		expect((await readPrint(pool, print))?.state).toBe("tracing");
		expect(await returnUnit(pool, claims[0], traced(16))).toBe(true);
		// The same claim is spent now.
		expect(await returnUnit(pool, claims[0], traced(32))).toBe(false);
		const half = await readPrint(pool, print);
		// What units have added counts the same once it is the print's own.
		await foldProgress(pool, print);
		expect(await readPrint(pool, print)).toEqual(half);
		expect((await pool.query("select 1 from progress where print_id = $1", [print])).rowCount).toBe(0);
		expect(half?.done).toBeCloseTo(claims[0].width / 200 / 2, 6);
		expect(half?.secondsLeft).toBeGreaterThan(0);
		expect((await claimAssembly(pool))?.id).not.toBe(print);
		const again = await nextUnit(pool, print);
		expect(again).toMatchObject({ tile: claims[0].tile, done: 16 });
		expect(Buffer.from(again?.sums ?? []).equals(Buffer.from(sums))).toBe(true);
		if (again) await returnUnit(pool, again, traced(32));
		await returnUnit(pool, claims[1], traced(32));
		expect(await nextUnit(pool, print)).toBeNull();
		expect((await claimAssembly(pool))?.id).toBe(print);
		expect(await claimAssembly(pool)).toBeNull();
	});
	it("are had by all who ask at once, while there are as many", async () => {
		for (let round = 0; round < 20; round++) {
			const { print } = await order({ width: 300, height: 100 });
			const claims = await Promise.all([1, 2, 3].map(() => nextUnit(pool, print)));
			expect(claims.map((c) => c?.tile).sort()).toEqual([0, 1, 2]);
			await deletePrint(pool, print);
		}
	});
	it("tell their noise before the rest of their samples is given out, once, whoever decides it", async () => {
		const { print } = await order({ width: 200, height: 100, spread: "noise" });
		const area = { x: 0, y: 0, width: 200, height: 100 };
		const noisy = (c: { width: number; height: number; tile: number }) => {
			const n = c.width * c.height;
			// The second tile is four times as noisy.
			const told = new Float32Array(2 * n).fill(1, 0, n).fill(c.tile === 0 ? 0.0001 : 0.0016, n);
			return new Uint8Array(told.buffer);
		};
		const claims = (await Promise.all([1, 2].map(() => nextUnit(pool, print)))).filter((c) => c !== null);
		expect(claims.map((c) => [c.samples, c.look, c.limits])).toEqual([
			[16, 16, null],
			[16, 16, null],
		]);
		await returnUnit(pool, claims[0], { ...traced(16), noise: noisy(claims[0]) });
		// One has still to tell.
		expect(await undecidedFrame(pool)).toBeNull();
		expect((await claimAssembly(pool))?.id).not.toBe(print);
		await returnUnit(pool, claims[1], { ...traced(16), noise: noisy(claims[1]) });
		expect((await claimAssembly(pool))?.id).not.toBe(print);
		expect(await undecidedFrame(pool)).toEqual({ id: print, frame: 0 });
		const decide = () => decideFrame(pool, { id: print, frame: 0 }, { area, samples: 32 }, 1);
		await Promise.all([decide(), decide(), decide()]);
		await decide();
		expect(await undecidedFrame(pool)).toBeNull();
		const units = (
			await pool.query(
				"select tile, width, height, samples, limits, noise from units where print_id = $1 order by tile",
				[print],
			)
		).rows;
		expect(units.map((u) => u.noise)).toEqual([null, null]);
		const limits = units.map((u) => numbersOf(u.limits) as Uint32Array);
		expect(limits.map(mostOf)).toEqual(units.map((u) => u.samples));
		expect(limits[1][0]).toBeGreaterThan(limits[0][0]);
		const all = limits.flatMap((l) => [...l]).reduce((sum, n) => sum + n, 0);
		expect(all).toBeLessThanOrEqual(32 * 20_000);
		// What is left to do is what was decided, once.
		const line = await readPrint(pool, print);
		expect(line).toMatchObject({ spread: "noise", samplesLeft: all - 16 * 20_000 });
		const next = await nextUnit(pool, print);
		expect(next).toMatchObject({ done: 16, look: null });
		expect(numbersOf(next?.limits ?? null)).toEqual(limits[next?.tile ?? 0]);
		if (next) await returnUnit(pool, next, traced(next.samples));
		const last = await nextUnit(pool, print);
		if (last) await returnUnit(pool, last, traced(last.samples));
		expect(await readPrint(pool, print)).toMatchObject({ done: 1, samplesLeft: 0 });
		expect((await claimAssembly(pool))?.id).toBe(print);
		await deletePrint(pool, print);
	});
	it("that are called off while it is decided are gone, and nobody waits in a ring", async () => {
		for (let round = 0; round < 4; round++) {
			const { print } = await order({ width: 100, spread: "noise" });
			const claim = await nextUnit(pool, print);
			if (!claim) throw new Error("no unit");
			const noise = new Uint8Array(new Float32Array(2 * 100 * 100).fill(1).buffer);
			await returnUnit(pool, claim, { ...traced(16), noise });
			const area = { x: 0, y: 0, width: 100, height: 100 };
			await Promise.all([
				decideFrame(pool, { id: print, frame: 0 }, { area, samples: 32 }, 1),
				deletePrint(pool, print),
				decideFrame(pool, { id: print, frame: 0 }, { area, samples: 32 }, 1),
			]);
			expect(await readPrint(pool, print)).toBeNull();
		}
	});
	it("come back while another process stands still with their print's row in its hands", async () => {
		const { print } = await order({ width: 100 });
		const claim = await nextUnit(pool, print);
		if (!claim) throw new Error("no unit");
		const frozen = await pool.connect();
		await frozen.query("begin");
		await frozen.query("select from prints where id = $1 for update", [print]);
		expect(await returnUnit(pool, claim, traced(32))).toBe(true);
		frozen.on("error", () => {});
		// It loses its transaction before long, and whoever waits for the row has it.
		expect(await cancelPrint(pool, print)).toBe(true);
		await expect(frozen.query("commit")).rejects.toThrow();
		frozen.release(true);
		expect(await readPrint(pool, print)).toMatchObject({ rays: 1000, state: "cancelled" });
		await deletePrint(pool, print);
	});
	it("are put together by one worker: one that wakes late changes nothing of its successor's", async () => {
		const { print } = await order({ width: 100 });
		const claim = await nextUnit(pool, print);
		if (claim) await returnUnit(pool, claim, traced(32));
		const late = await claimAssembly(pool);
		await pool.query("update frames set assemble_until = now() - interval '1 second' where print_id = $1", [print]);
		const next = await claimAssembly(pool);
		if (late?.id !== print || next?.id !== print) throw new Error("not claimed");
		const files = await inTransaction(pool, async (c) => ({
			exr: await putBlob(c, bytes(71), "image/x-exr"),
			thumbnail: await putBlob(c, bytes(72), "image/png"),
			pixelsSha256: "x",
		}));
		await renewAssembly(pool, late);
		expect(await failAssembly(pool, late, "woke late")).toBe(false);
		expect(await pauseAssembly(pool, late)).toBe(false);
		expect(await finishAssembly(pool, late, files)).toBe(false);
		expect(await readPrint(pool, print)).toMatchObject({ state: "assembling", message: null });
		expect((await pool.query("select 1 from units where print_id = $1", [print])).rowCount).toBe(1);
		expect(await finishAssembly(pool, next, files)).toBe(true);
		expect(await readPrint(pool, print)).toMatchObject({ state: "done", rays: 1000, done: 1 });
		expect((await pool.query("select 1 from progress where print_id = $1", [print])).rowCount).toBe(0);
		await deletePrint(pool, print);
		expect(await blobInfo(pool, files.exr)).toBeNull();
	});
	it("are free again when a lease has run out or was dropped, and renewing tells what is still held", async () => {
		const { print } = await order({ width: 100 });
		const first = await nextUnit(pool, print);
		if (!first) throw new Error("no unit");
		expect(await nextUnit(pool, print)).toBeNull();
		expect([...(await renewLeases(pool, [first.token, randomUUID()]))]).toEqual([first.token]);
		await pool.query("update units set lease_until = now() - interval '1 second' where print_id = $1", [print]);
		const second = await nextUnit(pool, print);
		expect(second?.tile).toBe(first.tile);
		expect(await returnUnit(pool, first, traced(16))).toBe(false);
		if (second) await dropUnit(pool, second);
		expect(await nextUnit(pool, print)).not.toBeNull();
	});
	it("of a print for which there is no room stay, and it goes on where it was", async () => {
		const { print } = await order({ width: 100 });
		const claim = await nextUnit(pool, print);
		if (claim) await returnUnit(pool, claim, traced(32));
		const assembly = await claimAssembly(pool);
		if (assembly?.id !== print) throw new Error("not claimed");
		expect([
			isFull({ code: "53100" }),
			isFull(Object.assign(new Error("no space"), { code: "ENOSPC" })),
			isFull(new Error("other")),
			isFull(null),
		]).toEqual([true, true, false, false]);
		await pauseAssembly(pool, assembly);
		expect(await readPrint(pool, print)).toMatchObject({
			state: "paused",
			done: 1,
			message: expect.stringContaining("disk is full"),
		});
		expect(await claimAssembly(pool)).toBeNull();
		expect(await pausePrint(pool, print, false)).toBe(true);
		expect(await readPrint(pool, print)).toMatchObject({ state: "tracing", message: null });
		expect((await claimAssembly(pool))?.id).toBe(print);
		await deletePrint(pool, print);
	});
	it("of a failed or deleted print are gone", async () => {
		const { print, shot } = await order();
		await failPrint(pool, print, "It does not fit.");
		expect(await readPrint(pool, print)).toMatchObject({ state: "failed", message: "It does not fit." });
		expect(await nextUnit(pool, print)).toBeNull();
		expect(await deletePrint(pool, print)).toBe(true);
		expect(await listPrints(pool, shot)).toEqual([]);
	});
});
