/** Land worn by water and by slope, and one flood of it beside a plain TypeScript loop with a heap. Goal of 2,048 cells a side: 4 s. */
import type { Ground, LandEntry } from "../src/core/doc/schema.ts";
import type { LandWork, Wear } from "../src/core/ground/field.ts";
import { watersOf } from "../src/core/ground/height.ts";
import { newEntry } from "../src/core/ground/ledger/ledger.ts";
import { hollowsOf } from "../src/core/ground/water/hollows.ts";
import { fractal2 } from "../src/core/maths/noise.ts";
import { kernelOf } from "../src/makers/wear/maker.ts";
import { wearModule } from "../src/makers/wear/node.ts";
import { wearLand } from "../src/makers/wear/wear.ts";

type Say = (name: string, value: number, unit: string, reference?: number) => void;

const WATER: Wear = { by: "water", power: 0.5, laying: 0.5, restDeg: 42, seed: 1 };
const SLOPE: Wear = { by: "slope", restDeg: 35, rounded: 0.1 };
const STEP_M = 2;

const hills = (cells: number): Float32Array =>
	Float32Array.from({ length: cells * cells }, (_, at) => {
		const [x, z] = [(at % cells) * STEP_M, Math.floor(at / cells) * STEP_M];
		return 120 * fractal2(x / 400, z / 400, 3, 6);
	});

/** Cells from the border inwards by a heap of heights, and those from which water comes by each, by the steepest way. */
function plainFlood(heights: Float32Array, n: number): Float32Array {
	const heap: number[] = [];
	const [filled, to, seen] = [heights.slice(), new Int32Array(n * n), new Uint8Array(n * n)];
	const under = (a: number, b: number) => filled[a] < filled[b];
	const push = (i: number) => {
		let k = heap.push(i) - 1;
		for (let up = (k - 1) >> 1; k > 0 && under(heap[k], heap[up]); k = up, up = (k - 1) >> 1)
			[heap[k], heap[up]] = [heap[up], heap[k]];
	};
	const pop = (): number => {
		const [top, last] = [heap[0], heap.pop() as number];
		if (heap.length) heap[0] = last;
		for (let k = 0; ; ) {
			let least = k;
			for (const c of [2 * k + 1, 2 * k + 2]) if (c < heap.length && under(heap[c], heap[least])) least = c;
			if (least === k) return top;
			[heap[k], heap[least]] = [heap[least], heap[k]];
			k = least;
		}
	};
	for (let at = 0; at < n * n; at++) {
		const [x, y] = [at % n, Math.floor(at / n)];
		if (x > 0 && y > 0 && x < n - 1 && y < n - 1) continue;
		[seen[at], to[at]] = [1, at];
		push(at);
	}
	const order: number[] = [];
	while (heap.length) {
		const at = pop();
		order.push(at);
		const [x, y] = [at % n, Math.floor(at / n)];
		for (let k = 0; k < 9; k++) {
			const [a, b] = [x + (k % 3) - 1, y + Math.floor(k / 3) - 1];
			const next = b * n + a;
			if (a < 0 || b < 0 || a >= n || b >= n || seen[next]) continue;
			[seen[next], to[next], filled[next]] = [1, at, Math.max(filled[next], filled[at])];
			push(next);
		}
	}
	const area = new Float32Array(n * n).fill(1);
	for (const at of order.reverse()) if (to[at] !== at) area[to[at]] += area[at];
	return area;
}

/** Hollows of 2,048 cells a side filled to their rims, and a river led over the land. Goal: a second. */
function fills(say: Say): void {
	const heights = hills(2048);
	let at = performance.now();
	hollowsOf(heights, 2048, 0.5);
	say("hollows of 2,048 cells a side filled, goal beside it", performance.now() - at, "ms", 1000);
	const points = Array.from({ length: 60 }, (_, i): [number, number] => [200 * Math.sin(i / 4), -60 * i]);
	const entry = { ...newEntry("river", "r", 0, 0), points, widthM: 6 } as LandEntry;
	const ground: Ground = { preset: "moor", seed: 1, heightM: 40, ledger: [entry] };
	at = performance.now();
	watersOf(ground);
	say("a river of 3.6 km over land, goal beside it", performance.now() - at, "ms", 1000);
}

export async function wear(say: Say): Promise<void> {
	const module = await wearModule();
	const timed = async (cells: number, how: Wear) => {
		const work: LandWork = { x0: 0, z0: 0, stepM: STEP_M, cells, heightsM: hills(cells), wear: how };
		const at = performance.now();
		const { field } = await wearLand(kernelOf(module), work);
		return {
			ms: performance.now() - at,
			mibPerKm2: field.changeM.byteLength / 2 ** 20 / ((cells * STEP_M) / 1000) ** 2,
		};
	};
	for (const [name, how] of [
		["by water", WATER],
		["by slope", SLOPE],
	] as const)
		for (const [cells, goal] of [
			[128, 100],
			[512, 2000],
			[2048, 4000],
		]) {
			const { ms, mibPerKm2 } = await timed(cells, how);
			say(`land worn ${name}, ${cells} cells a side, goal beside it`, ms, "ms", goal);
			if (cells === 2048) say(`what stays of it a square kilometre in cells of ${STEP_M} m`, mibPerKm2, "MiB");
		}
	fills(say);
	const n = 1024;
	const kernel = kernelOf(module);
	const h = kernel.free();
	const [order, cells, buckets] = [h + 4 * n * n, h + 8 * n * n, h + 40 * n * n];
	kernel.memory.grow(Math.ceil((buckets + 2 ** 17 - kernel.memory.buffer.byteLength) / 65536));
	const heights = hills(n);
	new Float32Array(kernel.memory.buffer, h, n * n).set(heights);
	let at = performance.now();
	kernel.drain(n, h, cells, order, buckets, 1);
	kernel.gather(n, cells, order);
	const ours = performance.now() - at;
	at = performance.now();
	plainFlood(heights, n);
	say(
		"flood and waters of 1,024 cells a side, to all lower cells; beside TypeScript, to one",
		ours,
		"ms",
		performance.now() - at,
	);
}
