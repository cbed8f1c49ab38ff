/** Colour of light by its temperature. */
import { luminance } from "../colour/linear.ts";
import { exp } from "../maths/functions.ts";
import type { Vec3 } from "../maths/vec.ts";

/** One lobe of a colour matching function: other widths below and above its middle. Nanometres. */
const lobe = (l: number, middle: number, below: number, above: number): number => {
	const t = (l - middle) * (l < middle ? below : above);
	return exp(-0.5 * t * t);
};

/** CIE 1931 colour matching functions by sums of lobes (Wyman, Sloan and Shirley 2013). */
const matching = (l: number): Vec3 => [
	0.362 * lobe(l, 442, 0.0624, 0.0374) + 1.056 * lobe(l, 599.8, 0.0264, 0.0323) - 0.065 * lobe(l, 501.1, 0.049, 0.0382),
	0.821 * lobe(l, 568.8, 0.0213, 0.0247) + 0.286 * lobe(l, 530.9, 0.0613, 0.0322),
	1.217 * lobe(l, 437, 0.0845, 0.0278) + 0.681 * lobe(l, 459, 0.0385, 0.0725),
];

/**
 * Colour of a black body of a temperature in kelvin: scene-linear Rec.709 of luminance 1, by Planck's law. What lies
 * outside the gamut (the missing blue of a candle) is left at 0.
 */
export function blackbody(kelvin: number): Vec3 {
	let [x, y, z] = [0, 0, 0];
	for (let l = 380; l <= 780; l += 5) {
		const power = 1 / (l / 560) ** 5 / (exp(1.438776877e7 / (l * kelvin)) - 1);
		const m = matching(l);
		x += power * m[0];
		y += power * m[1];
		z += power * m[2];
	}
	const rgb = [
		3.2404542 * x - 1.5371385 * y - 0.4985314 * z,
		-0.969266 * x + 1.8760108 * y + 0.041556 * z,
		0.0556434 * x - 0.2040259 * y + 1.0572252 * z,
	].map((v) => Math.max(0, v));
	const brightness = luminance(rgb);
	return [rgb[0] / brightness, rgb[1] / brightness, rgb[2] / brightness];
}
