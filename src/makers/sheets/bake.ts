/**
 * Bakes recipes into sheets: the operations of a recipe's program, strip by strip, by the kernel. The same bytes on every
 * engine, for all numbers are the kernel's.
 */
import type { SheetPlanes } from "../../core/surface/brought.ts";
import type { Op } from "../../core/surface/field.ts";
import { OUTPUTS, type Pass, type Program, programOf, type Step } from "../../core/surface/program.ts";
import type { Recipe } from "../../core/surface/recipe.ts";
import { checkTexels, MOST_TEXELS, type Sheet, TEXEL_WORDS, texelsOf } from "../../core/surface/sheet.ts";

/** The kernel's functions; see `kernel/index.ts` for what they do. */
export interface SheetKernel {
	memory: WebAssembly.Memory;
	free(): number;
	right(to: number, first: number, count: number, size: number): void;
	towards(to: number, first: number, count: number, size: number): void;
	constant(to: number, count: number, value: number): void;
	affine(to: number, a: number, count: number, factor: number, addend: number): void;
	add: Pair;
	subtract: Pair;
	multiply: Pair;
	divide: Pair;
	least: Pair;
	most: Pair;
	atMost(to: number, a: number, count: number, limit: number): void;
	atLeast(to: number, a: number, count: number, limit: number): void;
	absolute(to: number, a: number, count: number): void;
	floor(to: number, a: number, count: number): void;
	root(to: number, a: number, count: number): void;
	smooth(to: number, a: number, count: number): void;
	wave(to: number, a: number, count: number): void;
	mix(to: number, a: number, b: number, share: number, count: number): void;
	noise(to: number, u: number, v: number, count: number, ...cloud: Cloud): void;
	noiseRows(to: number, firstRow: number, rows: number, size: number, ...cloud: [...Cloud, work: number]): void;
	cells(near: number, second: number, lot: number, u: number, v: number, count: number, ...points: Points): void;
	lot(to: number, a: number, b: number, count: number, periodA: number, periodB: number, seed: number): void;
	mean(square: number, size: number, reach: number, work: number): void;
	range(from: number, count: number, to: number): void;
	slopes(heights: number, size: number, run: number, across: number, along: number, squares: number): void;
	halve(from: number, size: number, to: number): void;
	pack(count: number, ...planes: number[]): void;
}

type Pair = (to: number, a: number, b: number, count: number) => void;
type Cloud = [across: number, along: number, octaves: number, first: number, gain: number, seed: number];
type Points = [across: number, along: number, strays: number, seed: number];

/** Texels of a strip, at least one row: what all its places take stays in near memory. */
const STRIP = 1024;
/** Cells of the finest noise over a row. */
const WORK_CELLS = MOST_TEXELS;

interface Strip {
	size: number;
	firstRow: number;
	rows: number;
	count: number;
	/** Address of a place, and of a whole square. */
	place: (n: number) => number;
	square: (n: number) => number;
	/** Room for the noise of a row. */
	work: number;
	/** A square to work in. */
	spare: number;
}

/** Gains that add up to 1; noise that is finer than texels can show is left out. */
function cloudOf([across, along, octaves, gain, seed]: readonly number[], size: number): Cloud {
	let total = 0;
	for (let n = 0; n < octaves; n++) total += gain ** n;
	const shown = Math.floor(Math.log2(size / 2 / Math.max(across, along))) + 1;
	return [across, along, Math.max(1, Math.min(octaves, shown)), 1 / total, gain, seed];
}

/** How each operation is done over a strip. */
const DO: Record<Op, (k: SheetKernel, step: Step, strip: Strip) => void> = {
	right: (k, { to }, { place, firstRow, size, count }) => k.right(place(to[0]), firstRow * size, count, size),
	towards: (k, { to }, { place, firstRow, size, count }) => k.towards(place(to[0]), firstRow * size, count, size),
	constant: (k, { to, numbers }, { place, count }) => k.constant(place(to[0]), count, numbers[0]),
	affine: (k, { to, from, numbers: [factor, addend] }, { place, count }) =>
		k.affine(place(to[0]), place(from[0]), count, factor, addend),
	add: pair("add"),
	subtract: pair("subtract"),
	multiply: pair("multiply"),
	divide: pair("divide"),
	least: pair("least"),
	most: pair("most"),
	atMost: (k, { to, from, numbers }, { place, count }) => k.atMost(place(to[0]), place(from[0]), count, numbers[0]),
	atLeast: (k, { to, from, numbers }, { place, count }) => k.atLeast(place(to[0]), place(from[0]), count, numbers[0]),
	absolute: single("absolute"),
	floor: single("floor"),
	root: single("root"),
	smooth: single("smooth"),
	wave: single("wave"),
	mix: (k, { to, from: [a, b, share] }, { place, count }) =>
		k.mix(place(to[0]), place(a), place(b), place(share), count),
	noise: (k, { to, from: [u, v], numbers, straight }, { place, count, firstRow, rows, size, work }) => {
		const cloud = cloudOf(numbers, size);
		if (straight) k.noiseRows(place(to[0]), firstRow, rows, size, ...cloud, work);
		else k.noise(place(to[0]), place(u), place(v), count, ...cloud);
	},
	cells: (k, { to: [near, second, lot], from: [u, v], numbers }, { place, count }) =>
		k.cells(place(near), place(second), place(lot), place(u), place(v), count, ...(numbers as unknown as Points)),
	lot: (k, { to, from: [a, b], numbers: [periodA, periodB, seed] }, { place, count }) =>
		k.lot(place(to[0]), place(a), place(b), count, periodA, periodB, seed),
	// Read where it stands.
	result: () => {},
	// It has been made over the whole square before.
	mean: (k, { to, numbers }, { place, square, firstRow, size, count }) =>
		k.affine(place(to[0]), square(numbers[0]) + 4 * firstRow * size, count, 1, 0),
};

function pair(name: "add" | "subtract" | "multiply" | "divide" | "least" | "most") {
	return (k: SheetKernel, { to, from: [a, b] }: Step, { place, count }: Strip): void =>
		k[name](place(to[0]), place(a), place(b), count);
}

function single(name: "absolute" | "floor" | "root" | "smooth" | "wave") {
	return (k: SheetKernel, { to, from }: Step, { place, count }: Strip): void =>
		k[name](place(to[0]), place(from[0]), count);
}

/** Squares besides those of the program: slopes across and along, and the sum of their squares; one to work in. */
const BESIDES = 4;

/** Addresses of all that a bake needs, the kernel's memory grown to it. */
function layOut(kernel: SheetKernel, { places, squares }: Program, size: number) {
	const rows = Math.max(1, Math.min(size, Math.floor(STRIP / size)));
	const count = rows * size;
	const first = kernel.free();
	const work = first + 4 * places * count;
	const squaresAt = work + 8 * (WORK_CELLS + 2);
	const out = squaresAt + 4 * (squares + BESIDES) * size * size;
	const missing = out + 4 * TEXEL_WORDS * texelsOf(size) - kernel.memory.buffer.byteLength;
	if (missing > 0) kernel.memory.grow(Math.ceil(missing / 65_536));
	const strip: Omit<Strip, "firstRow"> = {
		size,
		rows,
		count,
		place: (n) => first + 4 * n * count,
		square: (n) => squaresAt + 4 * n * size * size,
		work,
		spare: squaresAt + 4 * (squares + BESIDES - 1) * size * size,
	};
	return { strip, out };
}

function* runPass(
	kernel: SheetKernel,
	{ steps, kept, means }: Pass,
	strip: Omit<Strip, "firstRow">,
): Generator<number> {
	const { size, rows, count, place, square } = strip;
	for (let firstRow = 0; firstRow < size; firstRow += rows) {
		const here = { ...strip, firstRow };
		for (const step of steps) DO[step.op](kernel, step, here);
		for (const { from, square: n } of kept) kernel.affine(square(n) + 4 * firstRow * size, place(from), count, 1, 0);
		if (firstRow % 128 === 0) yield firstRow / size;
	}
	for (const { square: n, reach } of means)
		kernel.mean(square(n), size, Math.min(size / 2 - 1, Math.max(1, Math.round(reach * size))), strip.spare);
}

/**
 * Bakes a recipe into a sheet of so many texels a side, a power of two; tells now and then which share is done.
 * Throws an error in words for other sizes.
 */
export function* bakeSteps(kernel: SheetKernel, recipe: Recipe, seed: number, size: number): Generator<number, Sheet> {
	checkTexels(size);
	const program = programOf(recipe, seed);
	const { strip, out } = layOut(kernel, program, size);
	const { square } = strip;
	for (const [n, pass] of program.passes.entries())
		for (const share of runPass(kernel, pass, strip)) yield (0.9 * (n + share)) / program.passes.length;
	const [height, red, green, blue, roughness, metal] = OUTPUTS.map((_, i) => square(i));
	const [across, along, squares] = [0, 1, 2].map((i) => square(program.squares + i));
	kernel.slopes(height, size, (1000 * recipe.sideM) / size, across, along, squares);
	const planes = { red, green, blue, roughness, metal, height, across, along, squares };
	return packed(kernel, planes, recipe.sideM, size, strip.work, out);
}

/** Addresses of the finest texels' numbers, each in a square of its own. */
type Planes = Record<
	"red" | "green" | "blue" | "roughness" | "metal" | "height" | "across" | "along" | "squares",
	number
>;

/** Packs squares into a sheet, halving them level by level. */
function packed(kernel: SheetKernel, of: Planes, sideM: number, size: number, work: number, out: number): Sheet {
	kernel.range(of.height, size * size, work);
	const [low, , , , high] = new Float32Array(kernel.memory.buffer, work, 5);
	const planes = [of.red, of.green, of.blue, of.roughness, of.metal, of.height, of.across, of.along, of.squares];
	let to = out;
	for (let side = size; side >= 1; side /= 2) {
		kernel.pack(side * side, ...planes, low, high, to);
		to += 4 * TEXEL_WORDS * side * side;
		if (side > 1) for (const plane of planes) kernel.halve(plane, side, plane);
	}
	const words = new Uint32Array(kernel.memory.buffer, out, TEXEL_WORDS * texelsOf(size)).slice();
	return { sideM, size, leastMm: low, mostMm: high, words };
}

/** Packs a surface of pictures into a sheet, as high as it is wide unless told. Slopes that no picture tells are those of its heights. */
export function packPictures(kernel: SheetKernel, of: SheetPlanes, sideM: number, size: number, highM = sideM): Sheet {
	checkTexels(size);
	const names = ["red", "green", "blue", "roughness", "metal", "height", "across", "along", "squares"] as const;
	const first = kernel.free();
	const square = 4 * size * size;
	const work = first + names.length * square;
	const out = work + 64;
	const missing = out + 4 * TEXEL_WORDS * texelsOf(size) - kernel.memory.buffer.byteLength;
	if (missing > 0) kernel.memory.grow(Math.ceil(missing / 65_536));
	const planes = Object.fromEntries(names.map((name, n) => [name, first + n * square])) as Planes;
	const at = (name: (typeof names)[number]) => new Float32Array(kernel.memory.buffer, planes[name], size * size);
	for (const name of ["red", "green", "blue", "roughness", "metal", "height"] as const) at(name).set(of[name]);
	kernel.slopes(planes.height, size, (1000 * sideM) / size, planes.across, planes.along, planes.squares);
	if (highM !== sideM || of.across) {
		const [across, along, squares] = [at("across"), at("along"), at("squares")];
		if (of.across && of.along) {
			across.set(of.across);
			along.set(of.along);
		} else for (let n = 0; n < along.length; n++) along[n] *= sideM / highM;
		for (let n = 0; n < squares.length; n++) squares[n] = across[n] * across[n] + along[n] * along[n];
	}
	return packed(kernel, planes, sideM, size, work, out);
}

/** The same at once. */
export function bakeSheet(kernel: SheetKernel, recipe: Recipe, seed: number, size: number): Sheet {
	const steps = bakeSteps(kernel, recipe, seed, size);
	for (;;) {
		const step = steps.next();
		if (step.done) return step.value;
	}
}
