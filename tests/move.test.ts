import { type ChildProcess, execFileSync } from "node:child_process";
import { chmodSync, existsSync, mkdtempSync, readdirSync, readFileSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type pg from "pg";
import { afterAll, afterEach, beforeAll, describe, expect, it } from "vitest";
import { blankShot, newPiece } from "../src/core/doc/defaults.ts";
import { usualMove } from "../src/core/doc/edits/move.ts";
import type { Move } from "../src/core/doc/schema.ts";
import { readExr } from "../src/core/formats/exr.ts";
import { framesOf, tellingOrder } from "../src/core/time/frames.ts";
import { getBlob } from "../src/store/blobs.ts";
import { listFrames } from "../src/store/frames.ts";
import { cancelPrint, deletePrint, orderPrint, pausePrint, readPrint } from "../src/store/prints.ts";
import { createShot } from "../src/store/shots.ts";
import { claimSteady, finishSteady, type SteadyWork, steadyWaits } from "../src/store/steady.ts";
import { listVideos, orderVideo } from "../src/store/videos.ts";
import { cli, freshDatabase, killed, startPress, until } from "./support.ts";

let pool: pg.Pool;
let url: string;
const running: ChildProcess[] = [];
const folder = mkdtempSync(join(tmpdir(), "inquadra-"));
const file = (name: string) => join(folder, name);

const even = (a: unknown, b: unknown) => [
	{ timeS: 0, value: a, leave: "even" as const },
	{ timeS: 0.25, value: b, leave: "even" as const },
];

/** A ball that flies by a lens that rises. */
const shot = (over: Partial<Move> = {}, title = "Fly by") => ({
	...blankShot(title),
	camera: { ...blankShot().camera, ratio: 97 / 61 },
	pieces: [
		newPiece("ball", "sphere", { position: [0, 0, -8], size: [2, 2, 2] }),
		newPiece("post", "box", { position: [2, 0, -9] }),
	],
	move: {
		...usualMove(),
		frames: 7,
		tracks: [
			{ value: "camera.place" as const, keys: even([0, 1.6, 0], [0.4, 2, -0.5]) },
			{ value: "piece.place" as const, of: "ball", keys: even([-2, 0, -8], [2, 0, -8]) },
			{ value: "finish.exposure" as const, keys: even(0, 1) },
		],
		...over,
	},
});

const order = { width: 97, height: 61, samples: 8, seed: 3, noisePercent: null as number | null };
const size = ["--width", "97", "--height", "61", "--samples", "8", "--seed", "3"];

beforeAll(async () => {
	({ pool, url } = await freshDatabase("test_move"));
});
afterEach(() => killed(pool, ...running.splice(0)));
afterAll(() => pool.end());

const press = (threads = 1) => {
	const p = startPress(url, threads);
	running.push(p);
	return p;
};

async function orderFrames(title: string, over = {}) {
	const s = await createShot(pool, shot({}, title));
	const id = await orderPrint(pool, s.id, s.revision, s.document, {
		...order,
		frames: tellingOrder(framesOf({ from: 0, to: 6 })),
		...over,
	});
	return { id, shot: s.id };
}

const done = (id: string) =>
	until("the frames", async () => {
		const p = await readPrint(pool, id);
		if (p?.state === "failed") throw new Error(p.message ?? "failed");
		return p?.state === "done" ? p : null;
	});
const digests = async (id: string) => (await listFrames(pool, id)).map((f) => f.pixelsSha256);

/** Count, rate, size and length of a video, as an outside reader has them. */
function probed(path: string) {
	const text = execFileSync("ffprobe", [
		...["-v", "error", "-select_streams", "v:0", "-count_frames", "-of", "json"],
		...["-show_entries", "stream=codec_name,width,height,r_frame_rate,nb_read_frames:format=duration", path],
	]).toString();
	const { streams, format } = JSON.parse(text);
	return { ...streams[0], duration: Number(format.duration) };
}

describe("frames of a move", () => {
	let whole: (string | null)[];

	it("are the same alone and in a sequence, from the press and from the command line, with any number of workers", async () => {
		press(1);
		press(2);
		const { id } = await orderFrames("Whole");
		const print = await done(id);
		expect(print.sequence).toEqual({
			frames: 7,
			done: 7,
			first: 0,
			last: 6,
			rate: "24",
			steadied: expect.any(Array),
			videos: [],
		});
		expect(print.done).toBe(1);
		whole = await digests(id);
		expect(new Set(whole).size).toBe(7);
		const all = await cli(
			url,
			"print",
			"Whole",
			...size,
			"--frames",
			"0-6:2",
			"--out",
			file("all_%04d.exr"),
			"--video",
			file("all.mp4"),
		);
		expect(all.answer.error).toBeUndefined();
		const frames = all.answer.frames as { frame: number; out: string; pixelsSha256: string }[];
		expect(frames.map((f) => f.frame)).toEqual([0, 2, 4, 6]);
		expect(frames.map((f) => f.pixelsSha256)).toEqual([0, 2, 4, 6].map((n) => whole[n]));
		expect(all.answer.video).toEqual({ file: file("all.mp4"), frames: 4, fps: 12 });
		const alone = await cli(
			url,
			"print",
			"Whole",
			...size,
			"--frames",
			"4",
			"--out",
			file("alone.exr"),
			"--workers",
			"1",
		);
		expect(alone.answer.frames).toEqual([{ frame: 4, out: file("alone.exr"), pixelsSha256: whole[4] }]);
		expect(readFileSync(file("alone.exr")).equals(readFileSync(file("all_0004.exr")))).toBe(true);
		expect(readdirSync(folder).some((name) => name.endsWith(".part"))).toBe(false);
	});

	it("hold what was traced and what is clean, with their number in the file", async () => {
		const frames = await pool.query(
			"select exr from frames f join prints p on p.id = f.print_id where frame = 3 and p.sequence limit 1",
		);
		const exr = readExr((await getBlob(pool, frames.rows[0].exr)) as Buffer);
		expect(exr.channels.map((c) => c.name)).toEqual(["B", "G", "R", "Z", "clean.B", "clean.G", "clean.R", "id"]);
	});

	it("have their neighbours taken in once these are done, in files of their own: what was traced stays as it was", async () => {
		press(2);
		const [{ id }] = (
			await pool.query("select print_id as id from frames group by print_id having count(*) = 7 limit 1")
		).rows;
		const frames = await until("all of them", async () => {
			const all = await listFrames(pool, id);
			return all.every((f) => f.steady) ? all : null;
		});
		expect(frames.map((f) => f.pixelsSha256)).toEqual(whole);
		expect(await steadyWaits(pool, id)).toBe(0);
		expect((await readPrint(pool, id))?.sequence?.steadied).toEqual([0, 1, 2, 3, 4, 5, 6]);
		const exr = readExr((await getBlob(pool, frames[3].steady as string)) as Buffer);
		expect(exr.channels.map((c) => c.name)).toEqual(["steady.B", "steady.G", "steady.R"]);
		expect(exr).toMatchObject({ width: 97, height: 61, text: { frame: "3", beside: "1 2 4 5" } });
		const clean = readExr((await getBlob(pool, frames[3].exr as string)) as Buffer).channels.find(
			(c) => c.name === "clean.G",
		);
		const steady = exr.channels[1].data;
		// The ground is steadied; together they are as bright.
		const sum = (of: ArrayLike<number>) => Array.from(of).reduce((s, v) => s + v, 0);
		expect(sum(steady) / sum(clean?.data ?? [])).toBeCloseTo(1, 1);
		expect(Array.from(steady).filter((v, i) => v !== clean?.data[i]).length).toBeGreaterThan(500);
		// A video of them waits until all are there, and is as long as ever.
		const document = shot({}, "Whole");
		await orderVideo(pool, id, "mp4", document, { clean: true, steady: true });
		const video = await until("the video", async () => (await listVideos(pool, id)).find((v) => v.state === "done"));
		writeFileSync(file("steady.mp4"), (await getBlob(pool, video.blob as string)) as Buffer);
		expect(probed(file("steady.mp4"))).toMatchObject({ nb_read_frames: "7" });
	});

	it("that are taken in by a worker that dies go to the next, and leave nothing behind when the print is deleted", async () => {
		const { id } = await orderFrames("Steadied twice", { frames: [0, 1] });
		const first = press(1);
		await done(id);
		await killed(pool, first);
		await pool.query("update frames set steady = null, steady_until = null where print_id = $1", [id]);
		const [lost, other] = (await Promise.all([claimSteady(pool), claimSteady(pool)])).sort((a, b) =>
			a && b ? a.frame - b.frame : 0,
		);
		expect(lost).toMatchObject({ id, frame: 0, beside: [{ away: 1, frame: 1 }] });
		expect(other).toMatchObject({ id, frame: 1, beside: [{ away: 1, frame: 0 }] });
		expect(await claimSteady(pool)).toBeNull();
		await pool.query("update frames set steady_until = now() - interval '1 second' where print_id = $1", [id]);
		press(1);
		const frames = await until("both", async () => {
			const all = await listFrames(pool, id);
			return all.every((f) => f.steady) ? all : null;
		});
		// The one that wakes late changes nothing.
		expect(await finishSteady(pool, lost as SteadyWork, frames[1].steady as string)).toBe(false);
		await deletePrint(pool, id);
		expect(await getBlob(pool, frames[0].steady as string)).toBeNull();
	});

	it("make a video that other programs read: count, rate, size and length", async () => {
		const { answer } = await cli(
			url,
			"print",
			"Whole",
			...size,
			"--frames",
			"0-6",
			"--out",
			file("v_%02d.exr"),
			"--video",
			file("v.webm"),
		);
		expect(answer.error).toBeUndefined();
		// Odd sides are a pixel more.
		const { duration, ...told } = probed(file("v.webm"));
		expect(told).toEqual({ codec_name: "vp9", width: 98, height: 62, r_frame_rate: "24/1", nb_read_frames: "7" });
		expect(duration).toBeCloseTo(7 / 24, 2);
		expect(probed(file("all.mp4"))).toMatchObject({
			codec_name: "h264",
			width: 98,
			height: 62,
			r_frame_rate: "12/1",
			nb_read_frames: "4",
		});
	});

	it("are those of an undisturbed print after their worker was killed and they were paused", async () => {
		const { id } = await orderFrames("Disturbed");
		const first = press(1);
		await until("two frames", async () => ((await readPrint(pool, id))?.sequence?.done ?? 0) >= 2);
		await killed(pool, first);
		await pausePrint(pool, id, true);
		const second = press(1);
		await new Promise((r) => setTimeout(r, 300));
		second.kill("SIGTERM");
		await pausePrint(pool, id, false);
		press(2);
		await done(id);
		expect(await digests(id)).toEqual(whole);
	});

	it("are kept when the disk is full at the 37th, and go on to those of an undisturbed print once there is room", async () => {
		const long = shot({ frames: 42 }, "Full disk");
		const s = await createShot(pool, long);
		const small = { ...order, width: 32, height: 20, samples: 4, frames: tellingOrder(framesOf({ from: 0, to: 41 })) };
		const undisturbed = await orderPrint(pool, s.id, s.revision, s.document, small);
		press(2);
		await done(undisturbed);
		await pool.query(`create function no_room() returns trigger language plpgsql as $$ begin
			if (select count(*) from frames where print_id <> '${undisturbed}' and state = 'done'
				and print_id in (select id from prints where shot_id = '${s.id}')) >= 36 then
				raise exception 'no space left on device' using errcode = '53100'; end if; return new; end $$;
			create trigger no_room before insert on blobs for each row execute function no_room()`);
		const full = await orderPrint(pool, s.id, s.revision, s.document, { ...small, seed: small.seed });
		const paused = await until("the pause", async () => {
			const p = await readPrint(pool, full);
			return p?.state === "paused" ? p : null;
		});
		expect(paused.message).toMatch(/disk is full/);
		expect(paused.sequence?.done).toBe(36);
		await pool.query("drop trigger no_room on blobs; drop function no_room()");
		await pausePrint(pool, full, false);
		await done(full);
		expect(await digests(full)).toEqual(await digests(undisturbed));
	});

	it("come in an order that shows the whole move early", async () => {
		const { id } = await orderFrames("Early");
		const p = press(1);
		const early = await until("three frames", async () => {
			const some = (await listFrames(pool, id)).filter((f) => f.state === "done").map((f) => f.frame);
			return some.length >= 3 ? some : null;
		});
		await killed(pool, p);
		for (const frame of [0, 6, 3]) expect(early).toContain(frame);
		expect(await cancelPrint(pool, id)).toBe(true);
		// What is done stays until the print is deleted.
		expect((await listFrames(pool, id)).filter((f) => f.exr).length).toBeGreaterThanOrEqual(3);
		const [kept] = (await listFrames(pool, id)).filter((f) => f.exr);
		expect(await deletePrint(pool, id)).toBe(true);
		expect(await getBlob(pool, kept.exr as string)).toBeNull();
	});

	it("have the same noise when that is asked, and each its own otherwise", async () => {
		await createShot(pool, { ...shot({ tracks: [] }, "Still move") });
		const steady = await cli(
			url,
			"print",
			"Still move",
			...size,
			"--frames",
			"0-1",
			"--out",
			file("s_%d.exr"),
			"--steady-noise",
		);
		const other = await cli(url, "print", "Still move", ...size, "--frames", "0-1", "--out", file("o_%d.exr"));
		const sums = (a: typeof steady) => (a.answer.frames as { pixelsSha256: string }[]).map((f) => f.pixelsSha256);
		expect(new Set(sums(steady)).size).toBe(1);
		expect(new Set(sums(other)).size).toBe(2);
	});

	it("and moments of it are printed as stills", async () => {
		const { answer } = await cli(
			url,
			"print",
			"Whole",
			...size,
			"--time",
			"0.125",
			"--out",
			file("moment.exr"),
			"--png",
			file("moment.png"),
		);
		expect(answer.error).toBeUndefined();
		expect(existsSync(file("moment.png"))).toBe(true);
		expect(answer.pixelsSha256).not.toBe(
			(await cli(url, "print", "Whole", ...size, "--out", file("still.exr"))).answer.pixelsSha256,
		);
	});
});

describe("what cannot be printed", () => {
	const refused = async (...args: string[]) => (await cli(url, "print", ...args)).answer.error?.message ?? "";
	it("is said in a sentence", async () => {
		await createShot(pool, blankShot("No move"));
		await createShot(pool, shot({ frames: 20_000 }, "Endless"));
		expect(await refused("No move", "--frames", "0-3", "--out", file("x_%d.exr"))).toMatch(/has no move/);
		expect(await refused("Whole", "--frames", "5-9", "--out", file("x_%d.exr"))).toMatch(
			/frames 0 to 6; 5-9 goes beyond/,
		);
		expect(await refused("Whole", "--frames", "4-2", "--out", file("x_%d.exr"))).toMatch(/ends before it begins/);
		expect(await refused("Whole", "--frames", "all", "--out", file("x_%d.exr"))).toMatch(/names no frames/);
		expect(await refused("Whole", "--frames", "0-3", "--out", file("x.exr"))).toMatch(/need a number/);
		expect(await refused("Whole", "--frames", "0-3", "--out", "/no/where/x_%d.exr")).toMatch(/folder/);
		expect(await refused("Whole", "--frames", "0-3", "--out", file("x_%d.exr"), "--video", file("x.gif"))).toMatch(
			/mp4 or .webm/,
		);
		expect(await refused("Endless", "--frames", "0-19999", "--width", "16000", "--out", file("x_%d.exr"))).toMatch(
			/20,000 frames take some [\d,]+ GB/,
		);
		expect(await refused("Whole", "--samples", "12", "--out", file("x.exr"))).toMatch(/4, 8, 16 or a multiple of 16/);
	});

	it("for want of ffmpeg, or because it was ended in mid-work, leaves the frames that are done", async () => {
		const before = process.env.INQUADRA_FFMPEG;
		try {
			process.env.INQUADRA_FFMPEG = file("nothing");
			expect(
				await refused("Whole", ...size, "--frames", "0-2", "--out", file("m_%d.exr"), "--video", file("m.mp4")),
			).toMatch(/ffmpeg is not installed.*frames are kept/);
			expect(existsSync(file("m_0.exr"))).toBe(true);
			writeFileSync(file("dies"), "#!/bin/sh\nhead -c 20000 > /dev/null\nkill -9 $$\n");
			chmodSync(file("dies"), 0o755);
			process.env.INQUADRA_FFMPEG = file("dies");
			expect(
				await refused("Whole", ...size, "--frames", "0-4", "--out", file("k_%d.exr"), "--video", file("k.mp4")),
			).toMatch(/ffmpeg was ended from outside/);
			expect(existsSync(file("k_0.exr"))).toBe(true);
			expect(existsSync(file("k.mp4"))).toBe(false);
			expect(existsSync(file("k.mp4.part"))).toBe(false);
		} finally {
			if (before === undefined) delete process.env.INQUADRA_FFMPEG;
			else process.env.INQUADRA_FFMPEG = before;
		}
	});
});
