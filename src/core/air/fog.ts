/** Height fog in closed form: σ(y) = σ0·exp(−(y − y0)/H), held at σ0 below y0. */
import type { Air } from "../doc/schema.ts";
import { exp, log } from "../maths/functions.ts";

export interface FogShape {
	/** Extinction at the bottom, per metre. 0 is no fog. */
	sigma0: number;
	y0: number;
	/** Scale height in metres; Infinity fills the air evenly. */
	scaleM: number;
}

/** Extinction per metre for a visibility (2 % of contrast left). */
export const extinctionOf = (visibilityM: number): number => 3.912 / visibilityM;

export function fogShape(fog: Air["fog"]): FogShape {
	if (!fog.on) return { sigma0: 0, y0: 0, scaleM: Number.POSITIVE_INFINITY };
	return {
		sigma0: extinctionOf(fog.visibilityM),
		y0: 0,
		scaleM: fog.belowM === null ? Number.POSITIVE_INFINITY : fog.belowM / log(20),
	};
}

/** Fog that fills all the air lets the light of its sky in at this height over the lens at least, metres. */
const LEAST_TOP_M = 50;
/** And at this share of its visibility: sun from the zenith then loses a fifth on its way to the lens. */
const TOP_SHARE = 0.06;

/**
 * The fog as light meets it. One that fills all the air is even about the lens and ends above it: without an end neither
 * sun nor sky would reach anything in it. A clear sky is outside of all fog, and needs none.
 */
export function litFogShape(fog: Air["fog"], lensY: number): FogShape {
	const shape = fogShape(fog);
	if (!fog.on || fog.skyClear || Number.isFinite(shape.scaleM)) return shape;
	const top = Math.max(LEAST_TOP_M, TOP_SHARE * fog.visibilityM);
	return { ...shape, y0: lensY + top * 0.75, scaleM: top * 0.25 };
}

/** Integral over height from −∞-side: antiderivative of σ(y)/σ0 in y. */
function columnBelow(shape: FogShape, y: number): number {
	const h = y - shape.y0;
	return h <= 0 ? h : shape.scaleM * (1 - exp(-h / shape.scaleM));
}

/** Optical depth of the fog along a straight line from height ya to height yb of the given length, metres. */
export function fogDepth(shape: FogShape, ya: number, yb: number, lengthM: number): number {
	if (shape.sigma0 === 0) return 0;
	if (!Number.isFinite(shape.scaleM)) return shape.sigma0 * lengthM;
	const dy = yb - ya;
	if (Math.abs(dy) < 1e-4 * shape.scaleM) {
		const mid = 0.5 * (ya + yb) - shape.y0;
		return shape.sigma0 * lengthM * (mid <= 0 ? 1 : exp(-mid / shape.scaleM));
	}
	return (shape.sigma0 * lengthM * (columnBelow(shape, yb) - columnBelow(shape, ya))) / dy;
}

/** Contrast that the fog leaves along a line: exp(−optical depth). */
export const contrastKept = (shape: FogShape, ya: number, yb: number, lengthM: number): number =>
	exp(-fogDepth(shape, ya, yb, lengthM));

/**
 * Visibility in metres at which a line keeps the given contrast (0 to 1), all else of the fog as it is. Throws when
 * the line has no length.
 * @example visibilityForContrast(fog, 1.65, 12, 305, 0.4) // so that 40 % are left of the crane's middle
 */
export function visibilityForContrast(
	fog: Air["fog"],
	ya: number,
	yb: number,
	lengthM: number,
	contrast: number,
): number {
	const unit = fogDepth({ ...fogShape({ ...fog, on: true }), sigma0: 1 }, ya, yb, lengthM);
	if (!(unit > 0)) throw new Error("the line passes through no fog");
	return 3.912 / (-log(contrast) / unit);
}
