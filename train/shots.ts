/**
 * Shots made up by chance, from which the filter of noise learns: `madeUpShot(seed)` is the same shot for the same seed. Half of them hold
 * thin things before a bright sky; the others water under a low sun, glass and flames on a table, rooms lit through an opening, houses,
 * yards and slopes. None of them is one of those by which the filter is judged (`heldOut.ts`), nor made from their parts.
 */
import { blankShot } from "../src/core/doc/defaults.ts";
import {
	GroundPreset,
	type Lamp,
	type Piece,
	type ShapeKind,
	type ShotDocument,
	type Surface,
} from "../src/core/doc/schema.ts";
import { newCover } from "../src/core/dress/plant.ts";
import { groundHeight } from "../src/core/ground/height.ts";
import { newLamp } from "../src/core/light/lamp.ts";
import { randomStream } from "../src/core/maths/hash.ts";
import { laidAsMade } from "../src/core/surface/laying.ts";
import { SURFACE_KINDS } from "../src/core/surface/surfaces.ts";
import { builder, laid, plain, type Three } from "./parts.ts";

/** Chance, as it is asked for here. */
function chance(seed: number) {
	const next = randomStream(seed);
	const between = (a: number, b: number) => a + (b - a) * next();
	return {
		between,
		/** As often between a and 2a as between b / 2 and b. */
		scaled: (a: number, b: number) => a * (b / a) ** next(),
		whole: (a: number, b: number) => Math.floor(between(a, b + 1)),
		is: (share: number) => next() < share,
		of: <T>(all: readonly T[]): T => all[Math.floor(next() * all.length)],
	};
}
type Chance = ReturnType<typeof chance>;

const colour = (c: Chance, light = c.scaled(0.02, 0.8)): Three => [
	Math.min(0.95, light * c.between(0.7, 1.3)),
	light * c.between(0.75, 1.1),
	light * c.between(0.5, 1.15),
];

function surface(c: Chance): Surface {
	if (c.is(0.5)) return c.is(0.4) ? laid(c.of(SURFACE_KINDS), c.of(SURFACE_KINDS)) : laid(c.of(SURFACE_KINDS));
	if (c.is(0.15)) return plain(colour(c, c.between(0.4, 0.9)), { metal: 1, roughness: c.between(0.05, 0.5) });
	if (c.is(0.15)) return plain(colour(c), { coat: c.between(0.3, 1), coatRoughness: c.scaled(0.03, 0.4) });
	return plain(colour(c), { roughness: c.between(0.2, 1) });
}

/** What is being put together; metres, with the eye at x = 0, z = 0 looking away. */
interface Making {
	c: Chance;
	put: ReturnType<typeof builder>["put"];
	lamps: Lamp[];
	covers: ShotDocument["covers"];
	/** Distance at which the shot has its matter. */
	far: number;
}
type Put = (making: Making) => void;

/** A place in the frame's middle part. */
const somewhere = ({ c, far }: Making, height = 0): Three => {
	const away = far * c.between(0.6, 1.8);
	return [away * c.between(-0.45, 0.45), height, -away];
};

const SOLIDS: ShapeKind[] = [
	"box",
	"cylinder",
	"sphere",
	"cone",
	"wedge",
	"blob",
	"turned",
	"stair",
	"arch",
	"dome",
	"tube",
];

const wires: Put = ({ c, put, far }) => {
	const thick = far * c.scaled(0.0004, 0.004);
	for (let i = c.whole(2, 6); i > 0; i--)
		put("cylinder", [-far, far * c.between(0.1, 0.4), -far * c.between(0.8, 1.3)], [thick, 2 * far, thick], {
			rollDeg: 90 - c.between(-14, 14),
			surface: plain(colour(c, 0.04)),
		});
};

const fence: Put = ({ c, put, far }) => {
	const [thick, tall, step] = [far * c.scaled(0.001, 0.008), far * c.between(0.08, 0.25), far * c.scaled(0.006, 0.04)];
	const count = c.whole(20, 90);
	const [x, z, dark] = [-far * c.between(0, 0.5), -far * c.between(0.8, 1.4), plain(colour(c, c.scaled(0.02, 0.4)))];
	put("box", [x, 0, z], [thick, tall, thick], {
		surface: dark,
		repeat: { kind: "row", count, step: [step, step * c.between(-0.4, 0.4)] },
	});
	for (const share of [0.35, 0.9])
		put("box", [x + (step * count) / 2, tall * share, z], [step * count, thick, thick / 2], { surface: dark });
};

const posts: Put = (making) => {
	const { c, put, far } = making;
	const of = surface(c);
	for (let i = c.whole(4, 12); i > 0; i--) {
		const thick = far * c.scaled(0.003, 0.02);
		put("cylinder", somewhere(making, -0.4), [thick, far * c.between(0.08, 0.3), thick], {
			surface: of,
			pitchDeg: c.between(-6, 6),
			rollDeg: c.between(-6, 6),
		});
	}
};

/** A leaning frame of bars: a rake, a ladder, the ribs of a roof. */
const bars: Put = (making) => {
	const { c, put, far } = making;
	const [x, y, z] = somewhere(making, far * c.between(0, 0.15));
	const [thick, long, lean] = [far * c.scaled(0.002, 0.008), far * c.between(0.15, 0.4), c.between(-35, 35)];
	const of = surface(c);
	const count = c.whole(4, 14);
	for (let i = 0; i < count; i++)
		put("box", [x + (i * long) / count, y, z], [thick, long, thick], {
			rollDeg: lean,
			pitchDeg: c.between(-2, 2),
			surface: of,
		});
	put("box", [x, y + long / 2, z], [long * 1.2, thick, thick], { rollDeg: c.between(-4, 4), surface: of });
};

const specksInTheSky: Put = ({ c, put, far }) => {
	for (let i = c.whole(5, 16); i > 0; i--) {
		const size = far * c.scaled(0.002, 0.012);
		put(
			"sphere",
			[far * c.between(-0.6, 0.6), far * c.between(0.1, 0.45), -far * c.between(0.9, 1.8)],
			[size * 2.5, size, size],
			{
				surface: plain(colour(c)),
				headingDeg: c.between(0, 180),
				rollDeg: c.between(-30, 30),
			},
		);
	}
};

const solids: Put = (making) => {
	const { c, put, far } = making;
	for (let i = c.whole(3, 9); i > 0; i--) {
		const size = far * c.scaled(0.04, 0.3);
		put(c.of(SOLIDS), somewhere(making), [size, size * c.between(0.5, 2), size * c.between(0.5, 1.5)], {
			surface: surface(c),
			headingDeg: c.between(0, 360),
		});
	}
};

const house: Put = (making) => {
	const { c, put, far } = making;
	const size = far * c.between(0.25, 0.6);
	put("building", somewhere(making), [size, size * c.between(0.6, 1.2), size * 0.7], {
		surface: laid(c.of(SURFACE_KINDS)),
		headingDeg: c.between(0, 360),
	});
};

const wall: Put = ({ c, put, far }) => {
	put(
		"box",
		[far * c.between(-0.5, 0.5), 0, -far * c.between(1, 1.6)],
		[far * 1.4, far * c.between(0.1, 0.5), far * 0.05],
		{
			surface: laid(c.of(SURFACE_KINDS), c.of(SURFACE_KINDS)),
			headingDeg: c.between(-40, 40),
		},
	);
};

const glass = (c: Chance, pane: boolean, depthM: number): Surface =>
	plain(pane ? [0.93, 0.96, 0.94] : colour(c, c.between(0.3, 0.9)), {
		roughness: c.is(0.7) ? 0.02 : c.between(0.05, 0.3),
		glass: { pane, index: 1.5, depthM },
	});

const panes: Put = (making) => {
	const { c, put, far } = making;
	for (let i = c.whole(1, 4); i > 0; i--)
		put("box", somewhere(making), [far * c.between(0.15, 0.6), far * c.between(0.15, 0.5), far * 0.003], {
			surface: glass(c, true, 0.1),
			headingDeg: c.between(-60, 60),
		});
};

const vessels: Put = (making) => {
	const { c, put, far } = making;
	for (let i = c.whole(2, 6); i > 0; i--) {
		const size = far * c.between(0.05, 0.14);
		put(c.of(["cylinder", "turned", "sphere"] as const), somewhere(making), [size, size * c.between(1, 2.6), size], {
			surface: glass(c, false, size),
		});
	}
};

const flames: Put = (making) => {
	const { c, put, far } = making;
	for (let i = c.whole(1, 4); i > 0; i--) {
		const size = far * c.scaled(0.006, 0.03);
		put("sphere", somewhere(making, far * c.between(0.02, 0.3)), [size, size * c.between(1, 3), size], {
			surface: plain([0.02, 0.02, 0.02], { glow: { nits: c.scaled(3000, 60_000), kelvin: c.between(1800, 4000) } }),
		});
	}
};

const hungLamps: Put = (making) => {
	const { c, far, lamps } = making;
	for (let i = c.whole(1, 4); i > 0; i--)
		lamps.push(
			newLamp(`lamp-${i}`, c.of(["sphere", "rectangle", "spot", "disc"] as const), {
				position: somewhere(making, far * c.between(0.1, 0.4)),
				stands: "level",
				pitchDeg: -70,
				sizeM: [far * c.scaled(0.005, 0.08), far * c.scaled(0.005, 0.08)],
				strength: { value: far * far * c.scaled(20, 400), unit: "lumen", atM: 1 },
				kelvin: c.between(2000, 5500),
			}),
		);
};

const grown: Put = ({ c, covers, far }) => {
	covers.push(
		newCover("cover", c.of(["tussock", "shrub"] as const), {
			densityPerM2: Math.min(12, c.scaled(60, 900) / far ** 2),
			sizeM: [far * 0.02, far * c.between(0.04, 0.1)],
			seed: c.whole(0, 999),
			rules: [{ kind: "near the lens", out: false, distanceM: far * 2, featherM: far * 0.3 }],
		}),
	);
};

/** A table or a floor that things stand on. */
const board: Put = ({ c, put, far }) =>
	put("box", [0, -far * 0.04, -far * 1.2], [far * 1.6, far * 0.04, far * 1.2], { surface: surface(c) });

/** Walls about the eye with an opening to one side. */
const walls: Put = ({ c, put, far }) => {
	const of = surface(c);
	const [half, tall, deep] = [far * 0.9, far * c.between(0.9, 1.3), far * 2.6];
	const side = c.is(0.5) ? 1 : -1;
	const slab = (at: Three, size: Three) => put("box", at, size, { surface: of });
	slab([0, -far * 0.1, -deep / 3], [2 * half + 1, far * 0.1, deep + 1]);
	slab([0, tall, -deep / 3], [2 * half + 1, far * 0.1, deep + 1]);
	slab([0, 0, -deep * 0.82], [2 * half + 1, tall, far * 0.1]);
	slab([0, 0, deep * 0.18], [2 * half + 1, tall, far * 0.1]);
	slab([-side * half, 0, -deep / 3], [far * 0.1, tall, deep]);
	const [begin, wide] = [-deep * c.between(0.2, 0.4), far * c.between(0.3, 0.8)];
	slab([side * half, 0, (begin + deep * 0.18) / 2], [far * 0.1, tall, deep * 0.18 - begin]);
	slab([side * half, 0, (begin - wide - deep * 0.82) / 2], [far * 0.1, tall, deep * 0.82 + begin - wide]);
	slab([side * half, 0, begin - wide / 2], [far * 0.1, tall * c.between(0.1, 0.4), wide]);
};

interface Family {
	/** Of a hundred shots. */
	share: number;
	/** Distance of its matter, and height of the eye over that. */
	far: [number, number];
	eye: [number, number];
	always: readonly Put[];
	some: readonly Put[];
	sun: [number, number];
	/** Chance of water. */
	water: number;
}

const FAMILIES: readonly Family[] = [
	{
		share: 34,
		far: [6, 60],
		eye: [0.08, 0.2],
		always: [posts],
		some: [wires, fence, bars, specksInTheSky, grown, wall],
		sun: [-4, 35],
		water: 0.35,
	},
	{
		share: 16,
		far: [8, 50],
		eye: [0.05, 0.2],
		always: [posts],
		some: [solids, specksInTheSky, wires, bars, flames],
		sun: [-2, 14],
		water: 1,
	},
	{
		share: 15,
		far: [0.5, 2],
		eye: [0.15, 0.45],
		always: [board, vessels],
		some: [panes, flames, solids, hungLamps],
		sun: [-8, 40],
		water: 0,
	},
	{
		share: 10,
		far: [2, 5],
		eye: [0.3, 0.5],
		always: [walls],
		some: [solids, vessels, flames, bars, hungLamps],
		sun: [8, 60],
		water: 0,
	},
	{
		share: 15,
		far: [8, 40],
		eye: [0.05, 0.25],
		always: [house],
		some: [solids, wall, fence, hungLamps, wires, grown],
		sun: [-7, 55],
		water: 0.15,
	},
	{
		share: 10,
		far: [4, 20],
		eye: [0.1, 0.4],
		always: [solids, wall],
		some: [grown, panes, hungLamps, bars, fence],
		sun: [-6, 60],
		water: 0.1,
	},
];

function familyOf(c: Chance): Family {
	const all = FAMILIES.flatMap((f) => Array.from({ length: f.share }, () => f));
	return c.of(all);
}

/** A made-up shot. */
export function madeUpShot(seed: number): ShotDocument {
	const c = chance(seed);
	const family = familyOf(c);
	const far = c.scaled(...family.far);
	const { pieces, put } = builder();
	const making: Making = { c, put, lamps: [], covers: [], far };
	for (const put of family.always) put(making);
	for (let i = c.whole(1, 3); i > 0; i--) c.of(family.some)(making);
	// Where next to no light comes from the sky, lamps give it.
	const elevationDeg = c.between(...family.sun);
	if (elevationDeg < -4 && making.lamps.length === 0) hungLamps(making);
	const indoors = family.always.includes(walls) || family.always.includes(board);
	const doc = blankShot(`Made up, ${seed}`);
	const ground: ShotDocument["ground"] = {
		preset: indoors || c.is(0.4) ? "plain" : c.of(GroundPreset.options),
		seed: c.whole(1, 99),
		heightM: indoors ? 0 : far * c.scaled(0.01, 0.2),
	};
	const under = indoors ? 0 : Math.max(0, groundHeight(ground, 0, 0));
	return {
		...doc,
		ground,
		...(!indoors && c.is(0.5) && { groundLaid: laidAsMade(c.of(SURFACE_KINDS)) }),
		water: {
			...doc.water,
			on: c.is(family.water),
			levelM: far * c.between(0, 0.02),
			rippleMm: c.scaled(1, 60),
			clarityM: c.scaled(0.3, 6),
		},
		pieces: pieces.map((p: Piece) => (indoors || c.is(0.7) ? p : { ...p, stands: "ground" as const })),
		covers: making.covers,
		lamps: making.lamps,
		camera: {
			...doc.camera,
			ratio: 16 / 9,
			position: [0, under + far * c.between(...family.eye), 0],
			headingDeg: c.between(-8, 8),
			pitchDeg: indoors ? c.between(-14, 2) : c.between(-6, 9),
			focalMm: c.scaled(22, 70),
			fStop: c.is(0.75) ? 11 : c.scaled(1.4, 5.6),
			focusM: far * c.between(0.8, 1.4),
		},
		air: {
			...doc.air,
			sun: { headingDeg: c.is(0.5) ? c.between(-50, 50) : c.between(0, 360), elevationDeg },
			haze: c.scaled(0.5, 6),
			cloud: { cover: c.is(0.5) ? c.between(0, 1) : 0.1, seed: c.whole(0, 99) },
			fog: {
				...doc.air.fog,
				on: c.is(0.2),
				visibilityM: Math.max(5, far * c.scaled(8, 200)),
				belowM: Math.max(0.5, far * c.scaled(0.3, 4)),
			},
		},
	};
}
