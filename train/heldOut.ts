/**
 * Ten shots by which what takes the noise out is judged. Nothing is ever fitted to them. Five are the demo's and the documents' own, five
 * are made for what is hard: thin things before a bright sky, light through an opening, glass, reeds before a low sun, small relief.
 */
import { lanternDocument, panDocument } from "../demo/checks.ts";
import { dryDockDocument } from "../demo/dryDock.ts";
import { saltWorksDocument } from "../demo/saltWorks.ts";
import { slateInclineDocument } from "../demo/slateIncline.ts";
import { blankShot } from "../src/core/doc/defaults.ts";
import type { Cover, Piece, ShotDocument, Surface } from "../src/core/doc/schema.ts";
import { newCover } from "../src/core/dress/plant.ts";
import { newLamp } from "../src/core/light/lamp.ts";
import { laidAsMade } from "../src/core/surface/laying.ts";
import { builder, laid, plain, type Three } from "./parts.ts";

/** Pixels across. */
export const TRUTH_WIDTH = 320;

const DARK = plain([0.03, 0.03, 0.032]);

interface Over {
	pieces: Piece[];
	covers?: Cover[];
	camera: Partial<ShotDocument["camera"]>;
	sun: ShotDocument["air"]["sun"];
	cloud?: number;
	more?: Partial<ShotDocument>;
}

function shot(title: string, { pieces, covers = [], camera, sun, cloud = 0.1, more = {} }: Over): ShotDocument {
	const doc = blankShot(title);
	return {
		...doc,
		ground: { preset: "plain", seed: 1, heightM: 0 },
		pieces,
		covers,
		lamps: [],
		camera: { ...doc.camera, ratio: 16 / 9, fStop: 11, focusM: null, pitchDeg: 0, headingDeg: 0, ...camera },
		air: { ...doc.air, sun, cloud: { cover: cloud, seed: 3 } },
		...more,
	};
}

/** Strokes of letters, each a bar of so many parts of the letter's width and height: left, bottom, width, height. */
const LETTERS: Record<string, readonly (readonly [number, number, number, number])[]> = {
	H: [
		[0, 0, 0.2, 1],
		[0.8, 0, 0.2, 1],
		[0.2, 0.42, 0.6, 0.16],
	],
	E: [
		[0, 0, 0.2, 1],
		[0.2, 0, 0.7, 0.16],
		[0.2, 0.42, 0.5, 0.16],
		[0.2, 0.84, 0.7, 0.16],
	],
	L: [
		[0, 0, 0.2, 1],
		[0.2, 0, 0.7, 0.16],
	],
	F: [
		[0, 0, 0.2, 1],
		[0.2, 0.42, 0.5, 0.16],
		[0.2, 0.84, 0.7, 0.16],
	],
	T: [
		[0.4, 0, 0.2, 0.84],
		[0, 0.84, 1, 0.16],
	],
};

/** Wires, letters, a fine fence, small lights and ripples: details of which none may be lost, and none made. */
export function chartDocument(): ShotDocument {
	const { pieces, put } = builder();
	for (const [i, thickM] of [0.004, 0.008, 0.016, 0.03].entries())
		put("cylinder", [-6, 2.6 + 0.35 * i, -10], [thickM, 12, thickM], { rollDeg: 90 - 3 * i, surface: DARK });
	for (const [i, letter] of [..."HELFT"].entries())
		for (const [x, y, w, h] of LETTERS[letter])
			put("box", [-2.6 + 0.62 * i + 0.42 * (x + w / 2), 1.35 + 0.6 * y, -9], [0.42 * w, 0.6 * h, 0.03], {
				surface: DARK,
			});
	put("box", [1.2, 0, -9], [0.018, 1.5, 0.018], {
		surface: DARK,
		repeat: { kind: "row", count: 70, step: [0.055, 0.02] },
	});
	for (const y of [0.3, 1.35]) put("box", [3.1, y, -8.3], [4.1, 0.03, 0.02], { surface: DARK, headingDeg: -20 });
	for (let i = 0; i < 24; i++)
		put("sphere", [-8 + 0.71 * i, 0.9 + ((i * 37) % 11) * 0.05, -14 - ((i * 13) % 7)], [0.03, 0.03, 0.03], {
			surface: plain([0.02, 0.02, 0.02], { glow: { nits: 4000 + 900 * (i % 5), kelvin: 2400 + 300 * (i % 4) } }),
		});
	return shot("Chart", {
		pieces,
		camera: { position: [0, 1.5, 0], focalMm: 32, ev100: 8.5 },
		sun: { headingDeg: 20, elevationDeg: -3 },
		more: { water: { on: true, levelM: 0.15, rippleMm: 4, clarityM: 1 } },
	});
}

/** A room that is lit through one opening. */
export function roomDocument(): ShotDocument {
	const { pieces, put } = builder();
	const walls = laid("plaster");
	put("box", [0, -0.1, -3], [6, 0.1, 7], { surface: laid("planks") });
	put("box", [0, 2.9, -3], [6, 0.2, 7], { surface: walls });
	put("box", [0, 0, -6.4], [6, 3, 0.2], { surface: walls });
	put("box", [0, 0, 0.5], [6, 3, 0.2], { surface: walls });
	put("box", [-2.9, 0, -3], [0.2, 3, 7], { surface: walls });
	// The right wall about an opening.
	put("box", [2.9, 0, -1.2], [0.3, 3, 3.2], { surface: walls });
	put("box", [2.9, 0, -5.4], [0.3, 3, 2.2], { surface: walls });
	put("box", [2.9, 0, -3.55], [0.3, 1, 1.5], { surface: walls });
	put("box", [2.9, 2.2, -3.55], [0.3, 0.8, 1.5], { surface: walls });
	put("box", [-0.4, 0.72, -4], [1.6, 0.06, 0.8], { surface: laid("beam") });
	for (const [x, z] of [
		[-1.1, -4.3],
		[0.3, -4.3],
		[-1.1, -3.7],
		[0.3, -3.7],
	])
		put("box", [x, 0, z], [0.07, 0.72, 0.07], { surface: laid("beam") });
	put("turned", [-0.6, 0.78, -4], [0.28, 0.4, 0.28], { surface: plain([0.35, 0.12, 0.06], { coat: 0.8 }) });
	put("sphere", [0.1, 0.78, -3.9], [0.16, 0.16, 0.16], {
		surface: plain([0.7, 0.72, 0.75], { metal: 1, roughness: 0.15 }),
	});
	return shot("Room", {
		pieces,
		camera: { position: [0.6, 1.5, -0.2], headingDeg: -8, pitchDeg: -6, focalMm: 26, ev100: 8 },
		sun: { headingDeg: 78, elevationDeg: 32 },
	});
}

/** Bottles and a pane on a sill with the sun behind them. */
export function bottlesDocument(): ShotDocument {
	const { pieces, put } = builder();
	const glass = (colour: Three, depthM: number, roughness = 0.02): Surface =>
		plain(colour, { roughness, glass: { pane: false, index: 1.5, depthM } });
	put("box", [0, 0.9, -1.5], [2.4, 0.06, 0.5], { surface: laid("painted boards") });
	put("box", [0, 0, -1.62], [2.4, 0.9, 0.2], { surface: laid("brick") });
	const colours: Three[] = [
		[0.2, 0.5, 0.25],
		[0.75, 0.45, 0.12],
		[0.9, 0.93, 0.95],
		[0.25, 0.4, 0.75],
	];
	for (const [i, colour] of colours.entries()) {
		const x = -0.62 + 0.4 * i;
		put("cylinder", [x, 0.96, -1.5], [0.11, 0.22 + 0.03 * (i % 2), 0.11], {
			surface: glass(colour, 0.06, i === 2 ? 0.2 : 0.02),
		});
		put("cylinder", [x, 1.17 + 0.03 * (i % 2), -1.5], [0.04, 0.1, 0.04], { surface: glass(colour, 0.06) });
	}
	put("box", [0.2, 0.96, -1.68], [1.4, 0.9, 0.004], {
		surface: plain([0.93, 0.95, 0.93], { roughness: 0.02, glass: { pane: true, index: 1.5, depthM: 0.1 } }),
	});
	put("sphere", [0.72, 0.96, -1.42], [0.09, 0.09, 0.09], { surface: plain([0.6, 0.2, 0.05], { coat: 1 }) });
	return shot("Bottles", {
		pieces,
		camera: { position: [0.1, 1.3, -0.3], pitchDeg: -9, focalMm: 35, ev100: 13.2, fStop: 5.6, focusM: 1.2 },
		sun: { headingDeg: -24, elevationDeg: 24 },
	});
}

/** Reeds and posts in still water before a low sun. */
export function reedsDocument(): ShotDocument {
	const { pieces, put } = builder();
	for (let i = 0; i < 9; i++)
		put("cylinder", [-3.6 + 0.95 * i, -0.4, -9 - ((i * 5) % 4)], [0.1, 1.3 + 0.2 * (i % 3), 0.1], {
			surface: laid("brined timber"),
			pitchDeg: ((i * 7) % 5) - 2,
		});
	put("box", [6, -0.4, -26], [60, 0.7, 4], { surface: laid("soil"), headingDeg: 6 });
	const reeds = newCover("reeds", "tussock", {
		densityPerM2: 9,
		sizeM: [0.8, 1.6],
		rules: [{ kind: "near the lens", out: false, distanceM: 24, featherM: 6 }],
	});
	return shot("Reeds", {
		pieces,
		covers: [reeds],
		camera: { position: [0, 1.2, 0], focalMm: 40, ev100: 12.4 },
		sun: { headingDeg: 8, elevationDeg: 4 },
		cloud: 0.35,
		more: {
			ground: { preset: "plain", seed: 2, heightM: 0 },
			water: { on: true, levelM: 0.06, rippleMm: 2, clarityM: 0.8 },
		},
	});
}

/** A yard of cobbles and a dry stone wall under a covered sky, with a lamp by the door. */
export function yardDocument(): ShotDocument {
	const { pieces, put } = builder();
	put("box", [-1.6, 0, -6], [4.4, 1.3, 0.5], { surface: laid("dry stone", "moss"), headingDeg: 18 });
	put("box", [2.6, 0, -7.5], [4, 3.4, 3], { surface: laid("rubble"), headingDeg: -14 });
	put("wedge", [2.6, 3.4, -7.5], [4.4, 1.2, 3.4], { surface: laid("slates"), headingDeg: -14 });
	put("box", [1.9, 0, -5.9], [0.9, 1.9, 0.14], { surface: laid("painted boards"), headingDeg: -14 });
	put("cylinder", [-0.2, 0, -4], [0.6, 0.8, 0.6], { surface: laid("planks") });
	put("blob", [0.9, -0.05, -3.4], [0.5, 0.35, 0.45], { surface: laid("granite", "lichen") });
	return shot("Yard", {
		pieces,
		camera: { position: [0, 1.5, 0], pitchDeg: -5, focalMm: 30, ev100: 10.5 },
		sun: { headingDeg: 220, elevationDeg: 3 },
		cloud: 0.95,
		more: {
			groundLaid: laidAsMade("cobbles"),
			lamps: [
				newLamp("door", "sphere", {
					position: [1.2, 2.2, -5.4],
					stands: "level",
					sizeM: [0.12, 0.12],
					strength: { value: 900, unit: "lumen", atM: 1 },
					kelvin: 2500,
				}),
			],
		},
	});
}

export const HELD_OUT: Readonly<Record<string, () => ShotDocument>> = {
	saltworks: saltWorksDocument,
	drydock: dryDockDocument,
	slate: slateInclineDocument,
	lantern: lanternDocument,
	pan: panDocument,
	chart: chartDocument,
	room: roomDocument,
	bottles: bottlesDocument,
	reeds: reedsDocument,
	yard: yardDocument,
};
