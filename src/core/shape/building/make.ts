import type { Shape } from "../../doc/schema/piece.ts";
import type { Surface } from "../../doc/schema/surface.ts";
import { cos, sin } from "../../maths/functions.ts";
import { hash01 } from "../../maths/hash.ts";
import type { Vec3 } from "../../maths/vec.ts";
import { Assembly } from "../assembly.ts";
import type { ShapeMaker } from "../geometry.ts";
import { fromMetres, isLength } from "../metric.ts";

type Building = Extract<Shape, { kind: "building" }>;

/** Surfaces besides the walls': dark panes, panes with light behind, frames and doors, roof. */
export const PANE = 1;
export const LIT = 2;
const FRAME = 3;
const ROOF = 4;

const plain = (colour: [number, number, number], roughness: number): Surface => ({ colour, roughness, metal: 0 });

/** Light behind a window in the evening, cd/m² and kelvin. */
export const WINDOW_LIGHT = { nits: 220, kelvin: 2900 };

export const windowSurfaces = (): Surface[] => [
	plain([0.02, 0.024, 0.03], 0.08),
	{ ...plain([0.3, 0.25, 0.2], 0.5), glow: WINDOW_LIGHT },
];

/** Panes lie so deep behind the wall; bars before them are so wide. */
const DEEP_M = 0.14;
const BAR_M = 0.06;
const PANE_M = 0.02;
const LEDGE_TALL_M = 0.16;
const PARAPET_M = 0.5;
const DOOR = { across: 0.5, tallM: 2.2 };
const BARREL_SIDES = 12;
/** Part of the height that a roof takes at most. */
const MOST_ROOF = 0.8;
const LEAST_ROOF = 0.02;

/** The body without what stands out from it, and its parts. Metres. */
function measured(spec: Building, [w, h, d]: Vec3) {
	// Panes and bars stand out a little where nothing else does.
	const out = Math.min(Math.max(spec.eavesM, spec.ledgeM ?? 0, 2 * PANE_M), 0.3 * Math.min(w, d));
	const roof =
		spec.roof === "flat" ? Math.min(PARAPET_M, 0.2 * h) : Math.min(Math.max(spec.roofM, LEAST_ROOF * h), MOST_ROOF * h);
	const [bw, bd] = [w - 2 * out, d - 2 * out];
	const deepBays = Math.max(1, Math.round((spec.bays * bd) / bw));
	return { out, roof, bw, bd, eaves: h - roof, storey: (h - roof) / spec.storeys, deepBays };
}

/** Puts one side of the house together, as a wall along x that looks to +z: `lay` brings it to its side. */
function side(
	into: Assembly,
	spec: Building,
	{ name, wide, bays, number, doors }: { name: string; wide: number; bays: number; number: number; doors: number },
	{ eaves, storey }: { eaves: number; storey: number },
	full: boolean,
	lay: (low: Vec3, high: Vec3) => [Vec3, Vec3],
): void {
	const box = (face: string, slot: number, low: Vec3, high: Vec3) => into.box(face, slot, ...lay(low, high));
	const bay = wide / bays;
	const deep = Math.min(DEEP_M, 0.2 * bay);
	const half = (Math.max(0.05, spec.across) * bay) / 2;
	const tall = Math.max(0.05, spec.tall) * storey;
	const bar = Math.min(BAR_M, half * 0.2, tall * 0.2);
	const doorAt = new Set(
		Array.from({ length: Math.min(doors, bays) }, (_, k) => Math.floor(((k + 0.5) * bays) / Math.min(doors, bays))),
	);
	// Piers between the windows, from the ground to the eaves; the corners are the house's own.
	if (full)
		for (let i = 0; i <= bays; i++) {
			const from = i === 0 ? -wide / 2 : -wide / 2 + (i - 0.5) * bay + half;
			const to = i === bays ? wide / 2 : -wide / 2 + (i + 0.5) * bay - half;
			box(`${name} wall`, 0, [from, 0, -deep], [to, eaves, 0]);
		}
	for (let s = 0; s < spec.storeys; s++)
		for (let i = 0; i < bays; i++) {
			const x = -wide / 2 + (i + 0.5) * bay;
			const door = s === 0 && doorAt.has(i);
			const low = door ? 0 : s * storey + (storey - tall) * 0.55;
			const high = door ? Math.min(DOOR.tallM, storey * 0.9) : low + tall;
			const wideHalf = door ? Math.min(half, (DOOR.across * bay) / 2 + half * 0.3) : half;
			if (full) {
				// Below and above the opening, up to the next storey.
				box(`${name} wall`, 0, [x - half, s * storey, -deep], [x + half, low, 0]);
				box(`${name} wall`, 0, [x - half, high, -deep], [x + half, (s + 1) * storey, 0]);
				if (wideHalf < half) {
					box(`${name} wall`, 0, [x - half, low, -deep], [x - wideHalf, high, 0]);
					box(`${name} wall`, 0, [x + wideHalf, low, -deep], [x + half, high, 0]);
				}
			}
			const back = full ? -deep : 0;
			const lit = !door && hash01(i, s, number, spec.seed) < spec.lit;
			if (door) box(`${name} doors`, FRAME, [x - wideHalf, low, back], [x + wideHalf, high, back + PANE_M * 2]);
			else
				box(
					`${name} ${lit ? "lit windows" : "windows"}`,
					lit ? LIT : PANE,
					[x - wideHalf, low, back],
					[x + wideHalf, high, back + PANE_M],
				);
			if (!full || door) continue;
			const front = back + PANE_M + bar * 0.6;
			box(`${name} frames`, FRAME, [x - bar / 2, low, back + PANE_M], [x + bar / 2, high, front]);
			const rail = low + (high - low) * 0.62;
			box(`${name} frames`, FRAME, [x - half, rail - bar / 2, back + PANE_M], [x + half, rail + bar / 2, front]);
		}
}

function roofOf(into: Assembly, spec: Building, { roof, eaves, bw, bd, out }: ReturnType<typeof measured>): void {
	const [x, z] = [bw / 2 + out, bd / 2 + out];
	const top = eaves + roof;
	if (spec.roof === "flat") {
		const thick = Math.min(0.3, bw * 0.1, bd * 0.1);
		into.box("parapet", 0, [-bw / 2, eaves, bd / 2 - thick], [bw / 2, top, bd / 2]);
		into.box("parapet", 0, [-bw / 2, eaves, -bd / 2], [bw / 2, top, -bd / 2 + thick]);
		into.box("parapet", 0, [-bw / 2, eaves, -bd / 2 + thick], [-bw / 2 + thick, top, bd / 2 - thick]);
		into.box("parapet", 0, [bw / 2 - thick, eaves, -bd / 2 + thick], [bw / 2, top, bd / 2 - thick]);
		return;
	}
	// The ridge goes along the longer side.
	const long = bw >= bd ? "x" : "z";
	const [half, reach] = long === "x" ? [z, x] : [x, z];
	if (spec.roof === "gabled")
		into.prism(
			"roof",
			ROOF,
			[
				[-half, eaves],
				[half, eaves],
				[0, top],
			],
			long,
			-reach,
			reach,
		);
	else if (spec.roof === "shed")
		into.prism(
			"roof",
			ROOF,
			[
				[-z, eaves],
				[z, eaves],
				[z, top],
			],
			"x",
			-x,
			x,
		);
	else if (spec.roof === "barrel") {
		const bow = Array.from({ length: BARREL_SIDES + 1 }, (_, i): [number, number] => {
			const a = (Math.PI * i) / BARREL_SIDES;
			return [half * cos(a), eaves + roof * sin(a)];
		});
		bow[0] = [half, eaves];
		bow[BARREL_SIDES] = [-half, eaves];
		into.prism("roof", ROOF, bow, long, -reach, reach);
	} else {
		const ridge = Math.max(0, reach - half);
		const [a, b, c, e]: Vec3[] = [
			[-x, eaves, z],
			[x, eaves, z],
			[x, eaves, -z],
			[-x, eaves, -z],
		];
		const [p, q]: Vec3[] =
			long === "x"
				? [
						[-ridge, top, 0],
						[ridge, top, 0],
					]
				: [
						[0, top, ridge],
						[0, top, -ridge],
					];
		const point = ridge === 0;
		const slopes: Vec3[][] = point
			? [
					[a, b, p],
					[b, c, p],
					[c, e, p],
					[e, a, p],
				]
			: long === "x"
				? [
						[a, b, q, p],
						[b, c, q],
						[c, e, p, q],
						[e, a, p],
					]
				: [
						[b, c, q, p],
						[c, e, q],
						[e, a, p, q],
						[a, b, p],
					];
		into.faces("roof", ROOF, [...slopes, [e, c, b, a]]);
	}
}

function made(spec: Building, size: Vec3, full: boolean) {
	const m = measured(spec, size);
	const { bw, bd, eaves, storey, deepBays } = m;
	const into = new Assembly();
	const deep = full ? Math.min(DEEP_M, (0.2 * bw) / spec.bays, (0.2 * bd) / deepBays) : 0;
	into.box("core", 0, [-bw / 2 + deep, 0, -bd / 2 + deep], [bw / 2 - deep, eaves, bd / 2 - deep]);
	const turned: ((p: Vec3) => Vec3)[] = [
		([x, y, z]) => [x, y, z + bd / 2],
		([x, y, z]) => [z + bw / 2, y, -x],
		([x, y, z]) => [-x, y, -z - bd / 2],
		([x, y, z]) => [-z - bw / 2, y, x],
	];
	for (const [number, name] of ["front", "right", "back", "left"].entries()) {
		const lay = (low: Vec3, high: Vec3): [Vec3, Vec3] => {
			const [p, q] = [turned[number](low), turned[number](high)];
			return [
				[Math.min(p[0], q[0]), p[1], Math.min(p[2], q[2])],
				[Math.max(p[0], q[0]), q[1], Math.max(p[2], q[2])],
			];
		};
		const [wide, bays] = number % 2 ? [bd - 2 * deep, deepBays] : [bw, spec.bays];
		side(into, spec, { name, wide, bays, number, doors: number === 0 ? spec.doors : 0 }, { eaves, storey }, full, lay);
	}
	const { ledgeM } = spec;
	if (full && isLength(ledgeM))
		for (let s = 1; s <= spec.storeys; s++) {
			const tall = Math.min(LEDGE_TALL_M, 0.3 * storey);
			const y = s * storey - tall / 2;
			const by = Math.min(ledgeM, m.out);
			into.box("ledges", 0, [-bw / 2 - by, y, -bd / 2 - by], [bw / 2 + by, Math.min(y + tall, eaves), bd / 2 + by]);
		}
	roofOf(into, spec, m);
	// Its box is the size, whatever stands out.
	return into.built();
}

/** Hulls: the walls' box and the roof's. */
function hullsOf(spec: Building, size: Vec3): Vec3[][] {
	const { bw, bd, eaves, roof, out } = measured(spec, size);
	const box = (x: number, z: number, low: number, high: number) =>
		[-x, x].flatMap((a) => [-z, z].flatMap((c) => [low, high].map((y): Vec3 => [a, y, c])));
	const walls = box(bw / 2 + PANE_M * 2, bd / 2 + PANE_M * 2, 0, eaves);
	const by = spec.ledgeM ? Math.min(spec.ledgeM, out) : 0;
	return [
		...(by ? [box(bw / 2 + by, bd / 2 + by, 0, eaves)] : [walls]),
		box(bw / 2 + out, bd / 2 + out, eaves, eaves + roof),
	];
}

export const building: ShapeMaker<Building> = {
	usual: { tall: 1.1, deep: 0.8 },
	sized: () => true,
	surfaces: () => [...windowSurfaces(), plain([0.11, 0.095, 0.085], 0.6), plain([0.15, 0.11, 0.1], 0.85)],
	evaluate: (spec, size) => fromMetres(made(spec, size, true), size, { hulls: hullsOf(spec, size), assembled: true }),
	far: (spec, size) => fromMetres(made(spec, size, false), size, { hulls: hullsOf(spec, size), assembled: true }),
	detailM: (spec, size) => {
		const { bw, storey } = measured(spec, size);
		return Math.min((Math.max(0.05, spec.across) * bw) / spec.bays, storey * Math.max(0.05, spec.tall)) / 2;
	},
};
