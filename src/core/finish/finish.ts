/**
 * From linear luminance to a picture for the eye: exposure, the lens's fall-off and tint, vignette, fading of colour in highlights, contrast, tone
 * curve, sRGB. What the lens draws at another place is brought there before, by `bentLines.ts`. The working view's shader does
 * the same in the same order. Exposure after ISO 12232 (saturation-based): sensor value = L / (1.2 · 2^EV100).
 */
import { encodeSrgb, luminance } from "../colour/linear.ts";
import type { Camera, Finish } from "../doc/schema.ts";
import { fieldOf } from "../lens/camera.ts";
import { characterOf, GREEN, sourceOf } from "../lens/character.ts";
import type { Area } from "../maths/area.ts";
import { exp, log, pow } from "../maths/functions.ts";

/**
 * Constants of the *print* curve, y = x^a / (x^(a·d)·b + c), which keeps middle grey and reaches 1 at `white` (Lottes
 * 2016, "Advanced Techniques and Optimization of VDR Color Pipelines").
 */
export const PRINT_CURVE = (() => {
	const a = 1.28;
	const d = 0.977;
	const white = 14;
	const mid = 0.18;
	const out = 0.19;
	const b = (-pow(mid, a) + pow(white, a) * out) / ((pow(white, a * d) - pow(mid, a * d)) * out);
	const c =
		(pow(white, a * d) * pow(mid, a) - pow(white, a) * pow(mid, a * d) * out) /
		((pow(white, a * d) - pow(mid, a * d)) * out);
	return { a, d, b, c, white };
})();

/** Share of light that the vignette leaves at a place; r is the distance from the middle, 1 in the corners. */
export const vignetteAt = (vignette: number, r: number): number => 1 - vignette * 0.75 * r * r;

/**
 * Share of light that comes through at a place of the film, given as tangents from the lens's axis: cos⁴ of the angle
 * (Kingslake 1983, Optical System Design, ch. 7), or a part of that fall-off.
 */
export const falloffAt = (falloff: number, tanX: number, tanY: number): number =>
	1 - falloff * (1 - 1 / (1 + tanX * tanX + tanY * tanY) ** 2);

/** A colour of the same hue and strength that leaves the brightness of greys alone. */
export function tintOf(tint: readonly [number, number, number]): [number, number, number] {
	const brightness = luminance(tint);
	return brightness > 1e-3 ? [tint[0] / brightness, tint[1] / brightness, tint[2] / brightness] : [1, 1, 1];
}

/** What of a camera the finish looks at. */
export type FinishedBy = Pick<Camera, "ev100" | "film" | "ratio" | "focalMm" | "shiftMm">;

/** One channel of the tone curve, scene-linear in (1 = a white of the sensor), display-linear out. */
export function toneCurve(x: number, curve: Finish["curve"]): number {
	if (!(x > 0)) return 0;
	if (curve === "straight") return Math.min(1, x);
	const { a, d, b, c, white } = PRINT_CURVE;
	if (x >= white) return 1;
	return Math.min(1, pow(x, a) / (pow(x, a * d) * b + c));
}

/** Sensor value at which the *print* curve has let go of more than half of a colour. */
export const COLOUR_FADES = 6;

/** Share of its colour that light of a brightest channel keeps: what is far too bright turns white, as on film, and not into the nearest pure hue. */
export function colourKept(brightest: number, curve: Finish["curve"]): number {
	if (curve === "straight") return 1;
	const r = brightest / COLOUR_FADES;
	return 1 / (1 + r * Math.sqrt(r));
}

/** Light of three channels with as much of its colour as it keeps. */
function faded(light: readonly number[], curve: Finish["curve"]): number[] {
	const kept = colourKept(Math.max(...light), curve);
	const grey = (1 - kept) * luminance(light);
	return light.map((v) => v * kept + grey);
}

/** Contrast about middle grey in the scene's own light: x → 0.18·(x/0.18)^contrast. */
export const contrastOf = (x: number, contrast: number): number =>
	contrast === 1 || x <= 0 ? x : 0.18 * exp(contrast * log(x / 0.18));

/** Factor from cd/m² to sensor values. */
export const exposureFactor = (ev100: number, finish: Finish): number => pow(2, finish.exposureEv - ev100) / 1.2;

/**
 * Light of the middle of a frame, cd/m², as the eye is given it: linear Rec.709, 1 a white of the screen. What a picture has at other places,
 * vignette and fall-off, is left out.
 */
export function finishColour(rgb: readonly number[], ev100: number, finish: Finish): [number, number, number] {
	const k = exposureFactor(ev100, finish);
	const tint = tintOf(characterOf(finish).tint);
	const light = faded(
		rgb.map((v, c) => Math.max(0, v * k * tint[c])),
		finish.curve,
	);
	return light.map((v) => toneCurve(contrastOf(v, finish.contrast), finish.curve)) as [number, number, number];
}

/**
 * Finishes a linear picture into 8-bit sRGB, RGBA rows from the top. `whole` is where it lies in the whole frame, and the size
 * of that. A table stands in for the curve (4,096 steps over 24 stops, interpolated, error below a fifth of an 8-bit step).
 */
export function finishPicture(
	rgb: readonly [Float32Array, Float32Array, Float32Array],
	width: number,
	height: number,
	camera: FinishedBy,
	finish: Finish,
	whole: Area = { x: 0, y: 0, width, height },
): Uint8ClampedArray {
	const out = new Uint8ClampedArray(width * height * 4);
	const k = exposureFactor(camera.ev100, finish);
	const lens = characterOf(finish);
	const tint = tintOf(lens.tint);
	const field = fieldOf(camera);
	const steps = 4096;
	const low = -18;
	const span = 24;
	const table = new Float32Array(steps + 2);
	for (let i = 0; i < steps + 2; i++) {
		const x = pow(2, low + (i / steps) * span);
		table[i] = 255 * encodeSrgb(toneCurve(contrastOf(x, finish.contrast), finish.curve));
	}
	const half = 0.25 * (whole.width * whole.width + whole.height * whole.height);
	for (let y = 0; y < height; y++) {
		for (let x = 0; x < width; x++) {
			const i = y * width + x;
			const dx = whole.x + x + 0.5 - whole.width / 2;
			const dy = whole.y + y + 0.5 - whole.height / 2;
			let v = k * vignetteAt(finish.vignette, Math.sqrt((dx * dx + dy * dy) / half));
			if (lens.falloff > 0) {
				const [u, w] = sourceOf(whole.x + x + 0.5, whole.y + y + 0.5, GREEN, lens, whole);
				const across = field.shiftX + ((2 * u) / whole.width - 1) * field.tanX;
				v *= falloffAt(lens.falloff, across, field.shiftY + (1 - (2 * w) / whole.height) * field.tanY);
			}
			const light = faded(
				[0, 1, 2].map((c) => (rgb[c][i] > 0 ? Math.min(1e9, rgb[c][i] * v * tint[c]) : 0)),
				finish.curve,
			);
			for (let c = 0; c < 3; c++) {
				const s = light[c];
				if (s === 0) continue;
				const at = Math.min(steps, Math.max(0, ((Math.log2(s) - low) / span) * steps));
				const j = Math.floor(at);
				out[i * 4 + c] = table[j] + (table[j + 1] - table[j]) * (at - j);
			}
			out[i * 4 + 3] = 255;
		}
	}
	return out;
}

/** EV at ISO 100 at which the geometric mean luminance of a picture lies at middle grey, kept from burning its lights. */
export function proposeEv(luminance: Float32Array): number {
	let sum = 0;
	let n = 0;
	for (const l of luminance) {
		if (!(l > 1e-6)) continue;
		sum += Math.log2(l);
		n++;
	}
	if (n === 0) return 14;
	const sorted = Float32Array.from(luminance).sort();
	const high = sorted[Math.floor(sorted.length * 0.95)];
	const byMean = sum / n - Math.log2(0.18 * 1.2);
	const byLights = Math.log2(high / (2.5 * 1.2));
	return Math.round(Math.max(byMean, byLights) * 10) / 10;
}
