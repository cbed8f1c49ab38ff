/**
 * Two small scenes that a tracer must get clean without any switch: a flame in a lantern with four panes, and a mirroring
 * pan under a low sun. `npm run pictures` renders them for the documents.
 */
import { blankShot, newPiece } from "../src/core/doc/defaults.ts";
import type { Piece, ShapeKind, ShotDocument, Surface } from "../src/core/doc/schema.ts";
import { newLamp } from "../src/core/light/lamp.ts";

const OAK: Surface = { colour: [0.16, 0.1, 0.06], roughness: 0.65, metal: 0, coat: 0.25, coatRoughness: 0.3 };
const BOARD: Surface = { colour: [0.13, 0.105, 0.085], roughness: 0.8, metal: 0 };
const BRASS: Surface = { colour: [0.72, 0.5, 0.24], roughness: 0.32, metal: 1 };
/** Blackened sheet iron. */
const SHEET: Surface = { colour: [0.05, 0.045, 0.04], roughness: 0.55, metal: 0 };
const TALLOW: Surface = { colour: [0.86, 0.8, 0.66], roughness: 0.6, metal: 0 };
const PLASTER: Surface = { colour: [0.46, 0.42, 0.37], roughness: 0.95, metal: 0 };
const IRON: Surface = { colour: [0.1, 0.095, 0.09], roughness: 0.5, metal: 0.5 };
const PANE: Surface = {
	colour: [0.93, 0.96, 0.93],
	roughness: 0.02,
	metal: 0,
	glass: { pane: true, index: 1.5, depthM: 0.1 },
};
const BOTTLE: Surface = {
	colour: [0.25, 0.5, 0.3],
	roughness: 0.02,
	metal: 0,
	glass: { pane: false, index: 1.5, depthM: 0.05 },
};
const SALT: Surface = { colour: [0.82, 0.8, 0.77], roughness: 0.85, metal: 0 };
const EARTH: Surface = { colour: [0.15, 0.122, 0.1], roughness: 0.9, metal: 0 };
const TIMBER: Surface = { colour: [0.085, 0.066, 0.052], roughness: 0.8, metal: 0 };

let count = 0;
const part = (
	name: string,
	kind: ShapeKind,
	position: [number, number, number],
	size: [number, number, number],
	surface: Surface,
	over: Partial<Piece> = {},
): Piece =>
	newPiece(`${name.toLowerCase().replace(/[^a-z]+/g, "-")}-${count++}`, kind, {
		name,
		position,
		size,
		surface,
		stands: "level",
		...over,
	});

/** A lantern on a table by a wall, at the end of dusk; its flame is the only lamp. */
export function lanternDocument(): ShotDocument {
	count = 0;
	const doc = blankShot("A lantern with four panes");
	const top = 0.8;
	const at = (x: number, y: number, z: number): [number, number, number] => [x, top + y, -1 + z];
	const corner = (x: number, z: number) =>
		part("Lantern, post", "box", at(x * 0.062, 0.022, z * 0.062), [0.009, 0.2, 0.009], SHEET);
	const pane = (x: number, z: number) =>
		part(
			"Lantern, pane",
			"box",
			at(x * 0.062, 0.026, z * 0.062),
			x ? [0.003, 0.19, 0.114] : [0.114, 0.19, 0.003],
			PANE,
		);
	return {
		...doc,
		idea: "One flame, and what it finds.",
		camera: {
			...doc.camera,
			position: [0.26, 1.13, -0.32],
			headingDeg: -17,
			pitchDeg: -15,
			ratio: 1.5,
			focalMm: 40,
			fStop: 5.6,
			focusM: 0.72,
			ev100: 4.2,
		},
		ground: { preset: "plain", seed: 1, heightM: 0 },
		pieces: [
			part("Table", "box", [0, top - 0.05, -1], [2.4, 0.05, 1.1], OAK),
			part("Wall", "box", [0, -0.5, -1.75], [8, 4, 0.3], PLASTER),
			part("Lantern, foot", "box", at(0, 0, 0), [0.15, 0.022, 0.15], SHEET),
			corner(-1, -1),
			corner(1, -1),
			corner(-1, 1),
			corner(1, 1),
			pane(-1, 0),
			pane(1, 0),
			pane(0, -1),
			pane(0, 1),
			part("Lantern, lid", "box", at(0, 0.22, 0), [0.15, 0.012, 0.15], SHEET),
			part("Lantern, hood", "cone", at(0, 0.232, 0), [0.14, 0.07, 0.14], SHEET),
			part("Lantern, knob", "sphere", at(0, 0.292, 0), [0.028, 0.028, 0.028], BRASS),
			part("Candle", "cylinder", at(0, 0.022, 0), [0.042, 0.07, 0.042], TALLOW),
			part("Wick", "cylinder", at(0, 0.092, 0), [0.003, 0.008, 0.003], IRON),
			part("Flame", "sphere", at(0, 0.096, 0), [0.012, 0.036, 0.012], {
				colour: [0.02, 0.02, 0.02],
				roughness: 1,
				metal: 0,
				glow: { nits: 30_000, kelvin: 1900 },
			}),
			part("Bottle", "cylinder", at(0.3, 0.001, -0.12), [0.075, 0.19, 0.075], BOTTLE),
			part("Bottle, neck", "cylinder", at(0.3, 0.192, -0.12), [0.026, 0.08, 0.026], BOTTLE),
			part("Box of salt", "box", at(-0.3, 0, -0.14), [0.22, 0.12, 0.16], BOARD, { headingDeg: 24 }),
			part("Salt", "cone", at(-0.3, 0.118, -0.14), [0.2, 0.05, 0.14], SALT, { headingDeg: 24 }),
			part("Cup", "cylinder", at(0.17, 0, 0.1), [0.07, 0.075, 0.07], {
				colour: [0.5, 0.13, 0.07],
				roughness: 0.4,
				metal: 0,
				coat: 1,
				coatRoughness: 0.06,
			}),
			part("Coin", "cylinder", at(-0.12, 0, 0.14), [0.028, 0.002, 0.028], BRASS),
			part("Coin", "cylinder", at(-0.15, 0, 0.11), [0.028, 0.002, 0.028], BRASS),
		],
		lamps: [],
		air: { ...doc.air, sun: { headingDeg: 200, elevationDeg: -7 }, cloud: { cover: 0.1, seed: 2 } },
		finish: { ...doc.finish, vignette: 0.2 },
		print: { widthPx: 960, samples: 64, seed: 1, noisePercent: null },
	};
}

/** A still pan under a low sun: everything stands on its own picture, and one lamp burns on a pole. */
export function panDocument(): ShotDocument {
	count = 0;
	const doc = blankShot("A mirroring pan");
	const stake = (x: number, z: number, h: number, lean = 0) =>
		part("Stake", "cylinder", [x, -0.3, z], [0.09, h + 0.3, 0.09], TIMBER, { pitchDeg: -lean });
	return {
		...doc,
		idea: "Everything twice.",
		camera: {
			...doc.camera,
			position: [0, 0.9, 0],
			headingDeg: 0,
			pitchDeg: 0.4,
			ratio: 2,
			focalMm: 32,
			fStop: 8,
			focusM: null,
			ev100: 12.2,
		},
		ground: { preset: "salt flat", seed: 4, heightM: 0.4 },
		water: { on: true, levelM: 0, rippleMm: 1.2, clarityM: 1.5 },
		pieces: [
			part("Dyke", "box", [-30, -0.6, -38], [90, 0.85, 1.6], EARTH, { headingDeg: 4 }),
			part("Far dyke", "box", [20, -0.6, -95], [260, 0.9, 2.2], EARTH, { headingDeg: -3 }),
			part("Salt heaps", "cone", [-13, -0.05, -30], [5.4, 2.5, 5.2], SALT, {
				repeat: { kind: "row", count: 5, step: [-6.4, -1.5] },
			}),
			part("Salt heaps", "cone", [9, -0.05, -70], [7, 3.1, 7], SALT, {
				repeat: { kind: "row", count: 6, step: [8.6, 2.1] },
			}),
			...[0, 1, 2, 3, 4, 5, 6].map((i) => stake(-1.6 + i * 0.55, -7 - i * 3.6, 1.15 - 0.04 * i, i % 3 === 1 ? 6 : 0)),
			part("Lamp pole", "cylinder", [2.9, -0.3, -9.5], [0.1, 2.75, 0.1], TIMBER),
			part("Lamp arm", "box", [2.62, 2.32, -9.5], [0.7, 0.06, 0.06], TIMBER),
			part("Rake, pole", "cylinder", [-3.1, -0.2, -8], [0.045, 2.3, 0.045], TIMBER, { pitchDeg: -14 }),
		],
		covers: [],
		lamps: [
			newLamp("pole-lamp", "sphere", {
				name: "Lamp on the pole",
				position: [2.36, 2.26, -9.5],
				stands: "level",
				sizeM: [0.14, 0.14],
				strength: { value: 3000, unit: "lumen", atM: 1 },
				kelvin: 2300,
			}),
		],
		air: {
			...doc.air,
			sun: { headingDeg: -9, elevationDeg: 2.2 },
			haze: 1.6,
			cloud: { cover: 0.35, seed: 5 },
			fog: { on: true, visibilityM: 2600, belowM: 14, forward: 0.7, colour: [0.95, 0.95, 0.95], skyClear: false },
		},
		finish: { ...doc.finish, contrast: 1.05 },
		print: { widthPx: 960, samples: 64, seed: 1, noisePercent: null },
	};
}
