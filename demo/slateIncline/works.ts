/** What people have put up in the quarry: the track and its wagon, the winding house, walls, slabs, and the foreman. */
import { corners, type Piece, type Surface } from "../../src/core/doc/schema.ts";
import { atan2, cos, DEG, millimetres, sin } from "../../src/core/maths/functions.ts";
import { randomStream } from "../../src/core/maths/hash.ts";
import { bar, covered, figure, led, type P, put, shaped } from "../parts.ts";
import { FOOT, HEAD, heightAt, SLEEPERS_M } from "./land.ts";

const IRON = covered({ colour: [0.06, 0.045, 0.038], roughness: 0.45, metal: 0 }, "rail");
const TIMBER = covered({ colour: [0.085, 0.066, 0.05], roughness: 0.8, metal: 0 }, "beam", { wet: 0.2 });
const WALL = covered({ colour: [0.06, 0.062, 0.07], roughness: 0.85, metal: 0 }, "dry stone");
const ROOF = covered({ colour: [0.03, 0.032, 0.038], roughness: 0.5, metal: 0 }, "slates", { wet: 0.3 });
const SLAB = covered({ colour: [0.085, 0.09, 0.105], roughness: 0.4, metal: 0 }, "slate", { wet: 0.3 });
const CLOTH: Surface = { colour: [0.045, 0.038, 0.036], roughness: 0.9, metal: 0 };
const SKIN: Surface = { colour: [0.35, 0.22, 0.16], roughness: 0.6, metal: 0 };

const WAY = [HEAD[0] - FOOT[0], HEAD[1] - FOOT[1]] as const;
const LONG_M = Math.sqrt(WAY[0] ** 2 + WAY[1] ** 2);
const [ALONG_X, ALONG_Z] = [WAY[0] / LONG_M, WAY[1] / LONG_M];
/** Clockwise from straight ahead. */
const HEADING = millimetres(atan2(ALONG_X, -ALONG_Z) / DEG);
const GAUGE_M = 1.06;
const RAIL_M = 0.13;

/** A place of the incline, so far along it and to its right; its height is that of its sleepers and more. */
function onIncline(alongM: number, right: number, up = 0): P {
	const [mx, mz] = [FOOT[0] + ALONG_X * alongM, FOOT[1] + ALONG_Z * alongM];
	return [mx - ALONG_Z * right, heightAt(mx, mz) + SLEEPERS_M + up, mz + ALONG_X * right];
}

/** Heights between sleepers and on them are told from their middles: rails are straight over a few metres. */
const EVERY_M = 2.7;

export function track(): Piece[] {
	const stations = Array.from({ length: Math.floor((LONG_M - 2) / EVERY_M) + 1 }, (_, i) => 1 + i * EVERY_M);
	// A station lies in the middle of a sleeper where its land is highest.
	const settled = stations.map((s) =>
		[0, 0.15, 0.3, 0.45, 0.6, 0.75]
			.map((d) => s + d)
			.reduce((a, b) => (onIncline(b, 0)[1] - b > onIncline(a, 0)[1] - a ? b : a)),
	);
	return [-1, 1].map((side) =>
		led(
			`rail${side < 0 ? "l" : "r"}`,
			`Incline, ${side < 0 ? "left" : "right"} rail`,
			settled.map((s) => onIncline(s, (side * GAUGE_M) / 2, -0.06)),
			0.1,
			RAIL_M,
			"square",
			IRON,
		),
	);
}

export function wagon(): Piece[] {
	const at = 44;
	const [a, b] = [onIncline(at, 0), onIncline(at + 3, 0)];
	const pitch = millimetres(atan2(b[1] - a[1], 3) / DEG);
	const lean = { headingDeg: HEADING, pitchDeg: pitch };
	const up: P = [-ALONG_X * sin(pitch * DEG), cos(pitch * DEG), -ALONG_Z * sin(pitch * DEG)];
	const over = (alongM: number, right: number, m: number): P => {
		const p = onIncline(at + alongM, right);
		return [p[0] + up[0] * m, p[1] + up[1] * m, p[2] + up[2] * m];
	};
	const wheels = [-0.75, 0.75].flatMap((s) =>
		[-1, 1].map((side) => {
			const p = over(s + 0.9, (side * GAUGE_M) / 2 - 0.05, 0.14);
			return put(
				`wheel${s < 0 ? "a" : "b"}${side < 0 ? "l" : "r"}`,
				"Wagon, wheel",
				"cylinder",
				p,
				[0.5, 0.1, 0.5],
				IRON,
				{
					headingDeg: HEADING,
					rollDeg: 90,
				},
			);
		}),
	);
	return [
		...wheels,
		put("wagonbed", "Wagon, bed", "box", over(0.9, 0, 0.5), [1.5, 0.16, 2.6], TIMBER, lean),
		put("wagonload", "Wagon, slates", "box", over(0.95, 0, 0.66), [1.2, 0.55, 1.9], SLAB, lean),
		put("wagonend", "Wagon, tail board", "box", over(-0.3, 0, 0.66), [1.5, 0.75, 0.1], TIMBER, lean),
		bar("rope", "Rope", over(2.2, 0, 0.5), onIncline(LONG_M - 3, 0, 0.7), 0.05, IRON),
	];
}

/** Metres that it stands behind the end of the track. */
const BACK_M = 4;

/** The winding house stands at the incline's head, its drum between two walls before it. */
export function windingHouse(): Piece[] {
	const base = heightAt(HEAD[0], HEAD[1] - 6) - 0.1;
	const at = (right: number, up: number, away: number): P => [
		HEAD[0] - ALONG_Z * right + ALONG_X * (away + BACK_M),
		base + up,
		HEAD[1] + ALONG_X * right + ALONG_Z * (away + BACK_M),
	];
	const turned = { headingDeg: HEADING };
	const cheeks = [-1, 1].map((side) =>
		put(
			`cheek${side < 0 ? "l" : "r"}`,
			"Winding house, drum wall",
			"box",
			// Down to the track, which comes up in a cutting.
			at(side * 4.2, -12, 0.4),
			[1.3, 21.4, 8],
			WALL,
			turned,
		),
	);
	return [
		...cheeks,
		put("drum", "Winding house, drum", "cylinder", at(-3.6, 6.2, 0.4), [6, 7.2, 6], TIMBER, {
			...turned,
			rollDeg: 90,
		}),
		put("drumroof", "Winding house, drum's roof", "box", at(0, 9.4, 0.4), [11, 0.6, 9.4], ROOF, turned),
		put("house", "Winding house", "building", at(3, 0, 12), [16, 9.4, 12], WALL, {
			...turned,
			shape: shaped("building", {
				storeys: 1,
				bays: 2,
				roof: "gabled",
				roofM: 5,
				eavesM: 0.6,
				doors: 1,
				lit: 0,
				seed: 3,
			}),
		}),
		put("chimney", "Winding house, chimney", "box", at(8.4, 9, 13), [1.7, 11, 1.7], WALL, turned),
	];
}

/** Walls of a shed whose roof has gone, beside the track on the floor. */
export function shed(): Piece[] {
	const [x, z] = [21, -52];
	const points = corners<[number, number]>([-4, -3], [4, -3], [4, 3], [-4, 3]);
	return [
		put("shedwalls", "Roofless shed", "wall", [x, heightAt(x, z) - 0.3, z], [8, 3.1, 6], WALL, {
			headingDeg: -24,
			shape: shaped("wall", {
				points,
				closed: true,
				thickM: 0.55,
				openings: [
					{ n: 0, alongM: 4.2, widthM: 1.3, sillM: 0, tallM: 2.2, head: "straight" },
					{ n: 1, alongM: 11, widthM: 1, sillM: 1, tallM: 1.1, head: "straight" },
					{ n: 2, alongM: 18, widthM: 1.2, sillM: 0.9, tallM: 1.2, head: "straight" },
				],
			}),
		}),
	];
}

/** Slabs that were left: right, away, how far they are strewn, how many. */
const STREWN: [number, number, number, number][] = [
	[-4, 20, 4, 16],
	[6, 17, 4, 14],
	[1, 10, 6, 14],
	[-17, -3, 5, 14],
	[15, -20, 5, 16],
	[4, -40, 10, 22],
	[-18, -40, 9, 18],
];

export function slabs(): Piece[] {
	const random = randomStream(71);
	return STREWN.flatMap(([x, z, reach, count], heap) =>
		Array.from({ length: count }, (_, i) => {
			const [a, r] = [random() * 360 * DEG, reach * Math.sqrt(random())];
			const [px, pz] = [x + r * cos(a), z + r * sin(a)];
			const size: P = [0.5 + 1.5 * random(), 0.07 + 0.22 * random() ** 2, 0.4 + 0.9 * random()];
			return put(`slab${heap}-${i}`, "Slab", "box", [px, heightAt(px, pz) - 0.06, pz], size, SLAB, {
				headingDeg: millimetres(360 * random() - 180),
				pitchDeg: millimetres(34 * random() - 17),
				rollDeg: millimetres(28 * random() - 14),
			});
		}),
	);
}

/** A stack that waits to be taken away, each slab a little out of line. */
export function stack(): Piece[] {
	const random = randomStream(5);
	const [x, z] = [12.5, 8];
	const foot = heightAt(x, z) - 0.1;
	return Array.from({ length: 11 }, (_, i) =>
		put(
			`stack${i}`,
			"Stack of slabs",
			"box",
			[x + 0.16 * random(), foot + 0.13 * i, z + 0.16 * random()],
			[2.1, 0.12, 1.2],
			SLAB,
			{
				headingDeg: millimetres(38 + 8 * random()),
			},
		),
	);
}

/** The foreman, who looks up at the wagon. */
export function foreman(): Piece[] {
	const [x, z] = [8.6, -34];
	const y = heightAt(x, z);
	return [
		...figure("foreman", "Foreman", [x, y, z], -14, [x + 0.3, y + 1.02, z], { cloth: CLOTH, skin: SKIN }),
		bar("foremanstick", "Foreman, stick", [x + 0.45, y, z - 0.1], [x + 0.28, y + 1.05, z], 0.04, TIMBER),
	];
}
