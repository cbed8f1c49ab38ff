import { describe, expect, it } from "vitest";
import { blankShot } from "../doc/defaults.ts";
import type { ShotDocument } from "../doc/schema.ts";
import { newCover } from "../dress/plant.ts";
import { NO_CHARACTER } from "../lens/character.ts";
import { STILL } from "../time/frames.ts";
import { compile } from "./compile.ts";
import { NO_BLOBS, NO_MAKERS } from "./inputs.ts";
import { PartCache } from "./partCache.ts";

const cache = new PartCache();
const made = (doc: ShotDocument) => compile(doc, STILL, NO_BLOBS, NO_MAKERS, cache);
const shot = (over: Partial<ShotDocument> = {}): ShotDocument => ({
	...blankShot(),
	covers: [newCover("grass", "tussock", { densityPerM2: 0.3 })],
	...over,
});
const bent = (bend: number) => ({ finish: { ...blankShot().finish, lens: { ...NO_CHARACTER, bend } } });
const plants = (doc: ShotDocument): number => made(doc).root.covers.reduce((sum, c) => sum + c.count, 0);

describe("a scene with room about its frame", () => {
	it("is the very same without a character and an overscan, whatever else the lens's character holds", () => {
		const plain = made(shot());
		const tinted = made(
			shot({ finish: { ...blankShot().finish, lens: { ...NO_CHARACTER, falloff: 1, tint: [1, 0.9, 0.8] } } }),
		);
		expect(tinted.root.room).toBe(1);
		expect([...tinted.parts.keys()]).toEqual([...plain.parts.keys()]);
		expect(tinted.root.camera).toEqual(plain.root.camera);
	});

	it("is dressed beyond the frame as far as the lens bends in, an overscan is kept, or a delivery reaches", () => {
		const own = plants(shot());
		expect(plants(shot(bent(-0.2)))).toBeGreaterThan(1.05 * own);
		expect(plants(shot({ print: { ...blankShot().print, overscan: 0.2 } }))).toBeGreaterThan(1.05 * own);
		const tall = {
			...{ id: "tall", name: "Tall", ratio: 1, widthPx: 500, share: 1.4 },
			middle: [0.5, 0.5] as [number, number],
		};
		expect(plants(shot({ deliveries: [tall] }))).toBeGreaterThan(own);
		expect(plants(shot({ deliveries: [{ ...tall, share: 0.8 }] }))).toBe(own);
	});

	it("keeps its lens and its frame: only what is made for it is more", () => {
		const { root } = made(shot(bent(-0.15)));
		expect(root.camera).toEqual(shot().camera);
		expect(root.room).toBeGreaterThan(1);
	});

	it("is made anew in few steps while a bend is in the hand", () => {
		const rooms = new Set<number>();
		for (let bend = 0; bend >= -0.2; bend -= 0.005) rooms.add(made(shot(bent(bend))).root.room);
		expect(rooms.size).toBeLessThanOrEqual(6);
	});
});
