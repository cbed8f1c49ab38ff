/** The one who carries the rake along the track. */
import type { Edit } from "../../src/core/doc/edits.ts";
import type { Piece, ShapeKind, Surface } from "../../src/core/doc/schema.ts";
import { led, shaped } from "../parts.ts";
import { add, at, BANK, CLOTH, part, SKIN, STRAW, TIMBER, TRACK } from "./making.ts";

export function figure(): Edit {
	const s = 12.2;
	const r = -0.08;
	const y = BANK + 0.06;
	const way = TRACK - 12;
	const p = (
		id: string,
		name: string,
		kind: ShapeKind,
		ds: number,
		dr: number,
		up: number,
		size: [number, number, number],
		surface: Surface,
		over: Partial<Piece> = {},
	) =>
		part(`rake-carrier-${id}`, `Rake carrier, ${name}`, kind, { s: s + ds, r: r + dr, y: y + up }, size, surface, {
			headingDeg: way,
			...over,
		});
	/** A sleeve from the shoulder over the elbow to the hand, along the way, across it and up. */
	const arm = (id: string, name: string, joints: [number, number, number][]): Piece[] => [
		led(
			`rake-carrier-arm-${id}`,
			`Rake carrier, ${name} arm`,
			joints.map(([ds, dr, up]) => at(s + ds, r + dr, y + up)),
			0.135,
			0.135,
			"round",
			CLOTH,
		),
		p(`hand-${id}`, `${name} hand`, "sphere", joints[2][0], joints[2][1], joints[2][2] - 0.05, [0.09, 0.11, 0.1], SKIN),
	];
	const coat = [
		[0.33, 0],
		[0.27, 0.35],
		[0.21, 0.85],
		[0.19, 1.02],
		[0.23, 1.28],
		[0.19, 1.4],
		[0.075, 1.5],
	].map(([x, up], n) => ({ n, at: [x, up] as [number, number], soft: n > 0 && n < 6 }));
	return add(
		p("coat", "coat", "turned", 0, 0, 0.1, [0.68, 1.4, 0.46], CLOTH, { shape: shaped("turned", { points: coat }) }),
		p("leg-l", "left boot", "cylinder", 0.1, -0.1, 0, [0.13, 0.3, 0.2], CLOTH),
		p("leg-r", "right boot", "cylinder", -0.14, 0.1, 0, [0.13, 0.3, 0.2], CLOTH),
		...arm("l", "left", [
			[0, -0.21, 1.34],
			[0.06, -0.37, 1.14],
			[0.19, -0.29, 1.36],
		]),
		...arm("r", "right", [
			[0, 0.21, 1.34],
			[0.12, 0.35, 1.09],
			[0.43, 0.18, 1.12],
		]),
		p("head", "head", "sphere", 0.02, 0, 1.47, [0.19, 0.25, 0.21], SKIN),
		p("brim", "brim", "cylinder", 0.02, 0, 1.63, [0.46, 0.025, 0.46], STRAW),
		p("crown", "hat", "sphere", 0.02, 0, 1.56, [0.24, 0.22, 0.24], STRAW),
		p("rake", "rake", "cylinder", 0.55, 0.24, 1.02, [0.042, 2.5, 0.042], STRAW, { headingDeg: way + 68, pitchDeg: 52 }),
		p("rake-head", "rake head", "box", -0.69, -1.594, 2.245, [0.05, 0.8, 0.07], TIMBER, {
			headingDeg: way + 68,
			pitchDeg: -38,
		}),
	);
}
