/** The hull on its blocks: ribs, wales, stem and post, and the shores that hold it. */
import type { Piece } from "../../src/core/doc/schema.ts";
import { randomStream } from "../../src/core/maths/hash.ts";
import { bar, led, type P, put } from "../parts.ts";
import { BLOCKS, HALF_FLOOR, PALE, TIMBER } from "./making.ts";

/** The keel: from its stern, near the lens, to its bow; the hull's half breadth and sheer along it, by t from 0 to 1. */
const STERN_Z = -17;
const BOW_Z = -86;
const keelZ = (t: number) => STERN_Z + (BOW_Z - STERN_Z) * t;
const half = (t: number) => 6.2 * Math.max(0, 1 - Math.abs(2 * t - 0.96) ** 2.6) ** 0.8 + 0.25;
const sheer = (t: number) => 8.6 + 2.6 * (2 * t - 0.9) ** 2;
const KEEL_Y = 1.5;
export const SHIP_X = 2.4;

export function hull(): Piece[] {
	const out: Piece[] = [];
	out.push(put("keel", "Keel", "box", [SHIP_X, KEEL_Y - 0.5, keelZ(0.5)], [0.5, 0.6, STERN_Z - BOW_Z + 1], TIMBER));
	out.push(
		put("blocks", "Keel blocks", "box", [SHIP_X, 0, STERN_Z + 0.5], [1.6, KEEL_Y - 0.5, 0.7], BLOCKS, {
			repeat: { kind: "row", count: 24, step: [0, 3], vary: { seed: 3, turnDeg: 4, size: 0.06, drop: 0 } },
		}),
	);
	const ribs = 26;
	for (let i = 0; i < ribs; i++) {
		const t = 0.03 + (0.93 * i) / (ribs - 1);
		const [z, b, h] = [keelZ(t), half(t), sheer(t)];
		for (const side of [-1, 1]) {
			const at = (share: number, up: number): P => [SHIP_X + side * b * share, up, z];
			out.push(
				led(
					`rib${i}${side}`,
					`Rib ${i + 1}, ${side < 0 ? "left" : "right"}`,
					[at(0.02, KEEL_Y), at(0.55, KEEL_Y + 0.5), at(0.93, KEEL_Y + 2.2), at(1.02, KEEL_Y + 4.6), at(0.97, h)],
					0.34,
					0.26,
					"square",
					TIMBER,
				),
			);
		}
	}
	// Wales along the ribs, and a few planks of the bottom.
	for (const side of [-1, 1])
		for (const [k, [share, up]] of (
			[
				[1.05, 5.2],
				[1.06, 7.2],
				[0.72, 0.75],
				[0.86, 1.4],
			] as const
		).entries()) {
			// Wales run in to the sternpost and the stem; planks are so far but a few.
			const places = Array.from({ length: 11 }, (_, i): P => {
				const t = k > 1 ? 0.2 + 0.05 * i : (i / 10) ** 1.4 * 0.985;
				return [
					SHIP_X + side * (i || k > 1 ? half(t) * share + 0.12 : 0),
					KEEL_Y + up * (k < 2 ? sheer(t) / 9.2 : 1),
					keelZ(t),
				];
			});
			out.push(
				led(
					`wale${side}${k}`,
					k < 2 ? "Wale" : "Plank",
					places,
					0.14,
					k < 2 ? 0.4 : 0.3,
					"square",
					k < 2 ? TIMBER : PALE,
				),
			);
		}
	const [stem, post] = [keelZ(1), keelZ(0)];
	out.push(
		led(
			"stem",
			"Stem",
			[
				[SHIP_X, KEEL_Y - 0.2, stem + 3],
				[SHIP_X, KEEL_Y + 1.2, stem - 0.5],
				[SHIP_X, KEEL_Y + 6, stem - 4],
				[SHIP_X, 12.4, stem - 6],
			],
			0.5,
			0.6,
			"square",
			TIMBER,
		),
	);
	out.push(
		led(
			"post",
			"Sternpost",
			[
				[SHIP_X, KEEL_Y - 0.2, post],
				[SHIP_X, 5, post + 0.6],
				[SHIP_X, 9.3, post + 1.2],
			],
			0.5,
			0.55,
			"square",
			TIMBER,
		),
	);
	// Shores from the steps to the hull.
	const random = randomStream(5);
	for (let i = 0; i < 9; i++)
		for (const side of [-1, 1]) {
			const t = 0.1 + 0.09 * i;
			const foot: P = [side * (HALF_FLOOR + 0.2), 1.7, keelZ(t) + random() * 0.6];
			out.push(
				bar(
					`shore${i}${side}`,
					"Shore",
					foot,
					[SHIP_X + side * (half(t) * 1.03 + 0.2), 4.6 + 0.8 * random(), keelZ(t)],
					0.26,
					PALE,
				),
			);
		}
	return out;
}
