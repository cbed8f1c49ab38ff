/**
 * Refines the proof: a coarse picture at once, a smaller one without its noise where the frame's own pixels are slow to come, then one of
 * those with ever more samples until its noise is what is aimed at. Taking the noise out has a quarter of the time. What is looked at enlarged comes first and goes ahead of the rest. It stops between two tiles when
 * something newer is wanted.
 */
import type { FramePart } from "../../core/doc/schema.ts";
import { areaWithRoom } from "../../core/lens/character.ts";
import { type Area, type Size, sharesOf, within } from "../../core/maths/area.ts";
import {
	emptyPicture,
	type Picture,
	placeTile,
	type Tile,
	type TileSums,
	tileNoise,
	tilesOfPart,
} from "../../core/scene/picture.ts";
import type { ProofState } from "./messages.ts";

type Planes = readonly Float32Array[];

/** A frame of a size, and how many times as wide and as high what is traced about it is. */
export interface Framed extends Size {
	room?: number;
}

/** Samples [begin, end) of a tile, on top of those that it has. */
export interface TraceOrder {
	tile: Tile;
	begin: number;
	end: number;
	before?: TileSums;
}

/** The threads that trace, and the scene in their memory. */
export interface Tracers {
	threads: number;
	/** Puts the scene into memory for pictures of a size; no thread may trace meanwhile. */
	load: (size: Size) => void;
	/** Null when it was stopped. */
	trace: (thread: number, order: TraceOrder) => Promise<TileSums | null>;
	/** The picture without its noise, on all threads; null when it is not wanted any more. */
	clean: (picture: Picture, wanted: () => boolean) => Promise<Planes | null>;
	/** Makes all threads end at their next row of pixels; and lets them begin again. */
	stop: () => void;
	ready: () => void;
}

export type Told = Omit<ProofState, "sinceEditMs" | "aim">;
type Numbers = Pick<Told, "coarse" | "samples" | "noise" | "secondsLeft" | "samplesPerSecond" | "done">;

/** The first picture is as wide as it can be traced in so many milliseconds, within these bounds. */
export const COARSE_WIDTH = 144;
const LEAST_COARSE_WIDTH = 80;
const COARSE_MS = 40;
const COARSE_SAMPLES = 1;
/** Noise that is aimed at, as a share. */
export const AIM = 0.04;
export const MOST_SAMPLES = 1024;
/** Least time between two pictures while a pass goes on. */
const POST_MS = 250;
/** Samples from which a tile tells its noise, and a proof can be cleaned. */
const TELLING = 4;
/** Samples from which noise can be taken out: either half has one. */
const CLEANED_FROM = 2;
/** Of all the time, what may go into taking noise out; the first time it is done at once. */
const CLEANING_SHARE = 0.25;
/**
 * What comes before the frame's own pixels: as large as four samples of it take so long, but never smaller, nor larger than a part of the frame.
 * Of the same time, more pixels of fewer samples are nearer to the truth down to two or three samples (FLIP of the demo at 270,000 paths: 176
 * pixels wide .088, 249 .074, 354 .067, 500 .069, and that takes twice as long to be cleaned).
 */
const SMALLER_MS = 1500;
const LEAST_SMALLER_WIDTH = 240;
const SMALLER_SAMPLES = [2, 4, 8] as const;
const LARGEST_SMALLER = 0.7;
/** Sides of its tiles: small ones, so that no thread waits for another's last one for long. */
const SMALLER_TILE = 64;
/** How many times as long as a pixel of a larger picture one of the first takes, whose paths lie farther apart: most of the time, and at most. */
const DEARER = 1.3;
const MOST_DEARER = 2;
/** How many times as many samples what is looked at may have. */
const AHEAD = 4;

/** Samples to come to after so many: doubled at first, then by 16, then by 64. */
export const nextSamples = (n: number): number => (n < 16 ? n * 2 : n < 64 ? n + 16 : n + 64);

function stepsTo(most: number): number[] {
	const steps = [];
	for (let to = 1; to <= most; to = nextSamples(to)) steps.push(to);
	return steps;
}

/** How a picture of the proof comes about. */
interface Course {
	/** Numbers of samples that it comes to, one after the other. */
	steps: readonly number[];
	/** What is shown until it is there; a clean one stays until the next clean one. */
	under: Picture;
	underClean: boolean;
	/** Only what is cleaned is shown of it, and it is never done. */
	before: boolean;
}

export class Refiner {
	private tracers: Tracers;
	private tell: (told: Told) => void;
	private now: () => number;
	/** Raised by every stop: what is under way for an older one ends. */
	private turn = 0;
	private idle: Promise<void> = Promise.resolve();
	/** Shows a finished proof again, with or without its noise. */
	private again: (() => Promise<boolean>) | null = null;
	/** The proof under way is to be shown the other way before it goes on. */
	private otherwise = false;
	private working = false;
	private clean = true;
	/** When the proof under way was begun, what of it went into taking noise out, and the last time of that. */
	private began = 0;
	private cleaningMs = 0;
	/** The picture that was told last: its size, and what it covers. */
	private shown: Pick<Told, "coarse" | "width" | "height" | "part"> | null = null;
	/** Time of a pixel of the last first picture, and of the last one after that; the scene is mostly the same. */
	private msPerPixel = 0;
	private msPerPixelThen: number | null = null;
	/** Part of the frame that is looked at enlarged, as shares of it. */
	looked: FramePart | null = null;
	/** Something else is to have the machine: tiles beyond the first few samples wait. */
	private resting = false;
	private waiting: (() => void)[] = [];
	private restedMs = 0;

	constructor(tracers: Tracers, tell: (told: Told) => void, now: () => number = () => performance.now()) {
		this.tracers = tracers;
		this.tell = tell;
		this.now = now;
	}

	/** Lets a proof rest between two tiles, once it can be read; and go on where it was. */
	rests(resting: boolean): void {
		this.resting = resting;
		if (!resting) this.wake();
	}

	private wake(): void {
		for (const go of this.waiting.splice(0)) go();
	}

	/** Stops what is under way. */
	stop(): void {
		this.turn++;
		this.wake();
		this.again = null;
		this.otherwise = false;
		this.tracers.stop();
	}

	/** Begins anew for a picture of a size, to a number of samples at most. Resolves when it is refined or something newer is wanted; rejects with a trouble. */
	async start(size: Framed, most = MOST_SAMPLES): Promise<void> {
		await this.work((mine) => this.refine(size, mine, most));
	}

	/** Stops what is under way and does something else with the threads, until something newer is wanted. True when it came to its end. */
	async aside(work: (wanted: () => boolean) => Promise<void>): Promise<boolean> {
		let ended = false;
		await this.work(async (mine) => {
			await work(() => mine === this.turn);
			ended = mine === this.turn;
		});
		return ended;
	}

	private async work(does: (mine: number) => Promise<void>): Promise<void> {
		this.stop();
		const mine = this.turn;
		await this.idle;
		if (mine !== this.turn) return;
		this.tracers.ready();
		this.working = true;
		const work = does(mine).finally(() => {
			if (mine === this.turn) this.working = false;
		});
		this.idle = work.catch(() => {});
		await work;
	}

	/** Waits until no thread traces. False when something else has been begun or stopped meanwhile. */
	async rest(): Promise<boolean> {
		this.stop();
		const mine = this.turn;
		await this.idle;
		if (mine !== this.turn) return false;
		this.tracers.ready();
		return true;
	}

	/** Shows the proof with or without its noise: at once when it is done, else between two tiles. */
	async showClean(clean: boolean): Promise<void> {
		if (clean === this.clean) return;
		this.clean = clean;
		const { again } = this;
		// A proof that rests is shown the other way all the same.
		this.wake();
		if (again) {
			const shown = this.idle.then(async () => void (await again()));
			this.idle = shown.catch(() => {});
			await shown;
		} else if (this.working) this.otherwise = true;
	}

	private isLookedAt(tile: Tile, { width, height }: Size): boolean {
		if (!this.looked) return true;
		const [x0, y0] = [this.looked.x * width, this.looked.y * height];
		return (
			tile.x < x0 + this.looked.width * width &&
			tile.x + tile.width > x0 &&
			tile.y < y0 + this.looked.height * height &&
			tile.y + tile.height > y0
		);
	}

	/** Traces tiles to a number of samples, in order, on all threads; what is looked at before the rest, and farther. */
	private async pass(
		tiles: Tile[],
		size: Size,
		sums: (TileSums | undefined)[],
		to: number,
		mine: number,
		onTile: (i: number, fresh: number) => void,
	): Promise<boolean> {
		const busy = new Set<number>();
		const has = (i: number) => sums[i]?.samples ?? 0;
		const take = (): { i: number; end: number } | null => {
			if (this.looked) {
				const end = Math.min(MOST_SAMPLES, to * AHEAD);
				const i = tiles.findIndex((t, k) => !busy.has(k) && has(k) < end && this.isLookedAt(t, size));
				if (i >= 0) return { i, end: Math.min(end, Math.max(to, 2 * has(i))) };
			}
			const i = tiles.findIndex((_, k) => !busy.has(k) && has(k) < to);
			return i < 0 ? null : { i, end: to };
		};
		const work = async (_: unknown, thread: number) => {
			while (mine === this.turn && !this.otherwise) {
				if (this.resting && to > TELLING) {
					const since = this.now();
					await new Promise<void>((resolve) => this.waiting.push(resolve));
					// All threads rest together: the time of one is that of all.
					if (thread === 0) this.restedMs += this.now() - since;
					continue;
				}
				const next = take();
				if (!next) return;
				const { i, end } = next;
				busy.add(i);
				const before = sums[i];
				const reply = await this.tracers.trace(thread, { tile: tiles[i], begin: has(i), end, before });
				busy.delete(i);
				if (!reply || mine !== this.turn) return;
				sums[i] = reply;
				onTile(i, reply.samples - (before?.samples ?? 0));
			}
		};
		await Promise.all(Array.from({ length: this.tracers.threads }, work));
		return mine === this.turn;
	}

	/** A picture of few pixels and one sample, told at once; null when something newer is wanted. */
	private async coarse({ width, height, room = 1 }: Framed, mine: number): Promise<Picture | null> {
		const wide = Math.round(Math.sqrt((COARSE_MS * width) / (height * this.msPerPixel * room * room)));
		const across = Math.min(COARSE_WIDTH, Math.max(LEAST_COARSE_WIDTH, wide));
		const small = { width: across, height: Math.max(1, Math.round((across * height) / width)) };
		this.tracers.load(small);
		const area = areaWithRoom(small, room);
		const picture = emptyPicture(area.width, area.height);
		const tiles = tilesOfPart(area, 24);
		const sums: TileSums[] = [];
		const place = (i: number) => placeTile(picture, within(area, tiles[i]), sums[i]);
		const started = this.now();
		if (!(await this.pass(tiles, small, sums, COARSE_SAMPLES, mine, place))) return null;
		this.msPerPixel = (this.now() - started) / (area.width * area.height * COARSE_SAMPLES);
		const unknown = { noise: null, secondsLeft: null, samplesPerSecond: null, done: false };
		this.post(small, area, picture.rgb, { coarse: true, samples: COARSE_SAMPLES, ...unknown }, false);
		return picture;
	}

	/** Time that a pixel of a larger picture is likely to take: what it was last time, as far as the first picture bears it out. */
	private likely(): number {
		const first = this.msPerPixel;
		return Math.min(first, Math.max(first / MOST_DEARER, this.msPerPixelThen ?? first / DEARER));
	}

	private post(size: Size, area: Area, rgb: Planes | null, numbers: Numbers, clean: boolean): void {
		// Numbers alone are told of the picture that is shown, whatever size is under way.
		const { coarse } = numbers;
		if (rgb) this.shown = { coarse, width: area.width, height: area.height, part: sharesOf(area, size) };
		if (this.shown) this.tell({ ...numbers, ...this.shown, pixels: rgb && rgba(rgb), clean });
	}

	private async refine(framed: Framed, mine: number, most: number): Promise<void> {
		[this.began, this.cleaningMs] = [this.now(), 0];
		const coarse = await this.coarse(framed, mine);
		if (!coarse) return;
		let course: Course = { steps: stepsTo(most), under: coarse, underClean: false, before: false };
		const smaller = this.clean ? smallerThan(framed, this.likely()) : null;
		if (smaller) {
			const under = await this.trace(smaller, { ...course, steps: SMALLER_SAMPLES, before: true }, mine);
			if (!under) return;
			// The person may have asked to see it as it was traced meanwhile.
			course = { ...course, under, underClean: this.clean };
		}
		await this.trace(framed, course, mine);
	}

	/** Traces a picture on its course; null when something newer is wanted. */
	private async trace(
		framed: Framed,
		{ steps, under, underClean, before }: Course,
		mine: number,
	): Promise<Picture | null> {
		const size = { width: framed.width, height: framed.height };
		const area = areaWithRoom(size, framed.room ?? 1);
		const { width, height } = area;
		this.tracers.load(size);
		const picture = emptyPicture(width, height);
		enlarge(under, picture);
		const tiles = middleOut(tilesOfPart(area, before ? SMALLER_TILE : undefined), size);
		const sums: (TileSums | undefined)[] = [];
		const noises = new Float64Array(tiles.length);
		let posted = this.now();
		let msPerSample = 0;
		// Once a clean proof is shown, only the next clean one takes its place.
		let shownClean = underClean;
		let lastCleaningMs = 0;
		/** Mean noise of all tiles, or of those that are looked at, once each has samples enough to tell it. */
		const noiseOf = (all: boolean): number | null => {
			const counted = tiles.flatMap((t, i) => (all || this.isLookedAt(t, size) ? [i] : []));
			if (counted.some((i) => (sums[i]?.samples ?? 0) < TELLING)) return null;
			return counted.length ? counted.reduce((sum, i) => sum + noises[i], 0) / counted.length : null;
		};
		const told = (samples: number): Numbers => {
			const noise = noiseOf(false);
			const more = noise ? Math.min(MOST_SAMPLES - samples, Math.max(0, samples * ((noise / AIM) ** 2 - 1))) : null;
			return {
				coarse: before,
				samples,
				noise,
				secondsLeft: more === null || !msPerSample ? null : (more * msPerSample) / 1000,
				samplesPerSecond: msPerSample ? (width * height * 1000) / msPerSample : null,
				done: false,
			};
		};
		/** Whether there is time to take the noise out: the first time, and as far as it has its share of all time. */
		const timely = (): boolean =>
			lastCleaningMs === 0 ||
			this.cleaningMs + lastCleaningMs <= CLEANING_SHARE * (this.now() - this.began + lastCleaningMs);
		/** Shows the proof as it stands, cleaned (where it is `due`, or there is time) or as it was traced. False when something newer is wanted. */
		const show = async (numbers: Numbers, due = true): Promise<boolean> => {
			const wanted = () => mine === this.turn;
			let pixels: Planes | null = picture.rgb;
			if (this.clean && numbers.samples >= CLEANED_FROM && (due || timely())) {
				const started = this.now();
				pixels = await this.tracers.clean(picture, wanted);
				lastCleaningMs = this.now() - started;
				this.cleaningMs += lastCleaningMs;
				shownClean = true;
			} else if (this.clean && shownClean) pixels = null;
			else shownClean = false;
			if (!wanted()) return false;
			posted = this.now();
			this.post(size, area, pixels, numbers, shownClean);
			return true;
		};
		const onTile = (from: number) => (i: number) => {
			const s = sums[i] as TileSums;
			placeTile(picture, within(area, tiles[i]), s);
			noises[i] = s.samples >= TELLING ? tileNoise(tiles[i], s) : 0;
			if (before || this.now() - posted <= POST_MS) return;
			posted = this.now();
			this.post(size, area, shownClean ? null : picture.rgb, told(from), shownClean);
		};
		for (const to of steps) {
			let started = this.now();
			const rested = this.restedMs;
			const from = Math.min(...tiles.map((_, i) => sums[i]?.samples ?? 0));
			const place = onTile(from);
			let traced = 0;
			while (tiles.some((_, i) => (sums[i]?.samples ?? 0) < to)) {
				const going = await this.pass(tiles, size, sums, to, mine, (i, fresh) => {
					traced += (fresh * tiles[i].width * tiles[i].height) / (width * height);
					place(i);
				});
				if (!going) return null;
				if (!this.otherwise) continue;
				// The person wants to see it the other way: between two tiles, not after all of them.
				this.otherwise = false;
				const paused = this.now();
				if (!(await show(told(from)))) return null;
				started += this.now() - paused;
			}
			if (traced > 0) msPerSample = (this.now() - started - (this.restedMs - rested)) / traced;
			if (before && msPerSample > 0) this.msPerPixelThen = msPerSample / (width * height);
			const numbers = told(to);
			numbers.done = !before && ((noiseOf(true) ?? 1) <= AIM || to >= MOST_SAMPLES);
			// What stays as it is, done or held, is shown at its best.
			if (!(await show(numbers, numbers.done || before || to === steps.at(-1)))) return null;
			if (numbers.done) {
				this.again = () => show(numbers);
				break;
			}
		}
		return picture;
	}
}

/** A frame as large as few samples of it are traced in a moment; null when the frame itself is hardly larger. */
function smallerThan({ width, height, room }: Framed, msPerPixel: number): Framed | null {
	const pixels = SMALLER_MS / (4 * Math.max(1e-9, msPerPixel));
	const by = Math.max(LEAST_SMALLER_WIDTH / width, Math.sqrt(pixels / (width * height)));
	if (by > LARGEST_SMALLER) return null;
	return { width: Math.round(width * by), height: Math.max(1, Math.round(height * by)), room };
}

function rgba(rgb: Planes): Float32Array {
	const n = rgb[0].length;
	const out = new Float32Array(n * 4);
	for (let i = 0; i < n; i++) {
		for (let c = 0; c < 3; c++) out[i * 4 + c] = rgb[c][i];
		out[i * 4 + 3] = 1;
	}
	return out;
}

/** Fills a picture with a smaller one, so that tiles replace it in place. */
function enlarge(from: Picture, to: Picture): void {
	for (let y = 0; y < to.height; y++) {
		const sy = Math.max(0, Math.min(from.height - 1.001, ((y + 0.5) * from.height) / to.height - 0.5));
		const y0 = Math.floor(sy);
		for (let x = 0; x < to.width; x++) {
			const sx = Math.max(0, Math.min(from.width - 1.001, ((x + 0.5) * from.width) / to.width - 0.5));
			const x0 = Math.floor(sx);
			const i = y0 * from.width + x0;
			const a = sx - x0;
			const b = sy - y0;
			for (let c = 0; c < 3; c++) {
				const p = from.rgb[c];
				to.rgb[c][y * to.width + x] =
					(p[i] * (1 - a) + p[i + 1] * a) * (1 - b) +
					((p[i + from.width] ?? p[i]) * (1 - a) + (p[i + from.width + 1] ?? p[i + 1]) * a) * b;
			}
		}
	}
}

function middleOut(tiles: Tile[], { width, height }: Size): Tile[] {
	const far = (t: Tile) => Math.hypot(t.x + t.width / 2 - width / 2, t.y + t.height / 2 - height / 2);
	return tiles.sort((a, b) => far(a) - far(b));
}
