/** Stones, stalks, crust and stakes along the water. */

import type { Edit } from "../../src/core/doc/edits.ts";
import type { ShapeKind, Surface } from "../../src/core/doc/schema.ts";
import { millimetres } from "../../src/core/maths/functions.ts";
import { randomStream } from "../../src/core/maths/hash.ts";
import { led, type P } from "../parts.ts";
import { add, at, BANK_EARTH, PEBBLE, type Place, part, SALT, STALK, TIMBER, TRACK, WEATHERED } from "./making.ts";

export function shore(): Edit {
	const row = (
		id: string,
		name: string,
		kind: ShapeKind,
		place: Place,
		size: [number, number, number],
		surface: Surface,
		count: number,
		step: number,
		turn: number,
	) =>
		part(id, name, kind, place, size, surface, {
			headingDeg: TRACK,
			repeat: { kind: "row", count, step: [turn, step] },
		});
	const random = randomStream(41);
	const between = (low: number, high: number) => millimetres(low + (high - low) * random());
	/** Height of the bank's slope at a distance from the track. */
	const slope = (r: number) => 0.42 - (Math.abs(r) - 1.05) * 0.53;
	/** Few of a size, far apart and each row with a step of its own, so that no row is seen. */
	const stones = Array.from({ length: 26 }, (_, i) => {
		const r = (i % 3 === 2 ? -1 : 1) * between(1.15, 2.1);
		const k = millimetres(0.05 + 0.36 * random() ** 3);
		const step = between(2.3, 7.9);
		const place = { s: between(1.8, 7.5), r, y: millimetres(slope(r) - 0.46 * k) };
		const size: [number, number, number] = [
			k,
			millimetres(k * between(0.45, 0.7)),
			millimetres(k * between(0.7, 1.25)),
		];
		const count = Math.floor(64 / step);
		return part(
			`stones-${i}`,
			`Stones ${i + 1}`,
			i % 5 === 0 ? "box" : "sphere",
			place,
			size,
			[BANK_EARTH, WEATHERED, PEBBLE][i % 3],
			{
				pitchDeg: -between(-14, 14),
				repeat: { kind: "row", count, step: [millimetres(step * between(-0.004, 0.004)), step] },
			},
		);
	});
	/** Dry stalks in tufts: the blades of a family share their steps. */
	const tufts = [
		{ s: 3.2, r: 1.32, step: 3.71, count: 13, tallM: 0.3 },
		{ s: 4.6, r: 1.84, step: 5.23, count: 9, tallM: 0.42 },
		{ s: 6.9, r: 1.12, step: 8.17, count: 7, tallM: 0.36 },
		{ s: 3.9, r: -1.38, step: 4.37, count: 12, tallM: 0.34 },
	].flatMap(({ s, r, step, count, tallM }, family) =>
		Array.from({ length: 9 }, (_, i) => {
			const place = {
				s: millimetres(s + between(-0.09, 0.09)),
				r: millimetres(r + between(-0.09, 0.09)),
				y: millimetres(slope(r) - 0.05),
			};
			return part(
				`stalks-${family}-${i}`,
				`Dry stalks ${family + 1}.${i + 1}`,
				"cone",
				place,
				[0.011, millimetres(tallM * between(0.55, 1.15)), 0.011],
				STALK,
				{
					pitchDeg: -between(-32, 32),
					repeat: { kind: "row", count, step: [0.002, step] },
				},
			);
		}),
	);
	/** Crust that is left at the water's edge: strips that wander, lap over each other, and are missing here and there. */
	const crust = ([-1, 1] as const).flatMap((side) =>
		Array.from({ length: 30 }, (_, i) => {
			const from = 1.2 + 1.1 * i + 0.055 * i * i + between(-0.6, 0.6);
			const long = between(0.9, 2.4) * (1 + 0.09 * i);
			const drift = between(-0.05, 0.05);
			const lies = between(0, 0.12);
			const places = Array.from({ length: 9 }, (_, k): P => {
				const t = k / 8;
				const out = 1.76 + lies + drift * (2 * t - 1) + between(-0.035, 0.035) - 0.09 * (2 * t - 1) ** 4;
				return at(from + long * t, side * out, between(-0.012, 0.008));
			});
			return led(
				`crust-${side > 0 ? "r" : "l"}${i}`,
				`Salt crust ${i + 1}`,
				places,
				between(0.05, 0.17),
				0.06,
				"round",
				SALT,
			);
		}),
	);
	return add(
		...stones,
		...tufts,
		...crust,
		row(
			"shoring-a",
			"Shoring, stakes",
			"cylinder",
			{ s: 3.2, r: 2.3, y: -0.5 },
			[0.11, 0.86, 0.11],
			TIMBER,
			7,
			2.9,
			0.004,
		),
		row(
			"shoring-b",
			"Shoring, short stakes",
			"cylinder",
			{ s: 4.1, r: 2.34, y: -0.5 },
			[0.1, 0.68, 0.1],
			TIMBER,
			9,
			2.3,
			0.003,
		),
	);
}

/** A flat punt that is moored to a post in the right pan, its pole left standing. */
