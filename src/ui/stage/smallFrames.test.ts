import { describe, expect, it } from "vitest";
import { emptyPicture, sumsBytes, type TileSums } from "../../core/scene/picture.ts";
import type { Scene } from "../../core/scene/scene.ts";
import type { SmallFrame } from "../../core/study/smallFrame.ts";
import type { TraceOrder } from "./refiner.ts";
import { SmallFrames, type SmallWork } from "./smallFrames.ts";

const scene = (room = 1): Scene => ({ root: { room, camera: { ratio: 2, ev100: 11 } } }) as unknown as Scene;

/** Work whose frames are told apart by their numbers and by what is edited. */
function made(over: Partial<SmallWork> & { edited?: Map<number, string>; room?: number } = {}) {
	const told: SmallFrame[] = [];
	const loads: number[] = [];
	const orders: TraceOrder[] = [];
	const { edited = new Map<number, string>(), room = 1, ...work } = over;
	const small = new SmallFrames({
		compiled: async (frame) => ({ scene: scene(room), sign: edited.get(frame) ?? `s${frame}` }),
		probe: (_, frame) => ({ frame, across: 1, down: 1, ids: new Uint32Array(1), distancesM: new Float64Array(1) }),
		load: (_, { seed }) => void loads.push(seed),
		tracers: {
			threads: 2,
			trace: async (_, order): Promise<TileSums> => {
				orders.push(order);
				const n = order.tile.width * order.tile.height;
				const sums = new Float64Array(sumsBytes(order.tile) / 8).fill(order.end);
				return { sums, firsts: new ArrayBuffer(n * 40), samples: order.end };
			},
			clean: async (picture, wanted) => (wanted() ? picture.rgb : null),
		},
		tell: (s) => void told.push(s),
		...work,
	});
	return { small, told, loads, orders, edited };
}

const always = () => true;

describe("small frames", () => {
	it("are traced in their order, each once, and again when an edit has changed it", async () => {
		const { small, told, edited } = made();
		small.want([3, 0, 1]);
		await small.trace(always);
		expect(told.map((s) => [s.frame, s.sign])).toEqual([
			[3, "s3"],
			[0, "s0"],
			[1, "s1"],
		]);
		await small.trace(always);
		expect(told).toHaveLength(3);
		edited.set(0, "other");
		await small.trace(always);
		expect(told.slice(3).map((s) => [s.frame, s.sign])).toEqual([[0, "other"]]);
	});

	it("that are known from some other day are not traced again, but where something has changed since", async () => {
		const { small, told } = made();
		small.want(
			[0, 1, 2],
			[
				[0, "s0"],
				[1, "older"],
				[7, "s7"],
			],
		);
		await small.trace(always);
		expect(told.map((s) => s.frame)).toEqual([1, 2]);
	});

	it("are forgotten when they are wanted no more", async () => {
		const { small, told } = made();
		small.want([0, 1]);
		await small.trace(always);
		small.want([1]);
		small.want([0, 1]);
		await small.trace(always);
		expect(told.map((s) => s.frame)).toEqual([0, 1, 0]);
	});

	it("end as soon as something newer is wanted, and tell nothing that is half done", async () => {
		let left = 7;
		const { small, told } = made();
		small.want([0, 1, 2, 3]);
		await small.trace(() => left-- > 0);
		expect(told.length).toBeLessThan(2);
		const none = made({ compiled: async () => null });
		none.small.want([0]);
		await none.small.trace(always);
		expect(none.told).toEqual([]);
	});

	it("have noise of their own each, the same in every trace", async () => {
		const { small, loads, edited } = made();
		small.want([4, 5]);
		await small.trace(always);
		expect(new Set(loads).size).toBe(2);
		edited.set(4, "x");
		await small.trace(always);
		expect(loads[2]).toBe(loads[0]);
	});

	it("have what the lens bends in about them", async () => {
		const { small, told, orders } = made({ room: 1.5 });
		small.want([0]);
		await small.trace(always);
		expect(told[0]).toMatchObject({ width: 288, height: 144, ev100: 11 });
		expect(told[0].part).toEqual({ x: -0.25, y: -0.25, width: 1.5, height: 1.5 });
		expect(Math.min(...orders.map((o) => o.tile.x))).toBe(-48);
		expect(Math.max(...orders.map((o) => o.tile.x + o.tile.width))).toBe(240);
		// Of every pixel something is known.
		const plane = told[0].rgb[0];
		expect(plane.length).toBe(emptyPicture(288, 144).rgb[0].length);
		expect(plane.every((v) => v === 1)).toBe(true);
	});
});
