import { describe, expect, it } from "vitest";
import { blankShot } from "../../doc/defaults.ts";
import { type Ground, LandEntry } from "../../doc/schema.ts";
import { hash32 } from "../../maths/hash.ts";
import { compile } from "../../scene/compile.ts";
import { coarseGround, entryTold, groundHeight, landNeeds, waterInLand, watersOf } from "../height.ts";
import { newEntry } from "../ledger/ledger.ts";
import { groundTint } from "../tint.ts";
import { filledToRims, hollowsOf } from "./hollows.ts";

const flat: Ground = { preset: "plain", seed: 1, heightM: 0 };
const entry = (kind: LandEntry["kind"], over: object): LandEntry =>
	LandEntry.parse({ ...newEntry(kind, kind, 0, 0), ...over });
const grid = (side: number, height: (i: number, j: number) => number) =>
	Float32Array.from({ length: side * side }, (_, at) => height(at % side, Math.floor(at / side)));

describe("hollows", () => {
	it("are filled to the lowest place of their rim, one within the other", () => {
		// A bowl 10 deep whose rim has a notch at 7, and a smaller one in its middle behind a wall.
		const side = 41;
		const bowl = grid(side, (i, j) => {
			const r = Math.hypot(i - 20, j - 20);
			const wall = Math.abs(r - 5) < 1 ? 9 : 0;
			const rim = r > 12 && r < 16 ? (Math.abs(j - 20) < 2 && i > 20 ? 7 : 12) : r >= 16 ? 2 : 0;
			return Math.max(rim, wall);
		});
		const filled = filledToRims(bowl, side);
		expect(filled[20 * side + 29]).toBe(7);
		expect(filled[20 * side + 20]).toBe(9);
		expect(filled[0]).toBe(2);
		expect(hollowsOf(bowl, side, 0.5).map(({ rimM, deepM }) => [rimM, deepM])).toEqual([
			[7, 7],
			[9, 9],
		]);
	});
	it("leave no place that could not run off: each filled cell has a way to the edge that never climbs", () => {
		const side = 48;
		const rough = grid(side, (i, j) => hash32(i * 91 + j * 7) / 2 ** 32);
		const filled = filledToRims(rough, side);
		for (let at = 0; at < filled.length; at++) {
			expect(filled[at]).toBeGreaterThanOrEqual(rough[at]);
			const [i, j] = [at % side, Math.floor(at / side)];
			if (i === 0 || j === 0 || i === side - 1 || j === side - 1) expect(filled[at]).toBe(rough[at]);
			else {
				const about = [-1, 0, 1].flatMap((b) => [-1, 0, 1].map((a) => filled[(j + b) * side + i + a]));
				expect(Math.min(...about.filter((_, k) => k !== 4))).toBeLessThanOrEqual(filled[at]);
			}
		}
	});
});

describe("ponds", () => {
	const bowl = entry("pond", { radiusM: 20, digM: 3, share: 1, leastM: 0.1, fineness: 8 });
	const ground: Ground = { ...flat, levelM: 4, ledger: [bowl] };
	it("are level, up to their rim, and their edge lies in the land on all sides", () => {
		// A bowl in a plane is filled to the plane; of a slope to its lower side.
		const level = waterInLand(ground, 0, 0) as number;
		expect(level).toBeCloseTo(4, 1);
		const slope: Ground = { ...flat, preset: "moor", heightM: 25, ledger: [{ ...bowl, share: 0.9 } as LandEntry] };
		const [water] = watersOf(slope).values();
		const { positions, indices } = water.mesh;
		const levels = new Set<number>();
		const uses = new Map<string, number>();
		for (let k = 0; k < indices.length; k += 3)
			for (let n = 0; n < 3; n++) {
				const [a, b] = [indices[k + n], indices[k + ((n + 1) % 3)]].sort((p, q) => p - q);
				uses.set(`${a} ${b}`, (uses.get(`${a} ${b}`) ?? 0) + 1);
			}
		let edges = 0;
		for (const [key, count] of uses) {
			if (count === 2) continue;
			expect(count).toBe(1);
			edges++;
			for (const n of key.split(" ").map(Number)) {
				const [x, y, z] = positions.subarray(3 * n, 3 * n + 3);
				levels.add(y);
				expect(groundHeight(slope, x + water.x, z + water.z)).toBeGreaterThanOrEqual(y - 1e-5);
			}
		}
		expect(edges).toBeGreaterThan(20);
		expect(levels.size).toBe([...watersOf(slope)].length);
	});
	it("are filled as far as they are told, and told in words", () => {
		const half: Ground = { ...ground, ledger: [{ ...bowl, share: 0.5 } as LandEntry] };
		expect((waterInLand(half, 0, 0) as number) - 4).toBeCloseTo(-1.5, 1);
		expect(entryTold(half, "pond")).toMatch(/^One pond, about \d+ m across and 1\.5 m deep\.$/);
		const dry: Ground = { ...flat, ledger: [{ ...bowl, digM: 0 } as LandEntry] };
		expect(entryTold(dry, "pond")).toBe("No hollow here is 0.10 m deep: dig one, or lower the land by hand.");
		expect(watersOf({ ...half, ledger: [{ ...bowl, out: true } as LandEntry] }).size).toBe(0);
	});
	it("stay where they hold, and are coarse while a hand waits", () => {
		const away = { kind: "near a place" as const, not: false, x: 300, z: 0, radiusM: 20, featherM: 5 };
		expect(waterInLand({ ...flat, ledger: [{ ...bowl, where: [away] } as LandEntry] }, 0, 0)).toBeNull();
		expect(coarseGround(ground).ledger?.[0]).toMatchObject({ fineness: 6 });
	});
	it("are not worn anew for how far they are filled or how finely, but for what they dig", () => {
		const rain = entry("water", { x: 0, z: 0, radiusM: 40, featherM: 10, fineness: 6 });
		const key = (over: object) => landNeeds({ ...flat, ledger: [{ ...bowl, ...over } as LandEntry, rain] })[0].key;
		expect(key({ share: 0.3, fineness: 6, leastM: 1 })).toBe(key({}));
		expect(key({ digM: 2 })).not.toBe(key({}));
		expect(key({ digM: 0, radiusM: 9 })).toBe(key({ digM: 0 }));
	});
	it("lie in the scene as water of their own, and wet the ground that they reach", () => {
		const doc = { ...blankShot(), ground, pieces: [] };
		const { root, parts } = compile(doc);
		const own = root.draws.filter((d) => d.id === 2);
		expect(own).toHaveLength(1);
		expect(root.materials[own[0].material].glass?.water).toBe(true);
		expect(root.water).toMatchObject({ levelM: null });
		expect(parts.get(own[0].mesh)?.kind).toBe("mesh");
		const wet = (x: number, y: number) => groundTint(ground, doc.water, x, y, 0, 0).wet;
		expect(wet(0, 1)).toBe(1);
		expect(wet(200, 1)).toBe(0);
	});
});

describe("a river", () => {
	const points: [number, number][] = [
		[0, -120],
		[30, -60],
		[-10, 0],
		[5, 60],
	];
	const own = entry("river", { points, widthM: 6, depthM: 1, fall: 0.01, underM: 0.2 });
	const ground: Ground = { preset: "moor", seed: 3, heightM: 30, ledger: [own] };
	const [water] = watersOf(ground).values();
	const along = Array.from({ length: water.mesh.positions.length / 9 }, (_, i) => {
		const [x, y, z] = water.mesh.positions.subarray(9 * i + 3, 9 * i + 6);
		return { x: x + water.x, y, z: z + water.z };
	}).slice(1, -1);
	it("falls all the way, by its fall at least, with its bed as deep as it is told", () => {
		let way = 0;
		for (let i = 1; i < along.length; i++) {
			const [a, b] = [along[i - 1], along[i]];
			const step = Math.hypot(b.x - a.x, b.z - a.z);
			way += step;
			expect(a.y - b.y).toBeGreaterThanOrEqual(0.01 * step - 1e-4);
			expect(b.y - groundHeight(ground, b.x, b.z)).toBeCloseTo(1, 0.7);
		}
		expect(along[0].y - along[along.length - 1].y).toBeGreaterThanOrEqual(0.01 * way - 0.01);
		expect(entryTold(ground, "river")).toMatch(/^\d+ m long, falls \d+\.\d m/);
		// A river of 1 m runs by Manning's formula at 2.9 m/s where it falls by 1 in 100; a pond stands.
		expect(0.1 * (watersOf(ground).get("river")?.runs ?? 0)).toBeCloseTo(2.86, 1);
	});
	it("has banks on both sides that its water does not reach over", () => {
		const { positions } = water.mesh;
		for (let n = 0; n < positions.length / 3; n++) {
			if (n % 3 === 1 || n < 6 || n >= positions.length / 3 - 6) continue;
			const [x, y, z] = positions.subarray(3 * n, 3 * n + 3);
			expect(groundHeight(ground, x + water.x, z + water.z)).toBeGreaterThan(y - 0.02);
		}
	});
	it("that is led uphill cuts, and says so", () => {
		const ramp: Ground = {
			...flat,
			ledger: [
				entry("level", { id: "hill", x: 60, z: 0, radiusM: 20, featherM: 60, atM: 9 }),
				entry("river", {
					points: [
						[-60, 0],
						[60, 0],
					],
				}),
			],
		};
		expect(entryTold(ramp, "river")).toMatch(
			/cuts 9\.\d m deep at 1\d\d m; it is led uphill by 9\.0 m: water runs the other way/,
		);
		const [body] = watersOf(ramp).values();
		expect(body.levelAt(50, 0) as number).toBeLessThan(body.levelAt(-50, 0) as number);
	});
});
