/** The routes as the page calls them, on a real database: what they answer, what they refuse, and what they leave alone. */
import { randomUUID } from "node:crypto";
import { statfs } from "node:fs/promises";
import { unzipSync } from "fflate";
import type pg from "pg";
import sharp, { type Sharp } from "sharp";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import * as blobRoute from "../src/app/api/blobs/[hash]/route.ts";
import * as clipsRoute from "../src/app/api/clips/route.ts";
import * as copiesRoute from "../src/app/api/copies/[file]/route.ts";
import * as eventsRoute from "../src/app/api/events/route.ts";
import * as picturesRoute from "../src/app/api/pictures/route.ts";
import * as archiveRoute from "../src/app/api/prints/[id]/archive/route.ts";
import * as atRoute from "../src/app/api/prints/[id]/at/route.ts";
import * as depthRoute from "../src/app/api/prints/[id]/depth/route.ts";
import * as exrRoute from "../src/app/api/prints/[id]/exr/route.ts";
import * as framesRoute from "../src/app/api/prints/[id]/frames/route.ts";
import * as layersRoute from "../src/app/api/prints/[id]/layers/route.ts";
import * as pixelsRoute from "../src/app/api/prints/[id]/pixels/route.ts";
import * as pngRoute from "../src/app/api/prints/[id]/png/route.ts";
import * as printRoute from "../src/app/api/prints/[id]/route.ts";
import * as videoRoute from "../src/app/api/prints/[id]/video/route.ts";
import * as checkpointsRoute from "../src/app/api/shots/[id]/checkpoints/route.ts";
import * as editsRoute from "../src/app/api/shots/[id]/edits/route.ts";
import * as headRoute from "../src/app/api/shots/[id]/head/route.ts";
import * as logRoute from "../src/app/api/shots/[id]/log/route.ts";
import * as pilotRoute from "../src/app/api/shots/[id]/pilot/route.ts";
import * as printsRoute from "../src/app/api/shots/[id]/prints/route.ts";
import * as shotRoute from "../src/app/api/shots/[id]/route.ts";
import * as smallRoute from "../src/app/api/shots/[id]/small/route.ts";
import * as shotsRoute from "../src/app/api/shots/route.ts";
import * as skyRoute from "../src/app/api/skies/[file]/route.ts";
import * as skiesRoute from "../src/app/api/skies/route.ts";
import { readSkyTable, unpackTexel } from "../src/core/air/skyPicture.ts";
import { blankShot, newPiece } from "../src/core/doc/defaults.ts";
import { usualMove } from "../src/core/doc/edits/move.ts";
import { fromHalf, readExr } from "../src/core/formats/exr.ts";
import { writeExr } from "../src/core/formats/exrWrite.ts";
import { writeHdr } from "../src/core/formats/hdr.ts";
import { straightened } from "../src/core/maths/division.ts";
import { emptyPicture } from "../src/core/scene/picture.ts";
import { packSmall, parted, unpackSmall } from "../src/core/study/smallFrame.ts";
import { streams } from "../src/server/events.ts";
import { collectBlobs, putBlob } from "../src/store/blobs.ts";
import { inTransaction } from "../src/store/database.ts";
import { answerPilot, claimPilot } from "../src/store/pilots.ts";
import { readWork } from "../src/store/prints.ts";
import { printChannels } from "../src/store/printWriter.ts";
import { createShot } from "../src/store/shots.ts";
import { isLargeSky } from "../src/store/skies.ts";
import { freshDatabase, until } from "./support.ts";

// biome-ignore lint/suspicious/noExplicitAny: each handler has parameters of its own
type Handler = (request: Request, context: { params: Promise<any> }) => Promise<Response>;
let pool: pg.Pool;
const routes = {
	shots: shotsRoute,
	shot: shotRoute,
	edits: editsRoute,
	head: headRoute,
	log: logRoute,
	events: eventsRoute,
	checkpoints: checkpointsRoute,
	prints: printsRoute,
	pilot: pilotRoute,
	print: printRoute,
	pixels: pixelsRoute,
	png: pngRoute,
	depth: depthRoute,
	exr: exrRoute,
	layers: layersRoute,
	at: atRoute,
	frames: framesRoute,
	archive: archiveRoute,
	video: videoRoute,
	pictures: picturesRoute,
	blob: blobRoute,
	copies: copiesRoute,
	clips: clipsRoute,
	skies: skiesRoute,
	sky: skyRoute,
};

beforeAll(async () => {
	const made = await freshDatabase("test_routes");
	pool = made.pool;
	process.env.DATABASE_URL = made.url;
});
afterAll(async () => {
	await (globalThis as { inquadraPool?: pg.Pool }).inquadraPool?.end();
	await pool.end();
});

async function ask(handler: Handler, params: Record<string, string> = {}, body?: unknown, query = "") {
	const raw =
		body instanceof Uint8Array
			? (body as Uint8Array<ArrayBuffer>)
			: body === undefined
				? undefined
				: JSON.stringify(body);
	const request = new Request(`http://127.0.0.1:3100/x${query}`, {
		method: raw === undefined ? "GET" : "POST",
		body: raw,
		headers: { host: "127.0.0.1:3100" },
	});
	const response = await handler(request, { params: Promise.resolve(params) });
	const json = response.headers.get("content-type")?.includes("json") ? await response.clone().json() : null;
	return { status: response.status, json, response };
}

async function newShot(title: string): Promise<{ id: string; sequence: number }> {
	const made = await ask(routes.shots.POST, {}, { title });
	expect(made.status).toBe(201);
	return made.json;
}

const edit = (id: string, sequence: number, change: object, clientId = randomUUID()) =>
	ask(routes.edits.POST, { id }, { clientId, sequence, edit: change });

describe("shots", () => {
	it("are made, listed and read", async () => {
		const { id } = await newShot("First");
		const listed = await ask(routes.shots.GET);
		expect(listed.json.shots.map((s: { id: string }) => s.id)).toContain(id);
		const read = await ask(routes.shot.GET, { id });
		expect(read.json).toMatchObject({
			state: { id, document: { title: "First" }, canUndo: false },
			checkpoints: [],
			prints: [],
		});
	});
	it("need a title", async () => {
		expect(await ask(routes.shots.POST, {}, { title: "  " })).toMatchObject({
			status: 400,
			json: { error: { code: "bad-input" } },
		});
	});
	it("that do not exist are said not to", async () => {
		expect(await ask(routes.shot.GET, { id: "nowhere" })).toMatchObject({
			status: 404,
			json: { error: { code: "no-shot" } },
		});
		expect((await edit("nowhere", 0, { name: "shot.setIdea", idea: "x" })).status).toBe(404);
		expect((await ask(routes.prints.POST, { id: "nowhere" }, { widthPx: 64, samples: 16, seed: 1 })).status).toBe(404);
	});
});

describe("edits", () => {
	it("are taken once, whatever the line does", async () => {
		const { id, sequence } = await newShot("Once");
		const clientId = randomUUID();
		const first = await edit(id, sequence, { name: "shot.setIdea", idea: "Still." }, clientId);
		const again = await edit(id, sequence, { name: "shot.setIdea", idea: "Still." }, clientId);
		expect(first.status).toBe(200);
		expect(again.json.sequence).toBe(first.json.sequence);
	});
	it("made for an older sequence get the newer state", async () => {
		const { id, sequence } = await newShot("Stale");
		await edit(id, sequence, { name: "shot.setIdea", idea: "Newer." });
		const stale = await edit(id, sequence, { name: "shot.setTitle", title: "Older" });
		expect(stale).toMatchObject({
			status: 409,
			json: { error: { state: { document: { idea: "Newer.", title: "Stale" } } } },
		});
	});
	it("that make no sense name what and where, and change nothing", async () => {
		const { id, sequence } = await newShot("Nonsense");
		for (const [change, words] of [
			[{ name: "no.such" }, "no edit named"],
			[{ name: "water.set", levelM: "deep" }, "water.set: levelM"],
			[{ name: "piece.remove", ids: ["none"] }, 'no piece "none"'],
			[7, "no edit named"],
		] as const) {
			const refused = await edit(id, sequence, change as object);
			expect(refused.status).toBe(400);
			expect(refused.json.error.message).toContain(words);
		}
		expect((await ask(routes.edits.POST, { id }, { sequence, edit: {} })).json.error.message).toMatch(/clientId/);
		expect((await ask(routes.shot.GET, { id })).json.state.sequence).toBe(sequence);
	});
	it("are undone and redone by moving the head", async () => {
		const { id, sequence } = await newShot("Back and forth");
		const one = (await edit(id, sequence, { name: "shot.setIdea", idea: "One." })).json;
		const back = await ask(routes.head.POST, { id }, { clientId: randomUUID(), sequence: one.sequence, move: "undo" });
		expect(back.json).toMatchObject({ document: { idea: "" }, canRedo: true });
		const forth = await ask(
			routes.head.POST,
			{ id },
			{ clientId: randomUUID(), sequence: back.json.sequence, move: "redo" },
		);
		expect(forth.json).toMatchObject({ document: { idea: "One." }, canRedo: false });
		expect(
			(await ask(routes.head.POST, { id }, { clientId: randomUUID(), sequence: forth.json.sequence, move: "sideways" }))
				.status,
		).toBe(400);
	});
});

describe("checkpoints", () => {
	it("are kept with a thumbnail that is there, refused with one that is not, and returned to", async () => {
		const { id, sequence } = await newShot("Kept");
		const png = new Uint8Array(
			await sharp({ create: { width: 8, height: 5, channels: 3, background: "#864" } })
				.png()
				.toBuffer(),
		);
		const picture = await ask(routes.pictures.POST, {}, png);
		expect(picture).toMatchObject({ status: 201, json: { widthPx: 8, heightPx: 5 } });
		expect((await ask(routes.checkpoints.POST, { id }, { name: "A", thumbnail: "0".repeat(64) })).json.error.code).toBe(
			"no-blob",
		);
		const kept = await ask(routes.checkpoints.POST, { id }, { name: "A", thumbnail: picture.json.blob });
		expect(kept.status).toBe(201);
		await edit(id, sequence, { name: "shot.setIdea", idea: "Later." });
		const { state, checkpoints } = (await ask(routes.shot.GET, { id })).json;
		expect(checkpoints).toHaveLength(1);
		const opened = await ask(
			routes.head.POST,
			{ id },
			{ clientId: randomUUID(), sequence: state.sequence, move: { open: checkpoints[0].revision } },
		);
		expect(opened.json.document.idea).toBe("");
	});
});

describe("files", () => {
	it("come back byte for byte, as what they are", async () => {
		const data = new Uint8Array(
			await sharp({ create: { width: 300, height: 200, channels: 3, background: "#246" } })
				.webp()
				.toBuffer(),
		);
		const { blob } = (await ask(routes.pictures.POST, {}, data)).json;
		const { response } = await ask(routes.blob.GET, { hash: blob });
		expect(response.headers.get("content-type")).toBe("image/webp");
		expect(response.headers.get("x-content-type-options")).toBe("nosniff");
		expect(new Uint8Array(await response.arrayBuffer())).toEqual(data);
	});
	it("that are no pictures are refused", async () => {
		expect(await ask(routes.pictures.POST, {}, new TextEncoder().encode("hello"))).toMatchObject({
			status: 415,
			json: { error: { code: "not-a-picture" } },
		});
		expect((await ask(routes.pictures.POST, {}, new Uint8Array(0))).status).toBe(400);
	});
	it("that are not there are said not to be", async () => {
		for (const hash of ["0".repeat(64), "../../etc/passwd", ""])
			expect((await ask(routes.blob.GET, { hash })).status).toBe(404);
	});
});

describe("scaled copies", () => {
	const keep = async (data: Buffer) =>
		(await ask(routes.pictures.POST, {}, new Uint8Array(data))).json as {
			blob: string;
			widthPx: number;
			heightPx: number;
		};
	const copy = async (blob: string, width: number) => {
		const { status, response, json } = await ask(routes.copies.GET, { file: blob }, undefined, `?width=${width}`);
		return {
			status,
			json,
			type: response.headers.get("content-type"),
			picture: status === 200 ? sharp(Buffer.from(await response.arrayBuffer())) : null,
		};
	};
	const middle = async (picture: Sharp | null) =>
		[...(await (picture as Sharp).removeAlpha().raw().toBuffer())].slice(0, 3);
	const flat = (
		width: number,
		height: number,
		background: string | { r: number; g: number; b: number; alpha: number },
	) => sharp({ create: { width, height, channels: typeof background === "string" ? 3 : 4, background } });

	it("are made once, no wider than asked and never enlarged", async () => {
		const { blob } = await keep(await flat(1500, 300, "#345").png().toBuffer());
		const small = await copy(blob, 512);
		expect(await small.picture?.metadata()).toMatchObject({ width: 512, height: 102, format: "jpeg" });
		expect(await (await copy(blob, 2048)).picture?.metadata()).toMatchObject({ width: 1500, height: 300 });
		await copy(blob, 512);
		expect((await pool.query("select count(*)::int as n from copies where file = $1", [blob])).rows[0].n).toBe(2);
		expect((await copy(blob, 700)).json.error.code).toBe("bad-width");
		expect((await copy("0".repeat(64), 512)).status).toBe(404);
		expect((await copy("x", 512)).status).toBe(404);
	});

	it("come without the bend of their lens, made once for each bend", async () => {
		// Black with a white upright stripe near the left edge, as a barrel would show it: nearer to the middle at half height.
		const [w, h, k] = [400, 300, -0.2];
		const stripe = Buffer.alloc(w * h * 3);
		for (let y = 0; y < h; y++)
			for (let x = 0; x < w; x++) {
				const [u] = straightened([x + 0.5 - w / 2, y + 0.5 - h / 2], k, Math.hypot(w, h) / 2);
				if (Math.abs(u + 150) < 6) stripe.fill(255, (y * w + x) * 3, (y * w + x) * 3 + 3);
			}
		const { blob } = await keep(
			await sharp(stripe, { raw: { width: w, height: h, channels: 3 } })
				.png()
				.toBuffer(),
		);
		const columns = async (query: string) => {
			const { response } = await ask(routes.copies.GET, { file: blob }, undefined, query);
			const grey = await sharp(Buffer.from(await response.arrayBuffer()))
				.greyscale()
				.raw()
				.toBuffer();
			return [20, 150, 280].map((y) => {
				let [sum, n] = [0, 0];
				for (let x = 0; x < w / 2; x++) if (grey[y * w + x] > 127) [sum, n] = [sum + x, n + 1];
				return sum / n;
			});
		};
		const asItCame = await columns("?width=512");
		expect(Math.abs(asItCame[0] - asItCame[1])).toBeGreaterThan(4);
		const straight = await columns("?width=512&bend=-2000");
		for (const x of straight) expect(Math.abs(x + 0.5 - 50)).toBeLessThan(1);
		await columns("?width=512&bend=-2000");
		expect((await pool.query("select bend from copies where file = $1 order by bend", [blob])).rows).toEqual([
			{ bend: -2000 },
			{ bend: 0 },
		]);
		for (const bend of ["0.5", "9000", "x"])
			expect((await ask(routes.copies.GET, { file: blob }, undefined, `?width=512&bend=${bend}`)).json.error.code).toBe(
				"bad-bend",
			);
	});

	it("are not made of what is no picture, and a damaged one is said to be", async () => {
		const store = (data: Uint8Array) => inTransaction(pool, (c) => putBlob(c, data, "x/y"));
		const exr = writeExr({ width: 2, height: 1, channels: [{ name: "Y", data: new Float32Array(2) }], text: {} });
		for (const data of [exr, new Uint8Array([0x1a, 0x45, 0xdf, 0xa3, 1]), new Uint8Array([1, 2, 3])])
			expect(await copy(await store(data), 512)).toMatchObject({
				status: 404,
				json: { error: { code: "no-picture" } },
			});
		const png = await flat(30, 30, "#246").png().toBuffer();
		expect(await copy(await store(new Uint8Array(png.subarray(0, 60))), 512)).toMatchObject({
			status: 400,
			json: { error: { code: "bad-picture" } },
		});
	});

	it("have colours of every kind of file brought to sRGB", async () => {
		const near = (a: number[], b: number[], by: number) => a.every((v, i) => Math.abs(v - b[i]) <= by);
		const colour = "#b46432";
		const plain = [0xb4, 0x64, 0x32];
		const cmyk = await keep(await flat(64, 48, colour).toColourspace("cmyk").jpeg({ quality: 100 }).toBuffer());
		expect(near(await middle((await copy(cmyk.blob, 512)).picture), plain, 30)).toBe(true); // Ink does not reach every colour of sRGB.
		const wide = await keep(await flat(64, 48, colour).withIccProfile("p3").png().toBuffer());
		expect(near(await middle((await copy(wide.blob, 512)).picture), plain, 4)).toBe(true);
		const deep = await keep(await flat(64, 48, colour).toColourspace("rgb16").png().toBuffer());
		expect(near(await middle((await copy(deep.blob, 512)).picture), plain, 4)).toBe(true);
		const grey = await keep(await flat(64, 48, "#777").greyscale().png().toBuffer());
		expect(near(await middle((await copy(grey.blob, 512)).picture), [0x77, 0x77, 0x77], 3)).toBe(true);
	});

	it("obey the tag that says which side is up, keep what is seen through, and take the first picture of many", async () => {
		const turned = await keep(await flat(80, 40, "#246").jpeg().withMetadata({ orientation: 6 }).toBuffer());
		expect(turned).toMatchObject({ widthPx: 40, heightPx: 80 });
		expect(await (await copy(turned.blob, 512)).picture?.metadata()).toMatchObject({ width: 40, height: 80 });
		const glass = await keep(await flat(60, 40, { r: 200, g: 40, b: 40, alpha: 0.5 }).png().toBuffer());
		const through = await copy(glass.blob, 512);
		expect(through.type).toBe("image/webp");
		expect((await through.picture?.ensureAlpha().raw().toBuffer())?.[3]).toBeCloseTo(128, -1);
		const frames = await Promise.all(["#f00", "#00f"].map((c) => flat(32, 24, c).png().toBuffer()));
		const moving = await keep(
			await sharp(frames, { join: { animated: true } })
				.webp({ loop: 0 })
				.toBuffer(),
		);
		expect(moving).toMatchObject({ widthPx: 32, heightPx: 24 });
		const [r, , b] = await middle((await copy(moving.blob, 512)).picture);
		expect(r).toBeGreaterThan(200);
		expect(b).toBeLessThan(60);
	});
});

describe("clips", () => {
	it("are kept by how they begin, and what is no clip is refused", async () => {
		const webm = new Uint8Array([0x1a, 0x45, 0xdf, 0xa3, 1, 2, 3, 4]);
		const kept = await ask(routes.clips.POST, {}, webm);
		expect(kept.status).toBe(201);
		expect((await ask(routes.blob.GET, { hash: kept.json.blob })).response.headers.get("content-type")).toBe(
			"video/webm",
		);
		const mp4 = new TextEncoder().encode("\0\0\0\x18ftypisom");
		expect((await ask(routes.clips.POST, {}, mp4)).status).toBe(201);
		expect((await ask(routes.clips.POST, {}, new TextEncoder().encode("hello there"))).json.error.code).toBe(
			"not-a-clip",
		);
		expect((await ask(routes.clips.POST, {}, new Uint8Array(0))).status).toBe(400);
	});
});

describe("sky pictures", () => {
	const [width, height] = [64, 32];
	const rgb = new Float32Array(width * height * 3).map(
		(_, i) => (i % 3 === 0 ? 2 : 0.5) * (1 + Math.floor(i / 3 / width) / height),
	);
	const plane = (c: number) => rgb.filter((_, i) => i % 3 === c);
	const exr = (names: string[], over = (v: Float32Array) => v) =>
		writeExr({ width, height, channels: names.map((name, c) => ({ name, data: over(plane(c)) })), text: {} });
	const keep = (data: Uint8Array) => ask(routes.skies.POST, {}, data);
	const tableOf = async (file: string) => {
		const { response } = await ask(routes.sky.GET, { file });
		expect(response.status).toBe(200);
		return readSkyTable(new Uint8Array(await response.arrayBuffer()));
	};

	it("of HDR, EXR, 8 and 16 bits are kept as they came, with a table of their light", async () => {
		const bright = new Uint8Array(
			await sharp({ create: { width, height, channels: 3, background: "#ff8000" } })
				.png()
				.toBuffer(),
		);
		const deep = new Uint8Array(await sharp(bright).toColourspace("rgb16").png().toBuffer());
		for (const [data, ratio] of [
			[writeHdr({ width, height, rgb }), 4],
			[exr(["R", "G", "B"]), 4],
			// Half of full brightness in sRGB is 21.6 % of the light.
			[bright, 1 / 0.216],
			[deep, 1 / 0.216],
		] as const) {
			const kept = await keep(data);
			expect(kept).toMatchObject({ status: 201, json: { widthPx: width, heightPx: height, mended: 0 } });
			const table = await tableOf(kept.json.file);
			expect([table.width, table.height]).toEqual([width, height]);
			const [r, g] = unpackTexel(table.texels[40]);
			expect(r / g).toBeCloseTo(ratio, 0.5);
			expect(
				new Uint8Array(await (await ask(routes.blob.GET, { hash: kept.json.file })).response.arrayBuffer()),
			).toEqual(data);
		}
		expect((await keep(exr(["Y"]))).status).toBe(201);
	});

	it("of many pixels are read beside the server's own thread, which goes on answering", async () => {
		const [w, h] = [2048, 1024];
		const large = writeHdr({
			width: w,
			height: h,
			rgb: new Float32Array(w * h * 3).map((_, i) => 0.2 + ((i * 7919) % 101) / 50),
		});
		let longest = 0;
		let done = false;
		const began = performance.now();
		const kept = keep(large).finally(() => {
			done = true;
		});
		for (let at = began; !done; ) {
			await new Promise((r) => setTimeout(r, 1));
			longest = Math.max(longest, performance.now() - at);
			at = performance.now();
		}
		const whole = performance.now() - began;
		expect(await kept).toMatchObject({ status: 201, json: { widthPx: w, heightPx: h } });
		// What reads them at once keeps the thread for all of the time.
		expect(longest).toBeLessThan(whole / 2);
	});

	it("have their table made anew when it is gone, and keep it when blobs are collected", async () => {
		const { file } = (await keep(writeHdr({ width, height, rgb }))).json;
		const before = await tableOf(file);
		await pool.query("delete from made");
		expect(await tableOf(file)).toEqual(before);
		const { blob } = (await pool.query("select blob from made where maker = 'sky' and key = $1", [file])).rows[0];
		const { id } = await newShot("Under a picture");
		await edit(id, 0, {
			name: "air.hangPicture",
			picture: {
				file,
				name: "dusk",
				widthPx: width,
				heightPx: height,
				turnDeg: 0,
				lux: 500,
				saturation: 1,
				sun: false,
			},
		});
		await collectBlobs(pool, "0 seconds");
		expect((await ask(routes.blob.GET, { hash: blob })).status).toBe(200);
		expect((await ask(routes.sky.GET, { file })).status).toBe(200);
	});

	it("with infinities, values that are no numbers or below zero are mended, and it is said", async () => {
		const odd = exr(["R", "G", "B"], (v) =>
			v.map((x, i) => (i === 0 ? Number.POSITIVE_INFINITY : i === 1 ? Number.NaN : i === 2 ? -4 : x)),
		);
		const kept = await keep(odd);
		expect(kept.json.mended).toBe(9);
		for (const texel of (await tableOf(kept.json.file)).texels.slice(0, 8))
			for (const v of unpackTexel(texel)) expect(v >= 0 && v < 70_000).toBe(true);
		const one = await keep(writeHdr({ width: 1, height: 1, rgb: new Float32Array([1, 2, 3]) }));
		expect(one).toMatchObject({ status: 201, json: { widthPx: 1, heightPx: 1 } });
	});

	it("that are strips about the horizon are completed", async () => {
		const strip = Float32Array.from({ length: 96 * 16 * 3 }, (_, i) => (i < 96 * 3 ? 8 : 1));
		const kept = await keep(writeHdr({ width: 96, height: 16, rgb: strip }));
		expect(kept).toMatchObject({ status: 201, json: { widthPx: 96, heightPx: 16 } });
		const table = await tableOf(kept.json.file);
		expect([table.width, table.height]).toEqual([96, 48]);
		const at = (y: number) => unpackTexel(table.texels[y * 96 + 40])[0];
		expect(at(0) / at(30)).toBeCloseTo(8, 0);
		expect(at(0)).toBeCloseTo(at(16), 6);
		expect(at(47)).toBeCloseTo(at(30), 6);
	});

	it("that claim more than their file can hold are refused at once", async () => {
		// A header of 16,000 × 8,000 pixels in tiles, and one tile of a smaller level.
		const small = writeExr({
			width: 1,
			height: 1,
			channels: ["R", "G", "B"].map((name) => ({ name, data: new Float32Array(1) })),
			text: {},
		});
		const claims = Buffer.from(small);
		const window = claims.indexOf("dataWindow\0box2i\0") + "dataWindow\0box2i\0".length + 4;
		claims.writeInt32LE(15_999, window + 8);
		claims.writeInt32LE(7999, window + 12);
		expect(await keep(new Uint8Array(claims))).toMatchObject({
			status: 400,
			json: { error: { message: expect.stringMatching(/16000 × 8000 pixels, more than its \d+ bytes can hold/) } },
		});
	});

	it("that take long do so beside the others", () => {
		expect(isLargeSky(exr(["R", "G", "B"]))).toBe(false);
		expect(isLargeSky(new Uint8Array(30 * 1024 * 1024))).toBe(true);
	});

	it("that are none are refused in words", async () => {
		const says = async (data: Uint8Array, why: RegExp) => {
			const r = await keep(data);
			expect(r.status).toBe(400);
			expect(r.json.error.message).toMatch(why);
		};
		await says(new Uint8Array(0), /empty/);
		await says(new TextEncoder().encode("good evening"), /no picture/);
		await says(
			writeHdr({ width: 60, height: 60, rgb: new Float32Array(10_800) }),
			/twice as wide as high, or up to 12 times for a strip about the horizon; this one has 60 × 60/,
		);
		await says(exr(["A", "depth"]), /no channels R, G and B, but A, depth/);
		await says(exr(["R", "G", "B"]).slice(0, 400), /EXR/);
		await says(writeHdr({ width, height, rgb }).slice(0, 300), /line 0|ends/);
		for (const file of ["0".repeat(64), "x"])
			expect(await ask(routes.sky.GET, { file })).toMatchObject({ status: 404, json: { error: { code: "no-sky" } } });
	});
});

describe("prints", () => {
	const width = 6;
	const height = 4;

	/** A finished print of a shot with one ball, its file made here. */
	async function finished(title: string, lights: string[] = [], frames: number[] | null = null): Promise<string> {
		const { id: shotId } = await newShot(title);
		const doc = blankShot(title);
		doc.pieces = [newPiece("ball", "sphere", { name: "Ball" })];
		if (frames) doc.move = { rate: "24", frames: 8, shutter: 0.5, tracks: [] };
		const p = emptyPicture(width, height, lights);
		for (let i = 0; i < width * height; i++) {
			for (let c = 0; c < 3; c++) p.rgb[c][i] = 1000 + i;
			p.depth[i] = i < width ? 1e10 : 4;
			p.id[i] = i < width ? 0 : 3;
			p.normal[1][i] = 1;
			p.albedo[0][i] = 0.5;
			p.error[i] = 20;
			p.counts[i] = 64;
			p.masks[0].id[i] = p.id[i];
			p.masks[0].cover[i] = 1;
			if (p.light) {
				for (const [k, { rgb }] of p.light.lights.entries())
					for (let c = 0; c < 3; c++) rgb[c][i] = p.rgb[c][i] * (k === 0 ? 0.75 : 0.25);
				p.light.openness[i] = 0.5;
			}
		}
		const flat = p.rgb.map((c) => c.map(() => 500)) as typeof p.rgb;
		const clean = { rgb: flat, layers: [] };
		const id = randomUUID().slice(0, 8);
		await inTransaction(pool, async (client) => {
			const exr = await putBlob(
				client,
				writeExr({ width, height, channels: printChannels(p, clean), text: { title } }),
				"image/x-exr",
			);
			await client.query(
				"insert into prints (id, shot_id, revision, document, width, height, samples, seed, state, sequence, finished_at) values ($1, $2, 0, $3, $4, $5, 64, 1, 'done', $6, now())",
				[id, shotId, JSON.stringify(doc), width, height, frames !== null],
			);
			for (const [turn, frame] of (frames ?? [0]).entries())
				await client.query("insert into frames (print_id, frame, turn, state, exr) values ($1, $2, $3, 'done', $4)", [
					id,
					frame,
					turn,
					exr,
				]);
		});
		return id;
	}

	const pixels = async (id: string, query: string) => {
		const { response } = await ask(routes.pixels.GET, { id }, undefined, query);
		const bytes = await response.arrayBuffer();
		expect([...new Uint32Array(bytes, 0, 8)]).toEqual([width, height, 0, 0, width, height, width, height]);
		return new Uint16Array(bytes, 40);
	};

	it("are ordered, told, paused, let go on, cancelled and deleted", async () => {
		const { id } = await newShot("Ordered");
		const order = await ask(routes.prints.POST, { id }, { widthPx: 640, samples: 32, seed: 4, noisePercent: 2.5 });
		expect(order).toMatchObject({ status: 201, json: { width: 640, state: "queued", noisePercent: 2.5, done: 0 } });
		const print = order.json.id;
		const patch = (paused: unknown) => ask(routes.print.PATCH, { id: print }, { paused });
		expect((await patch(true)).json.state).toBe("paused");
		expect((await patch(true)).json.error.code).toBe("not-under-way");
		expect((await patch("no")).status).toBe(400);
		expect((await patch(false)).json.state).toBe("queued");
		const drop = () => ask(routes.print.DELETE, { id: print });
		expect((await drop()).json).toEqual({ cancelled: print });
		expect((await patch(true)).status).toBe(409);
		expect((await drop()).json).toEqual({ deleted: print });
		expect((await drop()).status).toBe(404);
		expect((await patch(true)).status).toBe(404);
	});

	it("of frames are ordered by a text, foretold, and opened one after the other", async () => {
		const { id, sequence } = await newShot("Frames");
		const order = (over: object) => ask(routes.prints.POST, { id }, { widthPx: 64, samples: 4, seed: 1, ...over });
		expect(await order({ frames: "0-9" })).toMatchObject({ status: 409, json: { error: { code: "no-move" } } });
		await edit(id, sequence, { name: "move.set", frames: 20_000 });
		expect((await order({ frames: "0-20000" })).json.error.message).toMatch(/frames 0 to 19999; 0-20000 goes beyond/);
		expect((await order({ frames: "9-0" })).json.error.message).toMatch(/ends before it begins/);
		expect((await order({ frames: "some" })).status).toBe(400);
		expect((await order({ frames: "0-19999", widthPx: 16_000 })).json.error.message).toMatch(
			/These 20,000 frames take some [\d,]+ GB/,
		);
		const all = await order({ frames: "0-19999" });
		expect(all.json.sequence).toEqual({
			frames: 20_000,
			done: 0,
			first: 0,
			last: 19_999,
			rate: "24",
			steadied: [],
			videos: [],
		});
		expect(all.json.samplesLeft).toBe(64 * all.json.height * 4 * 20_000);
		expect((await pool.query("select 1 from units where print_id = $1", [all.json.id])).rowCount).toBe(0);
		const listed = (await ask(routes.frames.GET, { id: all.json.id })).json.frames;
		expect([listed.length, listed[7].frame, listed[7].state]).toEqual([20_000, 7, "waiting"]);
		for (const name of ["exr", "png"] as const)
			expect((await ask(routes[name].GET, { id: all.json.id }, undefined, "?frame=3")).json.error.code).toBe(
				"not-done",
			);
		expect((await ask(routes.archive.GET, { id: all.json.id }, undefined, "?kind=exr")).json.error.code).toBe(
			"no-frames",
		);
		expect((await ask(routes.video.POST, { id: all.json.id }, { kind: "mp4" })).json.error.code).toBe("no-frames");
		expect((await ask(routes.print.DELETE, { id: all.json.id })).json).toEqual({ cancelled: all.json.id });
	});

	it("of frames are read frame by frame, handed out together, and made a video that can be called off", async () => {
		const id = await finished("Frame by frame", [], [2, 5]);
		const one = await ask(routes.png.GET, { id }, undefined, "?frame=5");
		expect(one.response.headers.get("content-disposition")).toContain(`print-${id}_0005.png`);
		expect(fromHalf((await pixels(id, "?frame=5"))[0])).toBeGreaterThan(0);
		expect((await ask(routes.exr.GET, { id }, undefined, "?frame=3")).json.error.code).toBe("no-frame");
		expect((await ask(routes.exr.GET, { id }, undefined, "?frame=-1")).json.error.code).toBe("bad-frame");
		const archive = async (query: string) =>
			unzipSync(new Uint8Array(await (await ask(routes.archive.GET, { id }, undefined, query)).response.arrayBuffer()));
		expect(Object.keys(await archive("?kind=exr"))).toEqual([`move-${id}_0002.exr`, `move-${id}_0005.exr`]);
		const steadied = (frame: number) =>
			ask(routes.pixels.GET, { id }, undefined, `?frame=${frame}&clean=1&steady=1`).then(async ({ response }) => ({
				light: fromHalf(new Uint16Array(await response.arrayBuffer())[20]),
				kept: response.headers.get("cache-control"),
			}));
		const before = await steadied(5);
		expect(before.kept).toBe("no-store");
		await inTransaction(pool, async (client) => {
			const channels = ["R", "G", "B"].map((c) => ({
				name: `steady.${c}`,
				data: new Float32Array(width * height).fill(1500),
				half: true,
			}));
			const blob = await putBlob(client, writeExr({ width, height, channels, text: {} }), "image/x-exr");
			await client.query("update frames set steady = $2 where print_id = $1 and frame = 5", [id, blob]);
		});
		// Three times the light of the clean picture.
		const after = await steadied(5);
		expect(after.light / before.light).toBeCloseTo(3, 1);
		expect(after.kept).toContain("immutable");
		expect((await steadied(2)).light).toBe(before.light);
		expect(Object.keys(await archive("?kind=exr&steady=1"))).toEqual([
			`move-${id}_0002.exr`,
			`move-${id}_0005.exr`,
			`move-${id}_0005.steady.exr`,
		]);
		const [png] = Object.values(await archive("?kind=png"));
		expect(await sharp(png).metadata()).toMatchObject({ width, height, format: "png" });
		expect((await ask(routes.archive.GET, { id }, undefined, "?kind=tiff")).json.error.code).toBe("bad-choice");
		const ordered = await ask(routes.video.POST, { id }, { kind: "webm" });
		expect(ordered).toMatchObject({ status: 201, json: { videos: [{ kind: "webm", state: "waiting", frames: 2 }] } });
		expect((await ask(routes.video.GET, { id }, undefined, "?kind=webm")).json.error.code).toBe("no-video");
		expect((await ask(routes.video.POST, { id }, { kind: "gif" })).status).toBe(400);
		const query = `?video=${ordered.json.videos[0].id}`;
		expect((await ask(routes.video.DELETE, { id }, undefined, query)).json.deleted).toBe(ordered.json.videos[0].id);
		expect((await ask(routes.video.DELETE, { id }, undefined, query)).status).toBe(404);
		expect((await ask(routes.frames.GET, { id: "none" })).status).toBe(404);
	});

	it("have small frames that are kept for those who open the shot again", async () => {
		const doc = { ...blankShot("Small frames"), move: { ...usualMove(), frames: 4 } };
		const { id } = await createShot(pool, doc);
		const n = 8 * 5;
		const plane = () => Float32Array.from({ length: n }, (_, i) => 100 + i);
		const of = (frame: number, sign = "a") =>
			packSmall({
				...{ frame, sign, width: 8, height: 5, part: { x: 0, y: 0, width: 1, height: 1 }, ev100: 12 },
				rgb: [plane(), plane(), plane()],
				probe: { frame, across: 1, down: 1, ids: new Uint32Array(1), distancesM: new Float64Array([3]) },
			});
		const put = async (bytes: Uint8Array, shot = id) => {
			const { status, json } = await ask(smallRoute.PUT, { id: shot }, bytes);
			return { status, json };
		};
		const kept = async () => {
			const { response } = await ask(smallRoute.GET, { id });
			return [...parted(new Uint8Array(await response.arrayBuffer()))].map(unpackSmall);
		};
		expect(await kept()).toEqual([]);
		for (const frame of [3, 1]) expect((await put(of(frame))).status).toBe(200);
		expect((await put(of(1, "b"))).json).toEqual({ frame: 1, sign: "b" });
		expect((await kept()).map((k) => [k.frame, k.sign])).toEqual([
			[1, "b"],
			[3, "a"],
		]);
		expect(await put(of(4))).toMatchObject({ status: 400, json: { error: { code: "bad-frame" } } });
		expect((await put(new Uint8Array(40))).json.error.message).toMatch(/no small frame/);
		expect((await put(of(0), "none")).status).toBe(404);
	});

	it("are those of a delivery: its own size, beyond the frame where it reaches there, through its own aim", async () => {
		const doc = blankShot("Delivered");
		const tall = {
			id: "tall",
			name: "Tall",
			ratio: 9 / 16,
			widthPx: 90,
			share: 1,
			middle: [0.5, 0.5] as [number, number],
		};
		doc.deliveries = [
			tall,
			{ ...tall, id: "up", shift: [0, 0.25], aim: [12, 3] },
			{ ...tall, id: "tiny", name: "Tiny", share: 0.05, widthPx: 2000 },
		];
		const { id } = await createShot(pool, doc);
		const order = { widthPx: 640, samples: 16, seed: 1 };
		const of = async (delivery: string) => ask(routes.prints.POST, { id }, { ...order, delivery });
		expect((await of("tall")).json).toMatchObject({ height: 160, part: { width: 90, height: 160, y: 0 } });
		const up = await of("up");
		expect(up.json).toMatchObject({ part: { width: 90, height: 160, y: -40 }, area: { y: -40 } });
		const work = await readWork(pool, up.json.id);
		expect(work?.document.camera.headingDeg).toBeCloseTo(doc.camera.headingDeg + 12, 6);
		expect(work?.document.camera.pitchDeg).toBeCloseTo(doc.camera.pitchDeg + 3, 6);
		expect(await of("none")).toMatchObject({ status: 404, json: { error: { code: "no-delivery" } } });
		expect((await of("tiny")).json.error.message).toMatch(/Tiny is so small a part of the frame/);
		for (const p of (await ask(routes.prints.GET, { id })).json.prints) await ask(routes.print.DELETE, { id: p.id });
	});

	it("are refused, in words, when they would fill the disk", async () => {
		const { id } = await newShot("Large");
		const disk = await statfs(".");
		// A gigabyte may be taken: enough for a small print, not for the largest.
		process.env.INQUADRA_LEAST_FREE_GB = String((disk.bavail * disk.bsize) / 1e9 - 1);
		try {
			const large = await ask(routes.prints.POST, { id }, { widthPx: 16_384, samples: 16, seed: 1 });
			expect(large).toMatchObject({
				status: 507,
				json: { error: { code: "disk-full", message: expect.stringMatching(/takes some \d+ GB of the disk/) } },
			});
			const small = await ask(routes.prints.POST, { id }, { widthPx: 640, samples: 16, seed: 1 });
			expect(small.status).toBe(201);
			await ask(routes.print.DELETE, { id: small.json.id });
			await ask(routes.print.DELETE, { id: small.json.id });
		} finally {
			delete process.env.INQUADRA_LEAST_FREE_GB;
		}
	});

	it("are measured by a pilot before they are ordered, but not while others are under way", async () => {
		const { id } = await newShot("Piloted");
		const order = { widthPx: 640, samples: 32, seed: 4, part: { x: 0.5, y: 0, width: 0.25, height: 1 } };
		const asked = ask(routes.pilot.POST, { id }, order);
		let claimed: Awaited<ReturnType<typeof claimPilot>> = null;
		while (!claimed) claimed = await claimPilot(pool);
		expect(claimed).toMatchObject({
			width: 640,
			part: { x: 320, y: 0, width: 160, height: claimed.height },
			document: { title: "Piloted" },
		});
		expect(await claimPilot(pool)).toBeNull();
		const result = { msPerSample: 0.01, threads: 3, noises: [0.1], fall: 0.5 };
		await answerPilot(pool, claimed.id, result);
		expect((await asked).json).toEqual({ pilot: result });
		expect(
			(await ask(routes.pilot.POST, { id }, { ...order, part: { x: 0.9, y: 0, width: 0.2, height: 1 } })).json.error
				.message,
		).toMatch(/goes beyond/);
		const print = await ask(routes.prints.POST, { id }, order);
		expect(print.json.part).toEqual({ x: 320, y: 0, width: 160, height: print.json.height });
		expect((await ask(routes.pilot.POST, { id }, order)).json).toEqual({ pilot: null });
		await ask(routes.print.DELETE, { id: print.json.id });
	});

	it("know what they and all before them may take yet, of any shot", async () => {
		const [one, two] = [await newShot("In the queue"), await newShot("Behind it")];
		const first = await ask(routes.prints.POST, { id: one.id }, { widthPx: 100, samples: 32, seed: 1 });
		const second = await ask(routes.prints.POST, { id: two.id }, { widthPx: 64, samples: 16, seed: 1 });
		const own = first.json.width * first.json.height * 32;
		expect(first.json).toMatchObject({ samplesLeft: own, samplesAhead: 0 });
		expect(second.json).toMatchObject({ samplesLeft: second.json.width * second.json.height * 16, samplesAhead: own });
		await ask(routes.print.PATCH, { id: first.json.id }, { paused: true });
		expect((await ask(routes.print.GET, { id: second.json.id })).json.samplesAhead).toBe(0);
		for (const p of [first, second]) await ask(routes.print.DELETE, { id: p.json.id });
	});

	it("are shown light by light where their file has it", async () => {
		const id = await finished("Light by light", ["sun", "sky"]);
		const listed = (await ask(routes.layers.GET, { id })).json.layers;
		expect(listed).toEqual([
			"picture",
			"depth",
			"normal",
			"albedo",
			"pieces",
			"edges",
			"openness",
			"samples",
			"noise",
			"fog",
			"light.sky",
			"light.sun",
		]);
		const whole = await pixels(id, "");
		const sun = await pixels(id, "?layer=light.sun");
		expect(fromHalf(sun[0]) / fromHalf(whole[0])).toBeCloseTo(0.75, 2);
		expect(fromHalf((await pixels(id, "?layer=openness"))[0])).toBeCloseTo(0.5, 3);
		expect((await ask(routes.pixels.GET, { id }, undefined, "?layer=light.moon")).json.error.message).toMatch(
			/no layer for light.moon/,
		);
		const plain = await finished("Plain");
		expect((await ask(routes.layers.GET, { id: plain })).json.layers).not.toContain("fog");
		expect((await ask(routes.pixels.GET, { id: plain }, undefined, "?layer=fog")).status).toBe(409);
	});

	it("need numbers that a print can have", async () => {
		const { id } = await newShot("Numbers");
		for (const order of [
			{ widthPx: 8, samples: 16, seed: 1 },
			{ widthPx: 64, samples: 17, seed: 1 },
			{ widthPx: 64, samples: 16, seed: -1 },
			{ widthPx: 64, samples: 16, seed: 1, noisePercent: 0 },
			{ widthPx: 64, samples: 16 },
		])
			expect((await ask(routes.prints.POST, { id }, order)).status).toBe(400);
		expect((await ask(routes.shot.GET, { id })).json.prints).toEqual([]);
	});

	it("are listed without their shot's document, and so is how that stands", async () => {
		const { id } = await newShot("Narrow");
		await ask(routes.prints.POST, { id }, { widthPx: 64, samples: 16, seed: 1 });
		const { prints } = (await ask(routes.prints.GET, { id })).json;
		expect(prints).toHaveLength(1);
		expect(prints[0]).toMatchObject({ shotId: id, done: 0, samplesLeft: 64 * 35 * 16 });
		const log = (await ask(routes.log.GET, { id })).json;
		expect(log).toEqual({
			standing: { id, title: "Narrow", revision: 0, standsFor: 0, sequence: 0, canUndo: false, canRedo: false },
			checkpoints: [],
			left: [],
			history: [],
		});
		for (const route of [routes.log, routes.prints])
			expect((await ask(route.GET, { id: "nowhere" })).json.error.code).toBe("no-shot");
	});

	it("have no file before they are done", async () => {
		const { id } = await newShot("Early");
		const { json } = await ask(routes.prints.POST, { id }, { widthPx: 64, samples: 16, seed: 1 });
		for (const name of ["pixels", "png", "exr"] as const)
			expect((await ask(routes[name].GET, { id: json.id })).json.error.code).toBe("not-done");
		await ask(routes.print.DELETE, { id: json.id });
	});

	it("give their pixels as they were traced, and without their noise", async () => {
		const id = await finished("Pixels");
		const [raw, clean] = [await pixels(id, ""), await pixels(id, "?clean=1")];
		expect(raw[0]).not.toBe(clean[0]);
		expect(new Set(clean.filter((_, i) => i % 4 === 0)).size).toBe(1);
		expect(raw[3]).toBe(0x3c00);
	});

	it("give their layers, and say which they do not have", async () => {
		const id = await finished("Layers");
		const depth = await pixels(id, "?layer=depth");
		expect(depth[0]).toBe(0);
		for (const layer of ["normal", "albedo", "pieces", "edges", "samples", "noise"])
			expect((await pixels(id, `?layer=${layer}`)).some((v) => v !== 0)).toBe(true);
		expect((await ask(routes.pixels.GET, { id }, undefined, "?layer=smell")).json.error).toEqual({
			code: "bad-layer",
			message: 'There is no layer "smell".',
		});
	});

	it("tell what lies at a place, by name", async () => {
		const id = await finished("Places");
		expect((await ask(routes.at.GET, { id }, undefined, "?x=0.5&y=0.9")).json).toMatchObject({
			x: 3,
			y: 3,
			name: "Ball",
			depthM: 4,
			samples: 64,
			id: 3,
		});
		expect((await ask(routes.at.GET, { id }, undefined, "?x=0&y=0")).json).toMatchObject({
			x: 0,
			y: 0,
			name: "Sky",
			depthM: null,
		});
		expect((await ask(routes.at.GET, { id }, undefined, "?x=1&y=1")).json).toMatchObject({
			x: width - 1,
			y: height - 1,
		});
		expect((await ask(routes.at.GET, { id }, undefined, "?x=2&y=0")).json.error.code).toBe("outside");
		await ask(routes.print.DELETE, { id });
		expect((await ask(routes.at.GET, { id }, undefined, "?x=0.5&y=0.9")).status).toBe(404);
		for (const query of ["", "?x=9&y=0", "?x=a&y=0"])
			expect((await ask(routes.at.GET, { id }, undefined, query)).json.error.code).toBe("bad-place");
	});

	it("are downloaded with places and facing, as half floats where they suffice, and as grey depth", async () => {
		const id = await finished("For others");
		const read = async (query: string) =>
			readExr(new Uint8Array(await (await ask(routes.exr.GET, { id }, undefined, query)).response.arrayBuffer()));
		const plain = await read("");
		const full = await read("?half=1&places=1");
		const at = (exr: typeof full, name: string, i: number) =>
			exr.channels.find((c) => c.name === name)?.data[i] as number;
		expect(full.channels.map((c) => c.name)).toEqual(
			[...plain.channels.map((c) => c.name), "P.X", "P.Y", "P.Z", "facing"].sort(),
		);
		expect(Math.abs(at(full, "R", 5) / at(plain, "R", 5) - 1)).toBeLessThan(0.001);
		// The blank shot's lens looks along −Z from 1.65 m: what is 4 m deep lies there, whatever pixel it is in.
		const i = width * height - 1;
		expect(at(full, "P.Z", i)).toBeCloseTo(-4, 5);
		expect(at(full, "P.Y", i)).toBeLessThan(1.65);
		expect(at(full, "P.X", i)).toBeGreaterThan(0);
		expect(at(full, "facing", i)).toBeGreaterThan(0);
		expect(at(full, "P.Z", 0)).toBe(0);
		const { response } = await ask(routes.depth.GET, { id }, undefined, "?near=2&far=6");
		const { data, info } = await sharp(Buffer.from(await response.arrayBuffer()))
			.toColourspace("grey16")
			.raw({ depth: "ushort" })
			.toBuffer({ resolveWithObject: true });
		const grey = new Uint16Array(data.buffer, data.byteOffset, data.length / 2);
		expect(info).toMatchObject({ width, height, channels: 1 });
		expect(grey[0]).toBe(0);
		expect(Math.abs(grey[i] - 32_768)).toBeLessThanOrEqual(1);
		expect((await ask(routes.depth.GET, { id }, undefined, "?near=6&far=2")).json.error.code).toBe("bad-distance");
		expect((await ask(routes.exr.GET, { id }, undefined, "?half=2")).json.error.code).toBe("bad-choice");
	});

	it("are downloaded as EXR that reads back and as PNG with the finish of now", async () => {
		const id = await finished("Files");
		const exr = readExr(new Uint8Array(await (await ask(routes.exr.GET, { id })).response.arrayBuffer()));
		expect(exr.channels.map((c) => c.name)).toContain("clean.R");
		const png = async (query: string) =>
			sharp(Buffer.from(await (await ask(routes.png.GET, { id }, undefined, query)).response.arrayBuffer()));
		expect(await (await png("")).metadata()).toMatchObject({ format: "png", width, height });
		const mean = async (query: string) => (await (await png(query)).stats()).channels[0].mean;
		expect(await mean("?clean=1")).toBeLessThan(await mean(""));
	});
});

describe("the stream of events", () => {
	const open = (signal?: AbortSignal) =>
		routes.events.GET(new Request("http://127.0.0.1/api/events", { headers: { host: "127.0.0.1" }, signal }), {
			params: Promise.resolve({}),
		});
	const listening = async () =>
		(
			await pool.query(
				"select 1 from pg_stat_activity where query = 'listen inquadra' and datname = current_database()",
			)
		).rowCount;
	it("needs one connection to the database, however many pages listen, and none when they have left", async () => {
		const ending = Array.from({ length: 40 }, () => new AbortController());
		const bodies = await Promise.all(ending.map(async (e) => (await open(e.signal)).body?.getReader()));
		await until("the listener", async () => (await listening()) === 1);
		await ask(routes.shots.POST, {}, { title: "Heard by all" });
		const heard = new TextDecoder();
		for (const body of bodies) {
			let all = "";
			while (!all.includes('"shot"')) all += heard.decode((await body?.read())?.value);
		}
		for (const e of ending) e.abort();
		await until("the end of listening", async () => (await listening()) === 0);
	});
	it("leaves nothing behind when it is closed before it has begun", async () => {
		const ended = new AbortController();
		ended.abort();
		await open(ended.signal);
		expect(streams()).toBe(0);
		await (await open()).body?.cancel();
		expect(streams()).toBe(0);
	});
	it("is refused when there are too many", async () => {
		const all = await Promise.all(Array.from({ length: 200 }, () => open()));
		expect(all.every((r) => r.status === 200)).toBe(true);
		expect((await open()).status).toBe(503);
		await Promise.all(all.map((r) => r.body?.cancel()));
		expect(streams()).toBe(0);
	});
});
