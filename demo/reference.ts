/**
 * The reference picture of the salt works: another place, seen by a known camera, painted over by a filter. So a match
 * can be checked against the truth. Its main edges run along −Z, across X and upright.
 */
import { blankShot, newPiece } from "../src/core/doc/defaults.ts";
import type { MatchAxis, Piece, ShapeKind, ShotDocument, Surface } from "../src/core/doc/schema.ts";
import { frameOfView, project } from "../src/core/lens/camera.ts";
import type { Vec3 } from "../src/core/maths/vec.ts";

export const REFERENCE_SIZE = { width: 1200, height: 649 };

/** What a match of the reference should find. */
export const REFERENCE_TRUTH = { focalMm: 29, pitchDeg: 1.6, rollDeg: 0, headingDeg: 36, eyeHeightM: 2.1 };

const WOOD: Surface = { colour: [0.12, 0.09, 0.07], roughness: 0.8, metal: 0 };
const EARTH: Surface = { colour: [0.17, 0.14, 0.115], roughness: 0.9, metal: 0 };
const BRICK: Surface = { colour: [0.26, 0.15, 0.1], roughness: 0.85, metal: 0 };
const SALT: Surface = { colour: [0.8, 0.78, 0.75], roughness: 0.85, metal: 0 };

let count = 0;
const part = (
	kind: ShapeKind,
	position: Vec3,
	size: [number, number, number],
	surface: Surface,
	over: Partial<Piece> = {},
): Piece => newPiece(`ref-${count++}`, kind, { position: [...position], stands: "level", size, surface, ...over });

/** Edges of the place, two ends each, by direction. */
export const REFERENCE_EDGES: { axis: MatchAxis; ends: [Vec3, Vec3] }[] = [
	{
		axis: "along",
		ends: [
			[3, 0.5, -6.5],
			[3, 0.5, -38],
		],
	},
	{
		axis: "along",
		ends: [
			[5.2, 0.5, -4.5],
			[5.2, 0.5, -42],
		],
	},
	{
		axis: "along",
		ends: [
			[9, 4.2, -20],
			[9, 4.2, -36],
		],
	},
	{
		axis: "across",
		ends: [
			[5.2, 0.32, -14],
			[26, 0.32, -14],
		],
	},
	{
		axis: "across",
		ends: [
			[9, 4.2, -20],
			[16, 4.2, -20],
		],
	},
	{
		axis: "across",
		ends: [
			[5.2, 0.32, -48],
			[60, 0.32, -48],
		],
	},
	{
		axis: "upright",
		ends: [
			[9, 0, -20],
			[9, 4.2, -20],
		],
	},
	{
		axis: "upright",
		ends: [
			[16, 0, -20],
			[16, 4.2, -20],
		],
	},
];

/** The other place. */
export function referenceDocument(): ShotDocument {
	count = 0;
	const doc = blankShot("Brine ponds, evening");
	const dyke = (z: number) => part("box", [33, -0.6, z - 0.7], [55.6, 0.92, 1.4], EARTH);
	const post = (x: number, z: number) => part("box", [x, -0.4, z], [0.3, 2.6, 0.3], WOOD);
	return {
		...doc,
		camera: {
			...doc.camera,
			locked: true,
			position: [0, REFERENCE_TRUTH.eyeHeightM, 0],
			headingDeg: REFERENCE_TRUTH.headingDeg,
			pitchDeg: REFERENCE_TRUTH.pitchDeg,
			focalMm: REFERENCE_TRUTH.focalMm,
			ratio: REFERENCE_SIZE.width / REFERENCE_SIZE.height,
			ev100: 12.2,
		},
		pieces: [
			part("box", [4.1, -0.6, -60], [2.2, 1.1, 118], EARTH),
			part("box", [4.1, 0.5, -6], [2, 0.08, 0.3], WOOD, { repeat: { kind: "row", count: 90, step: [0, 1.2] } }),
			dyke(-14),
			dyke(-48),
			dyke(-86),
			part("box", [12.5, -0.5, -28], [7, 4.7, 16], BRICK),
			part("wedge", [10.75, 4.2, -28], [17, 1.9, 4], WOOD, { headingDeg: 90 }),
			part("wedge", [14.25, 4.2, -28], [17, 1.9, 4], WOOD, { headingDeg: -90 }),
			post(6, -14.7),
			post(8.4, -14.7),
			part("box", [7.2, 1.9, -14.7], [3, 0.3, 0.34], WOOD),
			part("cone", [22, -0.1, -34], [9, 3.6, 9], SALT, { repeat: { kind: "row", count: 4, step: [11, 0] } }),
			part("cone", [30, -0.1, -62], [11, 4.4, 11], SALT, { repeat: { kind: "row", count: 5, step: [13, 0] } }),
			part("cylinder", [40, -0.2, -110], [1.1, 16, 1.1], WOOD),
			part("cylinder", [4.4, 0.5, -17], [0.5, 1.7, 0.4], WOOD),
		],
		ground: { preset: "salt flat", seed: 31, heightM: 260 },
		water: { on: true, levelM: 0, rippleMm: 2, clarityM: 0.5 },
		air: {
			sun: { headingDeg: 52, elevationDeg: 8 },
			haze: 2.4,
			cloud: { cover: 0.62, seed: 23 },
			fog: { on: true, visibilityM: 5200, belowM: 60, forward: 0.65, colour: [0.97, 0.96, 0.96], skyClear: false },
		},
		finish: { exposureEv: 0, curve: "print", contrast: 1.02, vignette: 0.15 },
	};
}

/** The edges as segments in the reference's pixels, as a hand without error would draw them. */
export function referenceLines(): { axis: MatchAxis; x1: number; y1: number; x2: number; y2: number }[] {
	const view = frameOfView(referenceDocument().camera);
	const pixel = (p: Vec3) => {
		const q = project(view, p);
		return [q.x * REFERENCE_SIZE.width, q.y * REFERENCE_SIZE.height];
	};
	return REFERENCE_EDGES.map(({ axis, ends }) => {
		const [x1, y1] = pixel(ends[0]);
		const [x2, y2] = pixel(ends[1]);
		return { axis, x1, y1, x2, y2 };
	});
}
