/**
 * The land: its coarse form while a hand drags an entry of its ledger, and all of it when the hand rests, with none, three and
 * one of each kind of entry, goals of the hand 100 ms and 2 s; and the triangles that it is made of.
 */
import { blankShot } from "../src/core/doc/defaults.ts";
import type { Ground, LandEntry } from "../src/core/doc/schema.ts";
import { groundHeight } from "../src/core/ground/height.ts";
import { ENTRIES, newEntry } from "../src/core/ground/ledger/ledger.ts";
import { FINE, type Fineness, groundMeshForLens, IN_HAND } from "../src/core/ground/meshForLens.ts";
import { PRESETS } from "../src/core/ground/preset.ts";
import { footOver } from "../src/core/ground/testing.ts";
import { DEG } from "../src/core/maths/functions.ts";
import { randomStream } from "../src/core/maths/hash.ts";
import { castAtOnce } from "../src/tracer/testing.ts";
import { median } from "./median.ts";

type Say = (name: string, value: number, unit: string, reference?: number) => void;
type Kind = LandEntry["kind"];

const ROUNDS = 5;

export function land(say: Say): void {
	const { water } = blankShot();
	const time = (kinds: readonly Kind[], fineness: Fineness, rises = false) => {
		const ledger = kinds.map((kind) => newEntry(kind, kind, 0, -40));
		const ground = { preset: "river valley" as const, seed: 1, heightM: 120, ledger };
		return median(
			Array.from({ length: ROUNDS }, (_, i) => {
				// Land that has not been meshed before, or the lens a little higher each time.
				const land = rises ? ground : { ...ground };
				const feet = [footOver(land, rises ? 1.7 + 0.05 * i : 1.7, { x: 0, z: 0 })];
				const at = performance.now();
				groundMeshForLens(land, water, feet, fineness);
				return performance.now() - at;
			}),
		);
	};
	const some: readonly (readonly [string, readonly Kind[]])[] = [
		["no entry", []],
		["three entries", ["fold", "fracture", "bed"]],
		["one entry of each kind", Object.keys(ENTRIES) as Kind[]],
	];
	for (const [name, kinds] of some) {
		say(`land with ${name}, coarse, goal beside it`, time(kinds, IN_HAND), "ms", 100);
		say(`land with ${name}, all of it, goal beside it`, time(kinds, FINE), "ms", 2000);
		say(
			`land with ${name}, the lens a little higher, beside all of it anew`,
			time(kinds, FINE, true),
			"ms",
			time(kinds, FINE),
		);
	}
	stroke(say);
	againstGrid(say);
	memory(say);
}

/** What the triangles of the square kilometre about a lens take. */
function memory(say: Say): void {
	const ground: Ground = { preset: "river valley", seed: 1, heightM: 120 };
	const { mesh } = groundMeshForLens(ground, blankShot().water, [footOver(ground, 1.7, { x: 0, z: 0 })]);
	const { positions, normals, colours = new Uint8Array() } = mesh;
	const near = (i: number) => Math.hypot(positions[3 * i], positions[3 * i + 2]) < 1000 / Math.sqrt(Math.PI);
	let [corners, indices] = [0, 0];
	for (let i = 0; i < positions.length / 3; i++) if (near(i)) corners++;
	for (const i of mesh.indices) if (near(i)) indices++;
	const perCorner = (positions.byteLength + normals.byteLength + colours.byteLength) / (positions.length / 3);
	const bytes = perCorner * corners + mesh.indices.BYTES_PER_ELEMENT * indices;
	say("the square kilometre about the lens as triangles", bytes / 2 ** 20, "MiB");
}

/** Strokes that lie there already, and movements of the hand in a new one. */
const STROKES = 30;
const MOVES = 24;

/** A movement of a hand that draws a stroke over land: the whole of its coarse form anew. Goal: 50 ms. */
function stroke(say: Say): void {
	const { water } = blankShot();
	const strokes = Array.from({ length: STROKES }, (_, i) => ({
		tool: "raise" as const,
		points: [[(i % 6) * 12 - 30, -12 - 14 * Math.floor(i / 6)]] as [number, number][],
		radiusM: 7,
		byM: 0.5,
	}));
	const drawn = (moves: number): Ground => {
		const points = Array.from({ length: moves }, (_, i): [number, number] => [-20 + 2 * i, -35 - i]);
		const newest = { tool: "raise" as const, points, radiusM: 6, byM: 2 };
		const entry = { ...newEntry("hand", "h", 0, 0), strokes: [...strokes, newest] } as LandEntry;
		return { preset: "river valley", seed: 1, heightM: 120, ledger: [entry] };
	};
	const feet = [footOver(drawn(1), 1.7, { x: 0, z: 0 })];
	const times = Array.from({ length: MOVES }, (_, i) => {
		const ground = drawn(i + 1);
		const at = performance.now();
		groundMeshForLens(ground, water, feet, IN_HAND);
		return performance.now() - at;
	});
	say("a movement in a stroke, the 31st of its land, goal beside it", median(times), "ms", 50);
}

/** Heights under places are met from so high above, metres. */
const ABOVE_M = 1000;
/** Places that the frame shows, evenly over its pixels, and how far they may lie. */
const SHOWN = 3000;
const SHOWN_M = 1000;

/**
 * The lens's mesh beside a uniform grid over all that the frame shows within a kilometre, as fine as it takes to lie off the land by
 * as many pixels in the mean square.
 */
function againstGrid(say: Say): void {
	for (const preset of ["river valley", "terraces", "ridges"] as const) {
		const ground = { preset, seed: 1, heightM: PRESETS[preset].mostM / 4 };
		const foot = footOver(ground, 1.7, { x: 0, z: 0 });
		const random = randomStream(3);
		const shown: [number, number][] = [];
		while (shown.length < SHOWN) {
			const heading = (2 * random() - 1) * 30 * DEG;
			const rise = 0.35 * (2 * random() - 1);
			for (let far = 2; far < SHOWN_M; far *= 1.01) {
				const [x, z] = [Math.sin(heading) * far, -Math.cos(heading) * far];
				if (groundHeight(ground, x, z) < foot.y + rise * far) continue;
				shown.push([x, z]);
				break;
			}
		}
		const truth = shown.map(([x, z]) => groundHeight(ground, x, z));
		const offPx = (heights: ArrayLike<number>) =>
			Math.sqrt(
				shown.reduce((sum, [x, z], i) => sum + ((heights[i] - truth[i]) / (Math.hypot(x, z) * foot.pixel)) ** 2, 0) /
					SHOWN,
			);
		const { mesh } = groundMeshForLens(ground, blankShot().water, [foot]);
		const down = shown.flatMap(([x, z]) => [x, ABOVE_M, z, 0, -1, 0, 1e6]);
		const goal = offPx(castAtOnce(mesh, down).map((far) => ABOVE_M - far));
		const gridOff = (step: number) =>
			offPx(
				shown.map(([x, z]) => {
					const [u, v] = [x / step, z / step];
					const [i, j] = [Math.floor(u), Math.floor(v)];
					const at = (a: number, b: number) => groundHeight(ground, a * step, b * step);
					const [s, t] = [u - i, v - j];
					const [a, b, c] = [at(i, j), at(i + 1, j + 1), s > t ? at(i + 1, j) : at(i, j + 1)];
					return s > t ? a + s * (c - a) + t * (b - c) : a + t * (c - a) + s * (b - c);
				}),
			);
		let [fine, wide] = [0.001, 20];
		for (let k = 0; k < 14; k++) {
			const step = Math.sqrt(fine * wide);
			if (gridOff(step) > goal) wide = step;
			else fine = step;
		}
		const reach = Math.max(...shown.map(([x, z]) => Math.max(Math.abs(x), Math.abs(z))));
		const triangles = 2 * (2 * reach * (reach / fine / fine));
		say(
			`${preset}: triangles of the lens's mesh that lies off by ${goal.toFixed(2)} px, beside those of a uniform grid`,
			mesh.indices.length / 3,
			"",
			triangles,
		);
	}
}
