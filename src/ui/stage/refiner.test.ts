import { describe, expect, it } from "vitest";
import { type Picture, sumsBytes, type TileSums } from "../../core/scene/picture.ts";
import {
	AIM,
	COARSE_WIDTH,
	MOST_SAMPLES,
	nextSamples,
	Refiner,
	type Told,
	type TraceOrder,
	type Tracers,
} from "./refiner.ts";

const SIZE = { width: 300, height: 200 };

/** Threads that answer at once with sums of an even picture; `noise` is what is left of it after a sample. */
class Fake implements Tracers {
	threads = 2;
	loads: { width: number; height: number }[] = [];
	orders: TraceOrder[] = [];
	cleaned = 0;
	stopped = false;
	busy = 0;
	noise = 0.2;
	/** A clock that goes on by what is traced and cleaned alone. */
	clock = 0;
	msPerPixel = 1e-5;
	cleaningMs = 0;
	/** Called before each answer. */
	before: (order: TraceOrder) => void | Promise<void> = () => {};

	load(size: { width: number; height: number }) {
		if (this.busy) throw new Error("loaded while a thread traces");
		this.loads.push(size);
	}
	async trace(_thread: number, order: TraceOrder): Promise<TileSums | null> {
		this.orders.push(order);
		this.busy++;
		await new Promise((r) => setTimeout(r, 0));
		await this.before(order);
		this.busy--;
		if (this.stopped) return null;
		const { tile, begin, end } = order;
		this.clock += (tile.width * tile.height * (end - begin) * this.msPerPixel) / this.threads;
		const n = tile.width * tile.height;
		const sums = new Float64Array(sumsBytes(tile) / 8);
		// Luminance 1, squares so that the variance of a sample is the noise's.
		for (let c = 0; c < 3; c++) sums.fill(end, c * n, (c + 1) * n);
		sums.fill(end * (1 + this.noise ** 2), 3 * n, 4 * n);
		return { sums, firsts: new ArrayBuffer(n * 10 * 4), samples: end };
	}
	async clean(picture: Picture, wanted: () => boolean) {
		this.cleaned++;
		this.clock += this.cleaningMs;
		return wanted() ? picture.rgb : null;
	}
	stop() {
		this.stopped = true;
	}
	ready() {
		this.stopped = false;
	}
}

function make(): { fake: Fake; told: Told[]; refiner: Refiner } {
	const fake = new Fake();
	const told: Told[] = [];
	return {
		fake,
		told,
		refiner: new Refiner(
			fake,
			(t) => told.push(t),
			() => fake.clock,
		),
	};
}

describe("the steps of samples", () => {
	it("double, then go by 16 and by 64", () => {
		const steps = [1];
		while (steps[steps.length - 1] < 200) steps.push(nextSamples(steps[steps.length - 1]));
		expect(steps).toEqual([1, 2, 4, 8, 16, 32, 48, 64, 128, 192, 256]);
	});
});

describe("the refining of a proof", () => {
	it("shows a coarse picture first, then all pixels, until the noise is what is aimed at", async () => {
		const { fake, told, refiner } = make();
		await refiner.start(SIZE);
		expect(fake.loads).toEqual([{ width: COARSE_WIDTH, height: 96 }, SIZE]);
		expect(told[0]).toMatchObject({ coarse: true, width: COARSE_WIDTH, noise: null, done: false });
		const last = told[told.length - 1];
		expect(last).toMatchObject({ coarse: false, ...SIZE, done: true });
		expect(last.noise).toBeLessThanOrEqual(AIM);
		expect(told.filter((t) => t.done)).toHaveLength(1);
		expect(told.filter((t) => !t.coarse).map((t) => t.samples)).toEqual(
			told
				.filter((t) => !t.coarse)
				.map((t) => t.samples)
				.sort((a, b) => a - b),
		);
		expect(last.secondsLeft).toBe(0);
	});
	it("shows a smaller picture without its noise first, where the frame's own pixels are slow to come", async () => {
		const { fake, told, refiner } = make();
		fake.msPerPixel = 0.02;
		fake.cleaningMs = 300;
		const large = { width: 600, height: 400 };
		await refiner.start(large);
		const [, smaller, own] = fake.loads;
		expect(own).toEqual(large);
		expect(smaller.width).toBeLessThan(0.7 * large.width);
		expect(smaller.width / smaller.height).toBeCloseTo(1.5, 1);
		const first = told.findIndex((t) => t.clean);
		expect(told[first]).toMatchObject({ coarse: true, width: smaller.width, samples: 2, done: false });
		// Nothing that is not clean takes its place, and what is told without a picture is told of the one that is shown.
		for (const [i, t] of told.entries()) if (t.pixels === null) expect(t.width).toBe(told[i - 1].width);
		expect(told.slice(first).every((t) => t.clean || t.pixels === null)).toBe(true);
		expect(told.at(-1)).toMatchObject({ ...large, coarse: false, clean: true, done: true });
		// However slow it is, it is large enough to be read.
		fake.msPerPixel = 2;
		await refiner.start(large);
		expect(fake.loads.at(-2)?.width).toBe(240);
	});
	it("makes that as large as four samples take a moment, by what a pixel took last time, as far as the first picture bears it out", async () => {
		const { fake, refiner } = make();
		let dear = 0.01;
		// Paths of the first picture lie far apart: they are twice as dear.
		fake.before = () => {
			fake.msPerPixel = fake.loads[fake.loads.length - 1].width <= COARSE_WIDTH ? dear : 0.005;
		};
		const large = { width: 1200, height: 800 };
		const smaller = async () => {
			const { length } = fake.loads;
			await refiner.start(large, 4);
			return fake.loads[length + 1].width;
		};
		const widthOf = (msPerPixel: number) => Math.sqrt((1500 / (4 * (msPerPixel / fake.threads))) * 1.5);
		expect(await smaller()).toBeCloseTo(widthOf(0.01 / 1.3), -1);
		expect(await smaller()).toBeCloseTo(widthOf(0.005), -1);
		// Another shot, or a machine that has more to do.
		dear = 0.02;
		expect(await smaller()).toBeCloseTo(widthOf(0.01), -1);
	});
	it("makes the first picture as large as it is traced in a moment, once it knows how fast that is", async () => {
		const { fake, refiner } = make();
		fake.msPerPixel = 0.015;
		await refiner.start({ width: 32, height: 32 });
		await refiner.start(SIZE);
		const widths = fake.loads.map((size) => size.width);
		expect(widths[0]).toBe(COARSE_WIDTH);
		const [again] = fake.loads.slice(widths.lastIndexOf(32) + 1);
		expect(again.width).toBeLessThan(COARSE_WIDTH);
		expect((again.width * again.height * fake.msPerPixel) / 2).toBeCloseTo(40, -1);
	});
	it("gives a quarter of the time to taking noise out, and the end of it", async () => {
		const { fake, refiner } = make();
		fake.msPerPixel = 0.001;
		fake.noise = 0.5;
		fake.cleaningMs = 200;
		await refiner.start(SIZE);
		const all = fake.clock;
		expect(fake.cleaned).toBeGreaterThan(3);
		expect((fake.cleaned - 1) * fake.cleaningMs).toBeLessThan(0.3 * all);
	});
	it("traces each tile's samples once, from where it was", async () => {
		const { fake, refiner } = make();
		await refiner.start(SIZE);
		const reached = new Map<string, number>();
		for (const { tile, begin, end } of fake.orders.filter((o) => o.tile.width > 24 || o.tile.x % 24)) {
			const key = `${tile.x},${tile.y},${tile.width}`;
			expect(begin).toBe(reached.get(key) ?? 0);
			expect(end).toBeGreaterThan(begin);
			reached.set(key, end);
		}
	});
	it("ends with the most samples when noise stays", async () => {
		const { fake, told, refiner } = make();
		fake.noise = 50;
		await refiner.start({ width: 32, height: 32 });
		expect(told[told.length - 1]).toMatchObject({ samples: expect.any(Number), done: true });
		expect(told[told.length - 1].samples).toBeGreaterThanOrEqual(MOST_SAMPLES);
	});
	it("stops for something newer, which waits until no thread traces", async () => {
		const { fake, told, refiner } = make();
		let second: Promise<void> | null = null;
		fake.before = (o) => {
			if (o.end >= 2) second ??= refiner.start({ width: 64, height: 32 });
		};
		await refiner.start(SIZE);
		await second;
		expect(told[told.length - 1]).toMatchObject({ width: 64, height: 32, done: true });
		expect(fake.loads.slice(2)).toEqual([
			{ width: COARSE_WIDTH, height: 72 },
			{ width: 64, height: 32 },
		]);
	});
	it("rests when it is told to, and says whether it may be relied on", async () => {
		const { fake, told, refiner } = make();
		let rest: Promise<boolean> | null = null;
		fake.before = () => {
			rest ??= refiner.rest();
		};
		await refiner.start(SIZE);
		expect(await rest).toBe(true);
		expect(told).toEqual([]);
		expect(fake.busy).toBe(0);
	});
	it("does more where it is looked at enlarged, and there first", async () => {
		const { fake, refiner } = make();
		fake.noise = 0.1;
		refiner.looked = { x: 0, y: 0, width: 0.1, height: 0.1 };
		await refiner.start({ width: 600, height: 400 });
		const of = fake.orders.filter((o) => o.tile.x === 0 && o.tile.y === 0 && o.tile.width > 24);
		const first = fake.orders.findIndex((o) => o.tile.width > 24);
		expect(fake.orders[first].tile).toMatchObject({ x: 0, y: 0 });
		const other = fake.orders.filter((o) => o.tile.x > 200 && o.tile.width > 24);
		expect(Math.max(...of.map((o) => o.end))).toBeGreaterThan(Math.max(...other.map((o) => o.end)));
	});
	it("shows the other way, cleaned or as traced: between two tiles, or again when it is done", async () => {
		const { fake, told, refiner } = make();
		fake.before = (o) => {
			if (o.end >= 16) void refiner.showClean(false);
		};
		await refiner.start(SIZE);
		const done = told.findIndex((t) => t.done);
		expect(told.some((t) => t.clean)).toBe(true);
		expect(told[done].clean).toBe(false);
		fake.before = () => {};
		await refiner.showClean(true);
		expect(told[told.length - 1]).toMatchObject({ clean: true, done: true, samples: told[done].samples });
		const count = told.length;
		await refiner.showClean(true);
		expect(told).toHaveLength(count);
	});
	it("traces what lies about the frame where the lens bends it in, and says what its pixels cover", async () => {
		const { fake, told, refiner } = make();
		await refiner.start({ width: 200, height: 100, room: 1.2 });
		// Threads are told of the frame; its own pixels are where they always are.
		expect(fake.loads).toEqual([
			{ width: COARSE_WIDTH, height: 72 },
			{ width: 200, height: 100 },
		]);
		const last = told[told.length - 1];
		expect(last).toMatchObject({ width: 240, height: 120, part: { x: -0.1, y: -0.1, width: 1.2, height: 1.2 } });
		expect(last.pixels?.length).toBe(240 * 120 * 4);
		expect(last.pixels?.every((v) => v === 1)).toBe(true);
		const left = fake.orders.slice(1).map((o) => o.tile.x);
		expect(Math.min(...left)).toBe(-20);
		expect(told[0]).toMatchObject({ coarse: true, width: COARSE_WIDTH + 2 * Math.ceil(0.1 * COARSE_WIDTH) });
	});
	it("tells a trouble of its threads, and can be begun again", async () => {
		const { fake, told, refiner } = make();
		const { load } = fake;
		fake.load = () => {
			throw new Error("It does not fit.");
		};
		await expect(refiner.start(SIZE)).rejects.toThrow("does not fit");
		fake.load = load;
		await refiner.start(SIZE);
		expect(told[told.length - 1].done).toBe(true);
	});
	it("rests between two tiles once it can be read, and goes on where it was", async () => {
		const { fake, told, refiner } = make();
		refiner.rests(true);
		const done = refiner.start(SIZE);
		const quiet = async () => {
			for (let orders = -1; orders !== fake.orders.length; ) {
				orders = fake.orders.length;
				await new Promise((r) => setTimeout(r, 30));
			}
		};
		await quiet();
		const most = Math.max(...fake.orders.map((o) => o.end));
		expect(most).toBe(4);
		expect(told.at(-1)?.done).toBe(false);
		// It is shown the other way while it rests.
		const pictures = told.length;
		await refiner.showClean(false);
		await quiet();
		expect(told.length).toBeGreaterThan(pictures);
		const traced = fake.orders.length;
		refiner.rests(false);
		await done;
		expect(told.at(-1)?.done).toBe(true);
		expect(fake.orders[traced].begin).toBe(4);
		// What is stopped while it rests ends.
		refiner.rests(true);
		const second = refiner.start(SIZE);
		await quiet();
		expect(await Promise.all([refiner.rest(), second])).toEqual([true, undefined]);
	});
});
