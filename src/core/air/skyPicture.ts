/**
 * Sky pictures: a picture of all directions around (equirectangular: heading across, height from the zenith down) in
 * place of the computed sky. The server prepares a file once into a table of RGB9E5 texels; from it follow, without
 * any other knowledge, the density by which directions are chosen, the light on level ground, the colour of the haze
 * and the picture's own sun.
 *
 * Directions are chosen exactly by the interpolated luminance of the picture, or of its reduction to 2048 × 1024: nodes
 * are the middles of texels, a cell lies between four nodes; a row of cells, a cell in it, and a place in the cell by the
 * bilinear density (Pharr, Jakob, Humphreys: Physically Based Rendering, 4th ed., A.5) are chosen one after the other.
 * The same formulas stand in the tracer's kernel (`skyPicture.ts`) and in the working view's shader.
 */
import { luminance } from "../colour/linear.ts";
import { acos, asin, atan2, cos, DEG, sin } from "../maths/functions.ts";
import type { Vec3 } from "../maths/vec.ts";

export interface SkyTable {
	width: number;
	height: number;
	/** RGB9E5, rows from the zenith; the unit is the table's own. */
	texels: Uint32Array;
}

/** Largest table; larger pictures are reduced by whole numbers. */
export const MOST_SKY_WIDTH = 8192;
const MOST_NODES = 2048;
/** What is below the horizon is mostly hidden by ground: it is chosen less often than its light would ask for. */
const BELOW = 0.05;
/** Share of the mean that every node has at least, so that no direction with light is never chosen. */
const LEAST = 1e-3;
export const RING = 64;
export const SMALL = 64;
/** Bytes of the head of a prepared table: width, height. */
const HEAD = 8;
/** Largest value of a texel. */
const TOP = 2 ** 16;

/** What a mantissa counts by its exponent. */
const UNIT = Float64Array.from({ length: 32 }, (_, e) => 2 ** (e - 24));
const f32 = new Float32Array(1);
const u32 = new Uint32Array(f32.buffer);

/** Shared exponent of three 9-bit mantissas (the layout of the texture format of that name; bias 15). */
export function packTexel(r: number, g: number, b: number): number {
	f32[0] = Math.max(r, g, b);
	if (!(f32[0] > 0)) return 0;
	let e = Math.max(0, Math.min(31, (u32[0] >>> 23) - 127 + 16));
	if (e < 31 && Math.round(f32[0] / UNIT[e]) > 511) e++;
	const m = (v: number) => Math.min(511, Math.max(0, Math.round(v / UNIT[e])));
	return (m(r) | (m(g) << 9) | (m(b) << 18) | (e << 27)) >>> 0;
}

export function unpackTexel(t: number): [number, number, number] {
	const k = UNIT[t >>> 27];
	return [(t & 511) * k, ((t >>> 9) & 511) * k, ((t >>> 18) & 511) * k];
}

export interface Cleaned {
	table: SkyTable;
	/** Texels that were no numbers, infinite or below zero, and have been set right. */
	mended: number;
}

/**
 * Makes the table of a picture: RGB, rows from the top, any unit. What is no number or below zero becomes zero, what is
 * infinite the largest value that is not.
 */
export function makeSkyTable(width: number, height: number, rgb: Float32Array): Cleaned {
	let most = 0;
	let mended = 0;
	for (let i = 0; i < rgb.length; i++) if (rgb[i] > most && rgb[i] < Number.POSITIVE_INFINITY) most = rgb[i];
	const clean = (v: number): number => {
		if (v >= 0 && v <= most) return v;
		mended++;
		return v > most ? most : 0;
	};
	const step = Math.ceil(width / MOST_SKY_WIDTH);
	const w = Math.max(1, Math.floor(width / step));
	const h = Math.max(1, Math.floor(height / step));
	const scale = most > 0 ? most / (TOP * 0.99) : 1;
	const texels = new Uint32Array(w * h);
	const share = 1 / (step * step * scale);
	for (let y = 0; y < h; y++) {
		for (let x = 0; x < w; x++) {
			const sum = [0, 0, 0];
			for (let j = 0; j < step; j++) {
				for (let i = 0; i < step; i++) {
					const at = ((y * step + j) * width + x * step + i) * 3;
					for (let c = 0; c < 3; c++) sum[c] += clean(rgb[at + c]);
				}
			}
			texels[y * w + x] = packTexel(sum[0] * share, sum[1] * share, sum[2] * share);
		}
	}
	return { table: { width: w, height: h, texels }, mended };
}

/** Widest strip for its height that can be a sky. */
export const MOST_STRIP = 12;

/** Whether a picture of all headings shows less than all elevations. */
export const isStrip = (width: number, height: number): boolean => width > 2.1 * height;

/** Texels of a picture's table for a radian of heading. */
export const texelsPerRadian = ({ widthPx }: { widthPx: number }): number =>
	Math.min(MOST_SKY_WIDTH, widthPx) / (2 * Math.PI);

/** Pixels of a print that a texel of its sky may be as large as; a larger one is seen to be soft. */
export const COARSE_PX = 2;

/** Elevation up to which a picture shows the sky, degrees: 90 for one of all directions, less for a strip about the horizon. */
export const skyEdgeDeg = ({ widthPx, heightPx }: { widthPx: number; heightPx: number }): number =>
	isStrip(widthPx, heightPx) ? (180 * heightPx) / widthPx : 90;

/** The table of a strip about the horizon as one of all directions: beyond its edges it goes on in their mean colours. */
export function completedStrip({ width, height, texels }: SkyTable): SkyTable {
	const all = Math.max(height, Math.round(width / 2));
	const top = Math.floor((all - height) / 2);
	const edge = (row: number): number => {
		const sum = [0, 0, 0];
		for (let x = 0; x < width; x++) unpackTexel(texels[row * width + x]).forEach((v, c) => (sum[c] += v / width));
		return packTexel(sum[0], sum[1], sum[2]);
	};
	const out = new Uint32Array(width * all);
	out.fill(edge(0), 0, top * width);
	out.set(texels, top * width);
	out.fill(edge(height - 1), (top + height) * width);
	return { width, height: all, texels: out };
}

/** Bytes of a prepared table, little-endian. */
export function skyTableBytes(t: SkyTable): Uint8Array {
	const out = new Uint8Array(HEAD + t.texels.byteLength);
	const view = new DataView(out.buffer);
	view.setUint32(0, t.width, true);
	view.setUint32(4, t.height, true);
	out.set(new Uint8Array(t.texels.buffer, t.texels.byteOffset, t.texels.byteLength), HEAD);
	return out;
}

/** Reads a prepared table. Throws when the bytes are not of one. */
export function readSkyTable(bytes: Uint8Array): SkyTable {
	const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
	const width = bytes.length > HEAD ? view.getUint32(0, true) : 0;
	const height = bytes.length > HEAD ? view.getUint32(4, true) : 0;
	if (width === 0 || width > MOST_SKY_WIDTH || bytes.length !== HEAD + width * height * 4)
		throw new Error("The prepared sky picture is damaged.");
	return { width, height, texels: new Uint32Array(bytes.slice(HEAD).buffer) };
}

/** Everything that follows from a table, in its unit and unturned. The sun is taken out of all but the level. */
export interface SkyReading {
	/** Nodes of the density: columns, rows, luminances. */
	columns: number;
	rows: number;
	nodes: Float32Array;
	/** Running sums of the rows of cells (rows + 1), then of the cells of each (columns each). Each ends at 1. */
	sums: Float32Array;
	/** Colour of the air towards RING headings. */
	ring: Float32Array;
	/** Means of SMALL × SMALL/2 parts of the picture, RGB. */
	small: Float32Array;
	/** Illuminance of level ground by the upper half, its sun among it. */
	level: number;
	/** The texels without the sun. */
	texels: Uint32Array;
	sun: PictureSun | null;
}

/** A small bright place that shines like a sun; a true one takes its place. */
export interface PictureSun {
	headingDeg: number;
	elevationDeg: number;
	/** Illuminance of a surface that faces it. */
	rgb: Vec3;
}

export function readSky(t: SkyTable): SkyReading {
	const whole = reduce(t, t.texels);
	const level = lightOnLevel(whole);
	const found = findSun(t, whole);
	const texels = found ? found.without : t.texels;
	const bare = found ? reduce(t, texels) : whole;
	return { ...densityOf(bare), texels, ring: ringOf(bare), small: smallOf(bare), level, sun: found?.sun ?? null };
}

function densityOf({ columns, rows, rgb }: Reduced): Pick<SkyReading, "columns" | "rows" | "nodes" | "sums"> {
	const nodes = new Float32Array(columns * rows);
	let mean = 0;
	for (let i = 0; i < nodes.length; i++) {
		nodes[i] = luminance(rgb, i * 3);
		mean += nodes[i] / nodes.length;
	}
	const least = Math.max(1e-12, LEAST * mean);
	for (let j = 0; j < rows; j++) {
		const share = (j + 0.5) / rows > 0.5 ? BELOW : 1;
		for (let i = 0; i < columns; i++) nodes[j * columns + i] = share * Math.max(least, nodes[j * columns + i]);
	}
	return { columns, rows, nodes, sums: runningSums(columns, rows, nodes) };
}

interface Reduced {
	columns: number;
	rows: number;
	rgb: Float32Array;
}

function reduce(t: SkyTable, texels: Uint32Array): Reduced {
	const step = Math.ceil(t.width / MOST_NODES);
	const columns = Math.max(1, Math.floor(t.width / step));
	const rows = Math.max(1, Math.floor(t.height / step));
	const rgb = new Float32Array(columns * rows * 3);
	const share = 1 / (step * step);
	for (let y = 0; y < rows * step; y++) {
		const to = Math.floor(y / step) * columns;
		for (let x = 0; x < columns * step; x++) {
			const texel = texels[y * t.width + x];
			const k = UNIT[texel >>> 27] * share;
			const i = (to + Math.floor(x / step)) * 3;
			rgb[i] += (texel & 511) * k;
			rgb[i + 1] += ((texel >>> 9) & 511) * k;
			rgb[i + 2] += ((texel >>> 18) & 511) * k;
		}
	}
	return { columns, rows, rgb };
}

/** Solid angle of one texel of a row, and the sine of the row's height. */
function rowOf(j: number, rows: number, columns: number): { angle: number; lift: number } {
	const top = cos((j / rows) * Math.PI);
	const low = cos(((j + 1) / rows) * Math.PI);
	return { angle: ((top - low) * 2 * Math.PI) / columns, lift: (top + low) / 2 };
}

function lightOnLevel({ columns, rows, rgb }: Reduced): number {
	let sum = 0;
	for (let j = 0; j < rows; j++) {
		const { angle, lift } = rowOf(j, rows, columns);
		if (lift <= 0) break;
		for (let i = 0; i < columns; i++) sum += luminance(rgb, (j * columns + i) * 3) * angle * lift;
	}
	return sum;
}

function runningSums(columns: number, rows: number, nodes: Float32Array): Float32Array {
	const sums = new Float32Array(rows + 1 + (rows + 1) * columns);
	const ofRow = new Float64Array(rows + 1);
	let total = 0;
	for (let k = 0; k <= rows; k++) {
		const top = Math.max(0, k - 1) * columns;
		const low = Math.min(rows - 1, k) * columns;
		const v0 = Math.max(0, (k - 0.5) / rows);
		const v1 = Math.min(1, (k + 0.5) / rows);
		let run = 0;
		const at = rows + 1 + k * columns;
		for (let i = 0; i < columns; i++) {
			const n = i + 1 === columns ? 0 : i + 1;
			run += nodes[top + i] + nodes[top + n] + nodes[low + i] + nodes[low + n];
			sums[at + i] = run;
		}
		for (let i = 0; i < columns; i++) sums[at + i] /= run;
		sums[at + columns - 1] = 1;
		ofRow[k] = run * sin(((v0 + v1) / 2) * Math.PI) * (v1 - v0);
		total += ofRow[k];
	}
	let run = 0;
	for (let k = 0; k <= rows; k++) {
		run += ofRow[k];
		sums[k] = k === rows ? 1 : run / total;
	}
	return sums;
}

/** Mean colour of half a degree to four degrees above the horizon, over twenty degrees of heading. */
function ringOf({ columns, rows, rgb }: Reduced): Float32Array {
	const out = new Float32Array(RING * 3);
	const low = Math.min(rows - 1, Math.max(0, Math.floor((89.5 / 180) * rows)));
	const top = Math.min(low, Math.floor((86 / 180) * rows));
	const reach = Math.max(0, Math.round((10 / 360) * columns));
	for (let k = 0; k < RING; k++) {
		const middle = Math.floor(((k + 0.5) / RING) * columns);
		let n = 0;
		for (let y = top; y <= low; y++) {
			for (let dx = -reach; dx <= reach; dx++) {
				const i = (y * columns + ((middle + dx + columns) % columns)) * 3;
				for (let c = 0; c < 3; c++) out[k * 3 + c] += rgb[i + c];
				n++;
			}
		}
		for (let c = 0; c < 3; c++) out[k * 3 + c] /= n;
	}
	return out;
}

/** Reach of a sun's light about its middle, and how much brighter than the mean of the picture it has to be. */
const SUN_REACH = 5 * DEG;
const SUN_CONTRAST = 60;

/**
 * The brightest place, when it is small and by far brighter than the rest. Its light is all that is above a tenth of it
 * within 5°; in the picture without it these texels have the mean of what lies about them.
 */
function findSun(t: SkyTable, { columns, rows, rgb }: Reduced): { sun: PictureSun; without: Uint32Array } | null {
	let best = 0;
	let mean = 0;
	for (let i = 0; i < columns * rows; i++) {
		mean += luminance(rgb, i * 3) / (columns * rows);
		if (luminance(rgb, i * 3) > luminance(rgb, best * 3)) best = i;
	}
	const bright = luminance(rgb, best * 3) / 10;
	if (columns < 64 || bright * 10 < SUN_CONTRAST * mean) return null;
	const middle = towards(((best % columns) + 0.5) / columns, (Math.floor(best / columns) + 0.5) / rows);
	const bx = Math.floor((((best % columns) + 0.5) / columns) * t.width);
	const by = Math.floor(((Math.floor(best / columns) + 0.5) / rows) * t.height);
	const reach = Math.ceil((2 * SUN_REACH * t.height) / Math.PI);
	const direction = [0, 0, 0];
	const light: [number, number, number] = [0, 0, 0];
	const about = [0, 0, 0];
	let abouts = 0;
	const its: number[] = [];
	for (let y = Math.max(0, by - reach); y <= Math.min(t.height - 1, by + reach); y++) {
		const { angle } = rowOf(y, t.height, t.width);
		const wide = Math.min((t.width - 1) >> 1, Math.ceil(reach / Math.max(0.05, sin(((y + 0.5) / t.height) * Math.PI))));
		for (let dx = -wide; dx <= wide; dx++) {
			const x = (bx + dx + t.width) % t.width;
			const d = towards((x + 0.5) / t.width, (y + 0.5) / t.height);
			const near = d[0] * middle[0] + d[1] * middle[1] + d[2] * middle[2];
			const texel = unpackTexel(t.texels[y * t.width + x]);
			const value = luminance(texel);
			if (value < bright) {
				if (near < cos(SUN_REACH / 2)) continue;
				abouts++;
				for (let k = 0; k < 3; k++) about[k] += texel[k];
				continue;
			}
			// A bright wall or a whole bright sky is no sun.
			if (near < cos(SUN_REACH)) return null;
			its.push(y * t.width + x);
			for (let k = 0; k < 3; k++) {
				direction[k] += d[k] * value * angle;
				light[k] += texel[k] * angle;
			}
		}
	}
	if (abouts === 0 || its.length === 0) return null;
	const without = t.texels.slice();
	const fill = packTexel(about[0] / abouts, about[1] / abouts, about[2] / abouts);
	for (const i of its) without[i] = fill;
	const length = Math.sqrt(direction[0] ** 2 + direction[1] ** 2 + direction[2] ** 2);
	return {
		sun: {
			headingDeg: atan2(direction[0], -direction[2]) / DEG,
			elevationDeg: asin(direction[1] / length) / DEG,
			rgb: light,
		},
		without,
	};
}

function smallOf({ columns, rows, rgb }: Reduced): Float32Array {
	const out = new Float32Array((SMALL * SMALL * 3) / 2);
	const counts = new Float64Array((SMALL * SMALL) / 2);
	// A picture smaller than the parts is looked at once for each of them.
	const [wide, high] = [Math.max(columns, SMALL), Math.max(rows, SMALL / 2)];
	for (let y = 0; y < high; y++) {
		for (let x = 0; x < wide; x++) {
			const from = Math.floor((y * rows) / high) * columns + Math.floor((x * columns) / wide);
			const to = Math.floor((y * SMALL) / 2 / high) * SMALL + Math.floor((x * SMALL) / wide);
			for (let c = 0; c < 3; c++) out[to * 3 + c] += rgb[from * 3 + c];
			counts[to]++;
		}
	}
	for (let i = 0; i < counts.length; i++) for (let c = 0; c < 3; c++) out[i * 3 + c] /= Math.max(1, counts[i]);
	return out;
}

/** Direction of a place in the picture, both from 0 to 1; the middle lies at heading 0. */
export function towards(u: number, v: number): Vec3 {
	const a = (u - 0.5) * 2 * Math.PI;
	const s = sin(v * Math.PI);
	return [s * sin(a), cos(v * Math.PI), -s * cos(a)];
}

/** A picture hung around a scene. Turn in parts of a full turn, gain in cd/m² a unit of the table's texels. */
export interface HungPicture {
	width: number;
	height: number;
	texels: Uint32Array;
	turn: number;
	gain: number;
	saturation: number;
}

/** Luminance of the picture in a unit direction, cd/m² as RGB, between texels. */
export function pictureLuminance(p: HungPicture, d: Vec3): [number, number, number] {
	const u = atan2(d[0], -d[2]) / (2 * Math.PI) + 0.5 - p.turn;
	const x = (u - Math.floor(u)) * p.width - 0.5;
	const y = Math.min(p.height - 1, Math.max(0, (acos(Math.min(1, Math.max(-1, d[1]))) / Math.PI) * p.height - 0.5));
	const x0 = Math.floor(x);
	const y0 = Math.min(Math.floor(y), Math.max(0, p.height - 2));
	const fx = x - x0;
	const fy = y - y0;
	const at = (i: number, j: number) =>
		unpackTexel(p.texels[Math.min(p.height - 1, j) * p.width + ((i + p.width) % p.width)]);
	const [a, b, c, e] = [at(x0, y0), at(x0 + 1, y0), at(x0, y0 + 1), at(x0 + 1, y0 + 1)];
	const v = [0, 1, 2].map(
		(k) => ((a[k] * (1 - fx) + b[k] * fx) * (1 - fy) + (c[k] * (1 - fx) + e[k] * fx) * fy) * p.gain,
	);
	const grey = luminance(v);
	return v.map((k) => Math.max(0, grey + (k - grey) * p.saturation)) as [number, number, number];
}
