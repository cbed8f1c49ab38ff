import { DOCUMENT_VERSION, type Piece, Shape, type ShapeKind, type ShotDocument } from "./schema.ts";

const PALE_WOOD: Piece["surface"] = { colour: [0.42, 0.36, 0.29], roughness: 0.8, metal: 0 };

/** A piece of a kind with its usual measures, of one cubic metre, standing on the ground. `over` replaces what is given. */
export function newPiece(id: string, kind: ShapeKind, over: Partial<Piece> = {}): Piece {
	return {
		id,
		name: kind,
		shape: Shape.parse({ kind }),
		position: [0, 0, 0],
		stands: "ground",
		headingDeg: 0,
		pitchDeg: 0,
		rollDeg: 0,
		size: [1, 1, 1],
		surface: PALE_WOOD,
		hidden: false,
		repeat: null,
		...over,
	};
}

/** The moon before anything is said of it: full, half way up, to the left of the lens. */
export const usualMoon = (): NonNullable<ShotDocument["air"]["moon"]> => ({
	on: false,
	headingDeg: 320,
	elevationDeg: 25,
	lit: 1,
});

/** The blank shot: a level horizon, a banded measuring staff at 20 m, stakes at 5 and 80 m. */
export function blankShot(title = "Untitled shot"): ShotDocument {
	const stake = (id: string, name: string, x: number, z: number) =>
		newPiece(id, "cylinder", { name, position: [x, 0, z], size: [0.05, 1, 0.05] });
	const band = (i: number) =>
		newPiece(`staff-${i}`, "box", {
			name: `Staff, ${i} to ${i + 1} m`,
			position: [0, i, -20],
			size: [0.12, 1, 0.05],
			surface: { colour: i % 2 ? [0.85, 0.84, 0.8] : [0.5, 0.08, 0.05], roughness: 0.6, metal: 0 },
		});
	return {
		version: DOCUMENT_VERSION,
		title,
		idea: "",
		references: [],
		shown: { reference: null, mode: "off", opacity: 0.5 },
		match: { lines: [], focalGivenMm: null, eyeHeightM: 1.65 },
		camera: {
			locked: false,
			position: [0, 1.65, 0],
			headingDeg: 0,
			pitchDeg: 0,
			rollDeg: 0,
			film: { widthMm: 36, heightMm: 24 },
			ratio: 1.85,
			focalMm: 32,
			fStop: 8,
			focusM: null,
			ev100: 14,
		},
		pieces: [
			band(0),
			band(1),
			band(2),
			band(3),
			stake("stake-5", "Stake at 5 m", -1.2, -5),
			stake("stake-80", "Stake at 80 m", 6, -80),
		],
		ground: { preset: "plain", seed: 1, heightM: 0 },
		water: { on: false, levelM: -0.5, rippleMm: 4, clarityM: 2 },
		covers: [],
		lamps: [],
		air: {
			sun: { headingDeg: 50, elevationDeg: 32 },
			haze: 1,
			cloud: { cover: 0.2, seed: 1 },
			fog: { on: false, visibilityM: 20_000, belowM: 200, forward: 0.6, colour: [0.95, 0.95, 0.95], skyClear: true },
		},
		finish: { exposureEv: 0, curve: "print", contrast: 1, vignette: 0.1 },
		print: { widthPx: 1920, samples: 256, seed: 1, noisePercent: 4, spread: "noise" },
	};
}
