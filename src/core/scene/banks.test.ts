import { describe, expect, it } from "vitest";
import { blankShot, newPiece } from "../doc/defaults.ts";
import type { LaidWhere, LandEntry, Piece, ShotDocument } from "../doc/schema.ts";
import { farFromPaths, groundHeight } from "../ground/height.ts";
import { newEntry } from "../ground/ledger/ledger.ts";
import { runoffOf } from "../ground/runoff.ts";
import type { Mesh } from "../maths/mesh.ts";
import { type Mat34, normalize, sub, transformPoint, type Vec3 } from "../maths/vec.ts";
import { meetMesh } from "../shape/meetMesh.ts";
import { laidAsMade, laidOver } from "../surface/laying.ts";
import type { SurfaceKind } from "../surface/surfaces.ts";
import { STILL } from "../time/frames.ts";
import { rainShare } from "../volume/columns.ts";
import { volumeAt } from "../volume/volume.ts";
import { compile } from "./compile.ts";
import { ID_GROUND } from "./ids.ts";
import { NO_BLOBS, NO_MAKERS } from "./inputs.ts";
import { PartCache } from "./partCache.ts";
import type { Scene } from "./scene.ts";

/** One for all: they have their land and air in common. */
const cache = new PartCache();
const compiled = (doc: ShotDocument, makers = NO_MAKERS) => compile(doc, STILL, NO_BLOBS, makers, cache);

const BANK = { riseM: 0.12, widthM: 0.6, blendM: 0.25 };

function shot(pieces: Partial<Piece>[], over: Partial<ShotDocument> = {}): ShotDocument {
	const doc = blankShot();
	const boxes = pieces.map((own, i) => newPiece(`p${i}`, "box", { position: [0, 0, -8], size: [1.4, 2, 0.9], ...own }));
	return {
		...doc,
		pieces: boxes,
		covers: [],
		ground: { ...doc.ground, preset: "plain", heightM: 3, ledger: undefined },
		water: { ...doc.water, on: false },
		...over,
	};
}

/** A draw in the world, only what lies within so many metres of a place. */
function inWorld({ root, parts }: Scene, id: number, middle: Vec3, within: number): Mesh[] {
	return root.draws
		.filter((d) => d.id === id)
		.map(({ mesh, transform }) => {
			const part = parts.get(mesh);
			if (part?.kind !== "mesh") throw new Error("no mesh");
			const own = part.mesh;
			const positions = new Float32Array(own.positions.length);
			for (let i = 0; i < positions.length; i += 3)
				positions.set(
					transformPoint(transform as Mat34, [own.positions[i], own.positions[i + 1], own.positions[i + 2]]),
					i,
				);
			const near = (n: number) =>
				Math.hypot(positions[3 * n] - middle[0], positions[3 * n + 2] - middle[2]) < within + 40;
			const kept: number[] = [];
			for (let t = 0; t < own.indices.length; t += 3) {
				const corners = [...own.indices.subarray(t, t + 3)];
				if (corners.every(near)) kept.push(...corners);
			}
			return { positions, normals: own.normals, indices: Uint32Array.from(kept) };
		});
}

describe("ground that rises to meet a piece", () => {
	it("is a skirt of the ground's own, as high as it is set at the body, and gone at its width", () => {
		const doc = shot([{ bank: BANK }]);
		const { root, parts } = compiled(doc);
		const [land, bank] = root.draws.filter((d) => d.id === ID_GROUND);
		expect(bank.material).toBe(land.material);
		const part = parts.get(bank.mesh);
		if (part?.kind !== "mesh") throw new Error("no mesh");
		const { positions, colours } = part.mesh;
		expect(colours?.length).toBe((4 * positions.length) / 3);
		let highest = 0;
		for (let i = 0; i < positions.length; i += 3) {
			const [x, z] = [positions[i] + bank.transform[3], positions[i + 2] + bank.transform[11]];
			const over = positions[i + 1] + bank.transform[7] - groundHeight(doc.ground, x, z);
			const off = Math.hypot(Math.max(0, Math.abs(x) - 0.7), Math.max(0, Math.abs(z + 8) - 0.45));
			highest = Math.max(highest, over);
			// By the square of what is left of its width, uneven by a third, and by what its volume is off.
			const left = Math.max(0, 1 - (off - 0.09) / BANK.widthM);
			expect(over).toBeLessThan(BANK.riseM * 1.36 * Math.min(1, left) ** 2 + 0.001);
			if (off > BANK.widthM) expect(over).toBeLessThan(0);
		}
		expect(highest).toBeGreaterThan(0.6 * BANK.riseM);
	});

	it("leaves no gap and no back side to a thousand eyes that graze along the seam", () => {
		const doc = shot([{ bank: BANK, headingDeg: 25, pitchDeg: 8 }]);
		const scene = compiled(doc);
		const middle: Vec3 = [0, 0, -8];
		const bodies = [...inWorld(scene, ID_GROUND, middle, 3), ...inWorld(scene, 3, middle, 3)];
		let missed = 0;
		for (let n = 0; n < 1000; n++) {
			// A place of the seam, and an eye at 3° over it from anywhere outside.
			const about = n * 2.399963;
			const corner: Vec3 = [
				0.7 * Math.sign(Math.cos(about)) * Math.min(1, Math.abs(1.4 * Math.cos(about))),
				0,
				-8 + 0.45 * Math.sign(Math.sin(about)) * Math.min(1, Math.abs(1.4 * Math.sin(about))),
			];
			const seam: Vec3 = [
				corner[0],
				groundHeight(doc.ground, corner[0], corner[2]) + (BANK.riseM * (n % 10)) / 8,
				corner[2],
			];
			const far = 2 + (n % 7) * 0.5;
			const from: Vec3 = [
				seam[0] + far * Math.cos(about + 0.3 * Math.sin(n)),
				seam[1] + far * Math.tan((3 * Math.PI) / 180),
				seam[2] + far * Math.sin(about + 0.3 * Math.sin(n)),
			];
			if (from[1] < groundHeight(doc.ground, from[0], from[2]) + 0.02) continue;
			const along = normalize(sub(seam, from));
			const met = bodies.map((mesh) => meetMesh(mesh, from, along) ?? Number.POSITIVE_INFINITY);
			// It is met no later than the far side of the body, by what looks to the eye.
			if (Math.min(...met) > far + 1.8) missed++;
		}
		expect(missed).toBe(0);
	});

	it("follows its piece: another place is another skirt, and the land's own mesh stays", () => {
		const at = (x: number) => compiled(shot([{ bank: BANK, position: [x, 0, -8] }])).root;
		const [before, after] = [at(0), at(0.5)];
		const [landBefore, bankBefore] = before.draws.filter((d) => d.id === ID_GROUND);
		const [landAfter, bankAfter] = after.draws.filter((d) => d.id === ID_GROUND);
		expect(landAfter.mesh).toBe(landBefore.mesh);
		expect(bankAfter.mesh).not.toBe(bankBefore.mesh);
		expect(bankAfter.transform[3] - bankBefore.transform[3]).toBeCloseTo(0.5, 6);
	});

	it("is none of a piece high up, of one without, and where the ground is left out", () => {
		const banks = (doc: ShotDocument) => compiled(doc).root.draws.filter((d) => d.id === ID_GROUND).length - 1;
		expect(banks(shot([{ bank: BANK, position: [0, 5, -8] }]))).toBe(0);
		expect(banks(shot([{}]))).toBe(0);
		expect(banks(shot([{ bank: { ...BANK, riseM: 0 } }]))).toBe(0);
		const doc = shot([{ bank: BANK }]);
		expect(compiled({ ...doc, ground: { ...doc.ground, out: true } }).root.draws.some((d) => d.id === ID_GROUND)).toBe(
			false,
		);
	});
});

describe("what bands of layers ask for", () => {
	/** Nothing of it stands out: no finer triangles are asked for. */
	const level = (of: SurfaceKind) => ({ ...laidAsMade(of), reliefMm: 0 });
	const levelOver = (of: SurfaceKind) => ({ ...laidOver(of), reliefMm: 0, thickMm: 0 });
	const sheets = {
		...NO_MAKERS,
		sheet: () => ({ size: 1, sideM: 1, leastMm: 0, mostMm: 10, words: new Uint32Array(3) }) as never,
	};
	const layersOf = (doc: ShotDocument) => compiled(doc, sheets).root.materials.map((m) => m.layers ?? []);

	it("is one volume for all of one reach, told to each of them", () => {
		const touching = (withinM: number) => ({ ...levelOver("moss"), where: [{ kind: "touching" as const, withinM }] });
		const of = (withinM: number) => ({
			surface: { ...newPiece("", "box").surface, laid: { ...level("granite"), over: [touching(withinM)] } },
		});
		const doc = shot([of(0.3), of(0.45), of(1.5)]);
		const { root, parts } = compiled(doc, sheets);
		const volumes = root.materials.flatMap((m) => (m.layers ?? []).flatMap((l) => l.where.map((b) => b.volume?.part)));
		expect(new Set(volumes).size).toBe(2);
		expect(volumes).toHaveLength(3);
		for (const key of volumes) expect(parts.get(key ?? "")?.kind).toBe("volume");
	});

	it("is how far paths are, and from how much land water comes, at places of the land and of what stands on it", () => {
		const over = (where: LaidWhere) => ({ ...level("soil"), over: [{ ...levelOver("gravel"), where: [where] }] });
		const entry = {
			...newEntry("path", "way", 0, 0),
			points: [
				[0, 60],
				[0, -60],
			],
		} as LandEntry;
		const bent = { ...blankShot().ground, preset: "dunes" as const, heightM: 12 };
		const volumeOf = (where: LaidWhere, ground: ShotDocument["ground"]) => {
			const { root, parts } = compiled(shot([], { ground, groundLaid: over(where) }), sheets);
			const band = root.materials[0].layers?.[1].where[0];
			const part = parts.get(band?.volume?.part ?? "");
			if (part?.kind !== "volume" || !band?.volume) throw new Error("no volume");
			const { missing } = band.volume;
			return (x: number, z: number, over = 0) =>
				volumeAt(part.volume, [x, groundHeight(ground, x, z) + over, z], missing);
		};
		const ground = { ...bent, ledger: [entry] };
		const far = volumeOf({ kind: "beside", withinM: 4, soft: 0.5 }, ground);
		const edge = farFromPaths(ground);
		for (const x of [-7, -4, -2.2, 0, 1, 3, 5.1]) {
			const told = Math.min(1, (edge?.(x, -8) ?? 0) / 5);
			expect(far(x, -8)).toBeCloseTo(told, 1);
			expect(far(x, -8, 1)).toBeCloseTo(told, 1);
		}
		expect(far(40, -8)).toBe(1);
		expect(volumeOf({ kind: "beside", withinM: 4, soft: 0.5 }, bent)(0, -8)).toBe(1);
		const rain = volumeOf({ kind: "rain", fromM2: 200, times: 4 }, bent);
		const area = runoffOf(bent, { x: 0, z: -128, withinM: 150 });
		const places = Array.from({ length: 60 }, (_, n): [number, number] => [3.7 * n - 110, -128 + 2.9 * n - 80]);
		const apart = places.map(([x, z]) => Math.abs(rain(x, z) - rainShare(Math.exp(area(x, z)))));
		expect(apart.reduce((a, b) => a + b) / apart.length).toBeLessThan(0.03);
		expect(Math.max(...places.map(([x, z]) => rain(x, z)))).toBeGreaterThan(0.3);
		expect(rain(900, 900)).toBe(0);
	});

	it("lies otherwise on each of the copies of a repeat, by its own metres alone", () => {
		const surface = { ...newPiece("", "box").surface, laid: level("granite") };
		const repeat = { kind: "row" as const, count: 9, step: [2, 0] as [number, number] };
		const stain = { id: "soot", pieces: ["p0"], ground: false, laid: levelOver("sand") };
		const of = (doc: ShotDocument) => {
			const { draws, materials } = compiled(doc, sheets).root;
			const numbers = draws.filter((d) => d.id === 3).map((d) => d.material);
			return numbers.map((n) => materials[n].layers?.map((l) => l.seed) ?? []);
		};
		const seeds = of(shot([{ surface, repeat }], { stains: [stain] }));
		expect(seeds.length).toBeGreaterThan(6);
		expect(new Set(seeds.slice(0, 6).map(([own]) => own)).size).toBe(6);
		expect(new Set(seeds.map(([, world]) => world)).size).toBe(1);
		expect(of(shot([{ surface }]))).toEqual([[1]]);
	});

	it("is the ground's own surface where it climbs on a piece", () => {
		const doc = shot([{ bank: BANK }, {}], { groundLaid: level("sand") });
		const [, climbed, bare] = layersOf(doc);
		expect(climbed).toHaveLength(1);
		expect(climbed[0]).toMatchObject({ world: true, bare: true });
		expect(climbed[0].where[0].volume).toBeDefined();
		expect(bare).toHaveLength(0);
	});

	it("lays a stain by the world over what it is on, over the rest of it, and nowhere else", () => {
		const stain = { id: "soot", pieces: ["p0", "gone"], ground: true, laid: levelOver("sand") };
		const doc = shot([{}, {}], { stains: [stain], groundLaid: level("clay") });
		const [ground, on, off] = layersOf(doc);
		expect(ground.map((l) => l.bare)).toEqual([undefined, undefined]);
		expect(ground.every((l) => l.world)).toBe(true);
		expect(on).toHaveLength(1);
		expect(on[0]).toMatchObject({ world: true, bare: true });
		expect(off).toHaveLength(0);
	});

	it("is what lies on one face of a piece, by its name; the rest of it has its own", () => {
		const surface = newPiece("", "box").surface;
		const faces = [
			{ face: "top", laid: laidAsMade("moss") },
			{ face: "no such face", laid: laidAsMade("sand") },
			{ face: "left", laid: null },
		];
		const doc = shot([{ surface: { ...surface, laid: laidAsMade("granite"), faces } }]);
		const { root, parts } = compiled(doc, sheets);
		const draws = root.draws.filter((d) => d.id === 3);
		const triangles = (mesh: string) => {
			const part = parts.get(mesh);
			return part?.kind === "mesh" ? part.mesh.indices.length / 3 : 0;
		};
		expect(draws.map((d) => triangles(d.flat ?? d.mesh))).toEqual([8, 2, 2]);
		const layers = draws.map((d) => (root.materials[d.material].layers ?? []).length);
		expect(layers).toEqual([1, 1, 0]);
		expect(root.materials[draws[0].material].layers?.[0].sheet).not.toBe(
			root.materials[draws[1].material].layers?.[0].sheet,
		);
		// Together they are the body, and a seam is of the piece, not of its faces.
		expect(new Set(draws.map((d) => d.transform)).size).toBe(1);
	});

	it("is what a brush has painted, or nothing at all before its first stroke", () => {
		const where = [{ kind: "painted" as const, mask: "worn" }];
		const laid = { ...level("granite"), over: [{ ...levelOver("moss"), where }] };
		const doc = shot([{ surface: { ...newPiece("", "box").surface, laid } }]);
		const volumeOf = (d: ShotDocument) => {
			const { root, parts } = compiled(d, sheets);
			const { volume } = (root.materials[1].layers ?? [])[1].where[0];
			const part = parts.get(volume?.part ?? "");
			if (part?.kind !== "volume") throw new Error("no volume");
			return { world: volume?.world, bricks: part.volume.words[1] };
		};
		expect(volumeOf(doc)).toEqual({ world: true, bricks: 0 });
		const stroke = {
			points: [[0, 1, 0.45] as [number, number, number]],
			radiusM: 0.2,
			strength: 1,
			soft: 0.5,
			away: false,
		};
		const painted = volumeOf({ ...doc, masks: [{ id: "worn", on: "p0", strokes: [stroke] }] });
		expect(painted.world).toBe(false);
		expect(painted.bricks).toBeGreaterThan(0);
	});
});
