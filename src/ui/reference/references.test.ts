import { beforeEach, describe, expect, it, vi } from "vitest";
import { blankShot } from "../../core/doc/defaults.ts";
import { MOST_BYTES } from "../../wire/contracts.ts";
import { useShot } from "../store/shotStore.ts";
import { useStudio } from "../store/studio.ts";
import { dropPictures, hangSky, keepPicture } from "./references.ts";

/** What the server answers to bytes, by the address that they are sent to. */
const answers: Record<string, (size: number) => Response> = {
	"/api/pictures": (size) =>
		size === 4
			? Response.json({ error: { code: "not-a-picture", message: "This is no picture." } }, { status: 415 })
			: Response.json({ blob: "a".repeat(64), widthPx: 640, heightPx: 480 }),
	"/api/skies": (size) =>
		Response.json({ file: "b".repeat(64), widthPx: 64, heightPx: 32, mended: size === 7 ? 12 : 0 }, { status: 201 }),
	"/api/clips": () => Response.json({ blob: "c".repeat(64) }),
};
let away = false;
const sent: string[] = [];

/** A video element that can or cannot play what it is given; one recorded live tells its length late. */
class FakeVideo {
	static plays = true;
	static live = false;
	static size = 320;
	videoWidth = FakeVideo.size;
	videoHeight = 200;
	duration = FakeVideo.live ? Number.POSITIVE_INFINITY : 4;
	preload = "";
	muted = false;
	currentTime = 0;
	onerror: (() => void) | null = null;
	onloadedmetadata: (() => void) | null = null;
	set ondurationchange(tell: () => void) {
		queueMicrotask(() => {
			this.duration = 2.5;
			tell();
		});
	}
	set src(_: string) {
		queueMicrotask(() => (FakeVideo.plays ? this.onloadedmetadata?.() : this.onerror?.()));
	}
	removeAttribute() {}
}

const file = (name: string, size = 100, type = "") => new File([new Uint8Array(size)], name, { type });
const shot = () => useShot.getState();

beforeEach(() => {
	away = false;
	sent.length = 0;
	Object.assign(FakeVideo, { plays: true, live: false, size: 320 });
	const kept = new Map<string, string>();
	vi.stubGlobal("localStorage", {
		getItem: (k: string) => kept.get(k) ?? null,
		setItem: (k: string, v: string) => kept.set(k, v),
		removeItem: (k: string) => kept.delete(k),
	});
	vi.stubGlobal("document", { createElement: () => new FakeVideo() });
	vi.stubGlobal("fetch", async (address: string, init: RequestInit = {}) => {
		if (away) throw new TypeError("failed to fetch");
		sent.push(address);
		const answer = answers[address];
		// Edits are not what is tested here: they wait for ever.
		return answer ? answer((init.body as Blob).size) : new Promise<Response>(() => {});
	});
	const state = {
		id: "s",
		title: "Untitled shot",
		document: blankShot(),
		revision: 0,
		standsFor: 0,
		sequence: 0,
		canUndo: false,
		canRedo: false,
	};
	useShot.setState({ pending: [], preview: null, notice: null, online: true });
	shot().open({ state, checkpoints: [], prints: [], busy: false, history: [], left: [] });
});

describe("pictures that are brought in", () => {
	it("come in one after the other under their names, and it is told how far they have come", async () => {
		const told: string[] = [];
		const leave = useStudio.subscribe(
			({ bringing }) => bringing && told.push(`${bringing.done + 1} of ${bringing.all}: ${bringing.name}`),
		);
		await dropPictures([file("low sun.jpeg"), file("shed.PNG"), file(".webp")]);
		leave();
		expect([...new Set(told)]).toEqual(["1 of 3: low sun.jpeg", "2 of 3: shed.PNG", "3 of 3: .webp"]);
		expect(shot().document.references.map((r) => [r.name, r.widthPx])).toEqual([
			["low sun", 640],
			["shed", 640],
			["Reference", 640],
		]);
		expect(useStudio.getState().bringing).toBeNull();
		expect(shot().notice).toBeNull();
	});

	it("go on when one of them cannot be read, and each failure is named", async () => {
		await dropPictures([file("bad.png", 4), file("good.png"), file("worse.jpg", 4)]);
		expect(shot().document.references.map((r) => r.name)).toEqual(["good"]);
		expect(shot().notice).toBe("bad.png: This is no picture. worse.jpg: This is no picture.");
	});

	it("are not sent when they are too large, and are told to wait when the server is away", async () => {
		const large = { size: MOST_BYTES + 1 } as Blob;
		await expect(keepPicture(large)).rejects.toThrow(/larger than \d+ MB/);
		expect(sent).toEqual([]);
		away = true;
		await dropPictures([file("late.png")]);
		expect(shot().notice).toMatch(/^late\.png: The server is away/);
		expect(shot().document.references).toEqual([]);
	});
});

describe("clips that are brought in", () => {
	it("are kept with their size and length, by kind or by ending", async () => {
		await dropPictures([file("waves.bin", 50, "video/webm"), file("mill.MP4")]);
		expect(shot().document.clips?.map((c) => [c.name, c.widthPx, c.seconds])).toEqual([
			["waves", 320, 4],
			["mill", 320, 4],
		]);
		expect(sent.filter((a) => a === "/api/clips")).toHaveLength(2);
	});
	it("that were recorded live have their length looked for", async () => {
		FakeVideo.live = true;
		await dropPictures([file("live.webm")]);
		expect(shot().document.clips?.[0].seconds).toBe(2.5);
	});
	it("that cannot be played, or have no picture, are refused before they are sent", async () => {
		FakeVideo.plays = false;
		await dropPictures([file("odd.mp4")]);
		expect(shot().notice).toMatch(/^odd\.mp4: This browser cannot play this clip/);
		FakeVideo.plays = true;
		FakeVideo.size = 0;
		await dropPictures([file("voice.webm")]);
		expect(shot().notice).toBe("voice.webm: This clip has no picture.");
		expect(sent).not.toContain("/api/clips");
		expect(shot().document.clips ?? []).toEqual([]);
	});
});

describe("a picture hung as the sky", () => {
	it("is one by its ending, keeps turn and light of the one before, and tells what was set right in it", async () => {
		await dropPictures([file("dusk.hdr")]);
		const first = shot().document.air.picture;
		expect(first).toMatchObject({ name: "dusk", widthPx: 64, turnDeg: 0, saturation: 1, sun: false });
		expect(first?.lux).toBeGreaterThan(0);
		shot().commit({ name: "air.setPicture", turnDeg: 40, lux: 777 });
		await hangSky(file("noon.exr", 7));
		expect(shot().document.air.picture).toMatchObject({ name: "noon", turnDeg: 40, lux: 777 });
		expect(shot().notice).toMatch(/^noon\.exr: 12 values were no numbers/);
		expect(shot().document.references).toEqual([]);
	});
	it("is left as it was when the file cannot be kept", async () => {
		away = true;
		await hangSky(file("storm.exr"));
		expect(shot().document.air.picture ?? null).toBeNull();
		expect(shot().notice).toMatch(/^storm\.exr: The server is away/);
		expect(useStudio.getState().hanging).toBeNull();
	});
});
