import { beforeAll, describe, expect, it, vi } from "vitest";
import { blankShot } from "../../core/doc/defaults.ts";
import { applyEdit } from "../../core/doc/edits.ts";
import { LandEntry } from "../../core/doc/schema.ts";
import type { LandWork, Wear } from "../../core/ground/field.ts";
import { groundHeight, landNeeds } from "../../core/ground/height.ts";
import { newEntry } from "../../core/ground/ledger/ledger.ts";
import { hash32 } from "../../core/maths/hash.ts";
import { fractal2 } from "../../core/maths/noise.ts";
import { compileWhenMade } from "../../core/scene/compile.ts";
import { NO_BLOBS, NO_MAKERS } from "../../core/scene/inputs.ts";
import { PartCache } from "../../core/scene/partCache.ts";
import { STILL } from "../../core/time/frames.ts";
import { kernelOf, landMaker } from "./maker.ts";
import { nodeLand, wearModule } from "./node.ts";
import { wearLand } from "./wear.ts";

const CELLS = 256;
const STEP_M = 2;
const WATER: Wear = { by: "water", power: 0.6, laying: 0.5, restDeg: 40, seed: 3 };
const SLOPE: Wear = { by: "slope", restDeg: 33, rounded: 0 };

let module: WebAssembly.Module;
beforeAll(async () => {
	module = await wearModule();
});

/** A square whose heights are told by places that count from its middle, metres. */
const square = (height: (x: number, z: number) => number, wear: Wear, cells = CELLS): LandWork => ({
	x0: 0,
	z0: 0,
	stepM: STEP_M,
	cells,
	heightsM: Float32Array.from({ length: cells * cells }, (_, at) =>
		height(((at % cells) + 0.5 - cells / 2) * STEP_M, (Math.floor(at / cells) + 0.5 - cells / 2) * STEP_M),
	),
	wear,
});
const hills = (x: number, z: number) => 60 * fractal2(x / 180, z / 180, 7, 6);
const worn = (work: LandWork) => wearLand(kernelOf(module), work);
const sum = (values: Iterable<number>) => {
	let all = 0;
	for (const v of values) all += v;
	return all;
};
const wornHeights = ({ heightsM }: LandWork, changeM: Float32Array) => heightsM.map((h, i) => h + changeM[i]);

/** The steepest of a square, degrees, by differences to the next cells. */
function steepestDeg(heights: Float32Array, cells: number): number {
	let most = 0;
	for (let y = 0; y + 1 < cells; y++)
		for (let x = 0; x + 1 < cells; x++) {
			const at = y * cells + x;
			most = Math.max(most, Math.hypot(heights[at + 1] - heights[at], heights[at + cells] - heights[at]) / STEP_M);
		}
	return (Math.atan(most) * 180) / Math.PI;
}

describe("slopes that come to rest", () => {
	it("end at the angle of repose, whatever stood there, and nothing is lost", async () => {
		const stood: [string, (x: number, z: number) => number][] = [
			["a tower", (x, z) => (Math.hypot(x, z) < 60 ? 50 : 0)],
			["a wall", (x) => (x > 0 ? 40 : 0)],
			["a steep cone", (x, z) => Math.max(0, 90 - 1.5 * Math.hypot(x, z))],
			["hills on edge", (x, z) => 2 * hills(x, z)],
		];
		for (const [name, height] of stood) {
			const work = square(height, SLOPE);
			const { field } = await worn(work);
			expect(steepestDeg(work.heightsM, CELLS), name).toBeGreaterThan(45);
			const rests = steepestDeg(wornHeights(work, field.changeM), CELLS);
			expect(rests, name).toBeLessThan(33 + 1);
			expect(rests, name).toBeGreaterThan(30);
			const moved = sum(field.changeM.map(Math.abs));
			expect(Math.abs(sum(field.changeM)) / moved, name).toBeLessThan(0.001);
		}
	});
	it("leave what is less steep as it is", async () => {
		const { field } = await worn(square((x, z) => 0.3 * x - 0.2 * z, SLOPE));
		expect(Math.max(...field.changeM.map(Math.abs))).toBeLessThan(1e-3);
	});
	it("make a cone of a tower as high as its volume says", async () => {
		const work = square((x, z) => (Math.hypot(x, z) < 30 ? 60 : 0), SLOPE);
		const { field } = await worn(work);
		const volume = sum(work.heightsM) * STEP_M ** 2;
		// V = π r² h / 3 and h = r tan φ.
		const high = Math.cbrt((3 * volume * Math.tan((33 * Math.PI) / 180) ** 2) / Math.PI);
		expect(Math.max(...wornHeights(work, field.changeM)) / high).toBeGreaterThan(0.9);
		expect(Math.max(...wornHeights(work, field.changeM)) / high).toBeLessThan(1.03);
	});
});

describe("running water", () => {
	it("loses neither water nor what it carries", async () => {
		for (const laying of [0, 0.5, 1]) {
			const work = square(hills, { ...WATER, laying });
			const { field, account } = await worn(work);
			expect(Math.abs(account.ranOff / account.rain - 1)).toBeLessThan(0.001);
			const gone = -sum(field.changeM) * STEP_M ** 2;
			expect(account.carriedOffM3).toBeGreaterThan(1000);
			expect(Math.abs(gone / account.carriedOffM3 - 1)).toBeLessThan(0.001);
		}
	});
	it("loses nothing either in squares so large that water is followed in another order", async () => {
		const work = square(hills, WATER, 1024);
		const { field, account } = await worn(work);
		expect(Math.abs(account.ranOff / account.rain - 1)).toBeLessThan(0.001);
		expect(Math.abs((-sum(field.changeM) * STEP_M ** 2) / account.carriedOffM3 - 1)).toBeLessThan(0.001);
		expect(field.changeM.reduce((least, v) => Math.min(least, v), 0)).toBeLessThan(-1);
	}, 60_000);
	it("cuts more the longer it runs, and lays down more where more is to be laid", async () => {
		const lost = async (over: Partial<Wear>) => {
			const { field, account } = await worn(square(hills, { ...WATER, ...over } as Wear));
			return { cut: -Math.min(...field.changeM), off: account.carriedOffM3 };
		};
		const [little, more, laid] = [await lost({ power: 0.1 }), await lost({ power: 0.8 }), await lost({ laying: 1 })];
		expect(more.cut).toBeGreaterThan(1.25 * little.cut);
		expect(more.off).toBeGreaterThan(2 * little.off);
		expect(laid.off).toBeLessThan((await lost({ laying: 0 })).off);
	});
	it("gathers in valleys: the deepest cuts lie where most water comes by, not on crests", async () => {
		const work = square((x, z) => 0.2 * z + 12 * Math.cos(x / 30), WATER);
		const { field } = await worn(work);
		const cut = (from: (x: number) => boolean) => {
			const own = [...field.changeM].filter((_, at) => from(((at % CELLS) + 0.5 - CELLS / 2) * STEP_M));
			return sum(own) / own.length;
		};
		expect(cut((x) => Math.cos(x / 30) < -0.9)).toBeLessThan(-1);
		expect(cut((x) => Math.cos(x / 30) < -0.9)).toBeLessThan(3 * cut((x) => Math.cos(x / 30) > 0.9));
	});
	it("does nothing to a plain that lies level, and fills a hollow no higher than its rim", async () => {
		const plain = await worn(square(() => 5, WATER));
		expect(Math.max(...plain.field.changeM.map(Math.abs))).toBe(0);
		const bowl = square((x, z) => Math.min(30, 0.002 * (x * x + z * z)) + 0.02 * Math.hypot(x, z), {
			...WATER,
			laying: 1,
		});
		const { field } = await worn(bowl);
		const heights = wornHeights(bowl, field.changeM);
		const middle = heights[(CELLS / 2) * CELLS + CELLS / 2];
		expect(middle).toBeGreaterThan(bowl.heightsM[(CELLS / 2) * CELLS + CELLS / 2] + 0.2);
		expect(middle).toBeLessThan(30 + 0.02 * 256);
	});
	it("makes the same bytes again, others by another seed, at every size", async () => {
		const digest = async (work: LandWork) =>
			(await worn(work)).field.changeM.reduce((h, v) => hash32(h ^ Math.round(v * 1e5)), 1);
		for (const cells of [64, 128]) {
			const own = await digest(square(hills, WATER, cells));
			expect(await digest(square(hills, WATER, cells))).toBe(own);
			expect(await digest(square(hills, { ...WATER, seed: 4 } as Wear, cells))).not.toBe(own);
		}
	});
	it("tells how far it is, to its end, and stops when its host does", async () => {
		const told: number[] = [];
		await wearLand(kernelOf(module), square(hills, WATER, 128), { tell: (share) => told.push(share) });
		expect([...told].sort((a, b) => a - b)).toEqual(told);
		expect(told.at(-1)).toBeCloseTo(1, 9);
		const stop = vi.fn(async () => {
			if (stop.mock.calls.length === 3) throw new Error("newer");
		});
		const maker = landMaker(async () => module, { between: stop });
		await expect(maker("key", square(hills, WATER, 128))).rejects.toThrow("newer");
		// It is begun anew by who asks again.
		expect((await maker("key", square(hills, WATER, 128))).changeM).toHaveLength(128 * 128);
	});
});

describe("a shot whose land has worn", () => {
	const entry = (id: string, kind: LandEntry["kind"], over: object = {}) =>
		LandEntry.parse({ ...newEntry(kind, id, 0, -160), ...over });
	const doc = [entry("a", "water", { fineness: 7 }), entry("b", "talus", { fineness: 7 })].reduce(
		(d, e) => applyEdit(d, { name: "ground.addEntry", entry: e }).document,
		applyEdit(blankShot(), { name: "ground.set", preset: "ridges", heightM: 60 }).document,
	);
	it("is compiled with its squares made in turn, and says when nothing is at hand that wears it", async () => {
		await expect(compileWhenMade(doc, STILL, NO_BLOBS, NO_MAKERS, new PartCache())).rejects.toThrow("wears land");
		const before = groundHeight({ ...doc.ground, ledger: [] }, 40, -260);
		const scene = await compileWhenMade(doc, STILL, NO_BLOBS, { ...NO_MAKERS, land: nodeLand() }, new PartCache());
		expect(landNeeds(doc.ground)).toHaveLength(2);
		expect(groundHeight(doc.ground, 40, -260)).not.toBe(before);
		expect(scene.parts.size).toBeGreaterThan(1);
	});
});
