/**
 * Brings the light of a straight picture to where the lens draws it, in lines from the top, for a large print does not fit in
 * memory: of what has come only those lines are held that lines to come are made from.
 *
 * Light between pixels by cubic convolution (Keys 1981), held within the four pixels about it, so that a lamp has no dark ring.
 */
import type { Finish, LensCharacter } from "../doc/schema.ts";
import { characterOf, displaces, GREEN, sourceOf, TAPS } from "../lens/character.ts";
import type { Area, Size } from "../maths/area.ts";
import { type FinishedBy, finishPicture } from "./finish.ts";

export interface Lines {
	/** First of them, counted from the picture's first. */
	y: number;
	rows: number;
	/** Planes of equal size; the first three are red, green and blue. */
	planes: readonly Float32Array[];
}

export class BentLines {
	private lens: Pick<LensCharacter, "bend" | "fringe">;
	private size: Size;
	private from: Area;
	private to: Area;
	private nearest: boolean;
	/** Lines that are held by their number in the frame. */
	private held = new Map<number, Float32Array[]>();
	/** Line of the frame that is to come in, and that is to go out. */
	private next: number;
	private out: number;
	private dropped: number;

	/** `from` and `to` are the pixels that come and those that are wanted, in pixels of a frame of a size. `nearest` mixes no pixels: for depth and numbers. */
	constructor(lens: Pick<LensCharacter, "bend" | "fringe">, size: Size, from: Area, to: Area, nearest = false) {
		this.lens = lens;
		this.size = size;
		this.from = from;
		this.to = to;
		this.nearest = nearest;
		this.next = from.y;
		this.dropped = from.y;
		this.out = to.y;
	}

	/** Nothing is to be done: what comes is what is wanted. */
	static idle(lens: Pick<LensCharacter, "bend" | "fringe">, from: Area, to: Area): boolean {
		const same = from.x === to.x && from.y === to.y && from.width === to.width && from.height === to.height;
		return same && !displaces(lens);
	}

	/** First and last line that a line of the wanted is made from. The distance from the middle column tells it. */
	private needs(y: number): [number, number] {
		const { x, width } = this.to;
		const middle = Math.min(x + width, Math.max(x, this.size.width / 2));
		let [low, high] = [Infinity, -Infinity];
		for (const at of [x, middle, x + width])
			for (const channel of [0, 1, 2]) {
				const v = sourceOf(at, y + 0.5, channel, this.lens, this.size)[1];
				low = Math.min(low, v);
				high = Math.max(high, v);
			}
		return [Math.floor(low) - TAPS, Math.ceil(high) + TAPS];
	}

	/** Takes lines that follow those before; yields those that can be made by now. Planes that come may be used again afterwards. */
	*take({ rows, planes }: Pick<Lines, "rows" | "planes">): Generator<Lines> {
		const { width } = this.from;
		for (let j = 0; j < rows; j++)
			this.held.set(
				this.next++,
				planes.map((plane) => plane.slice(j * width, (j + 1) * width)),
			);
		yield* this.make();
	}

	private *make(): Generator<Lines> {
		const { from, to } = this;
		const last = Math.min(this.next, from.y + from.height) - 1;
		const first = this.out;
		const ended = this.next >= from.y + from.height;
		let until = first;
		while (until < to.y + to.height && (ended || this.needs(until)[1] <= last)) until++;
		if (until === first || this.held.size === 0) return;
		const count = (this.held.get(last) as Float32Array[]).length;
		const planes = Array.from({ length: count }, () => new Float32Array((until - first) * to.width));
		for (let y = first; y < until; y++) this.line(planes, (y - first) * to.width, y);
		this.out = until;
		const low = until < to.y + to.height ? Math.min(last, this.needs(until)[0]) : last + 1;
		for (; this.dropped < low; this.dropped++) this.held.delete(this.dropped);
		yield { y: first - to.y, rows: until - first, planes };
	}

	/** Planes of the line that is held, or of the nearest that is. */
	private row(y: number): Float32Array[] {
		const { from } = this;
		return this.held.get(Math.min(from.y + from.height - 1, Math.max(this.dropped, y))) as Float32Array[];
	}

	/** A line of all planes; red, green and blue come from places of their own only where there is a fringe. */
	private line(out: readonly Float32Array[], at: number, y: number): void {
		const { to, lens, size, nearest } = this;
		const apart = !nearest && lens.fringe !== 0;
		const groups = apart
			? [0, 1, 2].map((channel) => ({ channel, planes: out.flatMap((_, c) => (c % 3 === channel ? [c] : [])) }))
			: [{ channel: GREEN, planes: out.map((_, c) => c) }];
		for (const { channel, planes } of groups) {
			const gathered = new Gathering(this.from.width, (v) => this.row(v));
			for (let x = 0; x < to.width; x++) {
				const [sx, sy] = sourceOf(to.x + x + 0.5, y + 0.5, channel, lens, size);
				gathered.at(sx - 0.5 - this.from.x, sy - 0.5);
				for (const c of planes) out[c][at + x] = nearest ? gathered.nearest(c) : gathered.light(c);
			}
		}
	}
}

/** Light of planes about a place. */
class Gathering {
	private most: number;
	private row: (y: number) => Float32Array[];
	private across = new Float64Array(4);
	private down = new Float64Array(4);
	private columns = new Int32Array(4);
	private rows: Float32Array[][] = [];
	private top = Number.NaN;
	private near = 0;
	private close = 0;

	constructor(width: number, row: (y: number) => Float32Array[]) {
		this.most = width - 1;
		this.row = row;
	}

	/** Goes to a place, counted from the middles of pixels. */
	at(x: number, y: number): void {
		const [x0, y0] = [Math.floor(x), Math.floor(y)];
		cubic(x - x0, this.across);
		cubic(y - y0, this.down);
		for (let i = 0; i < 4; i++) this.columns[i] = Math.min(this.most, Math.max(0, x0 - 1 + i));
		this.near = x - x0 < 0.5 ? 1 : 2;
		this.close = y - y0 < 0.5 ? 1 : 2;
		// Along a line the rows seldom change.
		if (y0 === this.top) return;
		this.top = y0;
		this.rows = [-1, 0, 1, 2].map((j) => this.row(y0 + j));
	}

	nearest(plane: number): number {
		return this.rows[this.close][plane][this.columns[this.near]];
	}

	light(plane: number): number {
		const { across, down, columns, rows } = this;
		const [a, b, c, d] = columns;
		let sum = 0;
		for (let j = 0; j < 4; j++) {
			const row = rows[j][plane];
			sum += down[j] * (across[0] * row[a] + across[1] * row[b] + across[2] * row[c] + across[3] * row[d]);
		}
		const [upper, lower] = [rows[1][plane], rows[2][plane]];
		const low = Math.min(upper[b], upper[c], lower[b], lower[c]);
		const high = Math.max(upper[b], upper[c], lower[b], lower[c]);
		return Math.min(high, Math.max(low, sum));
	}
}

/** Weights of four pixels for a place between the middle two. */
function cubic(t: number, w: Float64Array): void {
	w[0] = t * (-0.5 + t * (1 - 0.5 * t));
	w[1] = 1 + t * t * (-2.5 + 1.5 * t);
	w[2] = t * (0.5 + t * (2 - 1.5 * t));
	w[3] = t * t * (-0.5 + 0.5 * t);
}

/** The frame of a small picture whose pixels cover a part of it, or more than it, told as shares of it. */
export function framePlanes(
	planes: readonly Float32Array[],
	{ width, height }: Size,
	part: Area,
	lens: Pick<LensCharacter, "bend" | "fringe">,
): Size & { planes: readonly Float32Array[] } {
	const frame = { width: Math.round(width / part.width), height: Math.round(height / part.height) };
	const from = { x: Math.round(part.x * frame.width), y: Math.round(part.y * frame.height), width, height };
	const to = { x: 0, y: 0, ...frame };
	if (BentLines.idle(lens, from, to)) return { ...frame, planes };
	const [lines] = new BentLines(lens, frame, from, to).take({ rows: height, planes });
	return { ...frame, planes: lines.planes };
}

/** Finishes the frame of such a picture. */
export function finishedWhole(
	planes: readonly Float32Array[],
	size: Size,
	part: Area,
	camera: FinishedBy,
	finish: Finish,
): Size & { pixels: Uint8ClampedArray } {
	const { width, height, planes: shown } = framePlanes(planes, size, part, characterOf(finish));
	const [r, g, b] = shown;
	return { width, height, pixels: finishPicture([r, g, b], width, height, camera, finish) };
}
