/**
 * Colour differences for measuring pictures (not for making them): CIE Lab under D65 and CIEDE2000 after Sharma, Wu and
 * Dalal (2005), "The CIEDE2000 Color-Difference Formula".
 */

export type Lab = [number, number, number];

/** Lab of a linear Rec.709 colour, white at 1, under D65. */
export function labOf(r: number, g: number, b: number): Lab {
	const x = (0.4124564 * r + 0.3575761 * g + 0.1804375 * b) / 0.95047;
	const y = 0.2126729 * r + 0.7151522 * g + 0.072175 * b;
	const z = (0.0193339 * r + 0.119192 * g + 0.9503041 * b) / 1.08883;
	const f = (t: number) => (t > 216 / 24389 ? Math.cbrt(t) : ((24389 / 27) * t + 16) / 116);
	return [116 * f(y) - 16, 500 * (f(x) - f(y)), 200 * (f(y) - f(z))];
}

const deg = 180 / Math.PI;
const hue = (a: number, b: number): number => (a === 0 && b === 0 ? 0 : (Math.atan2(b, a) * deg + 360) % 360);
const cosD = (d: number) => Math.cos(d / deg);
const sinD = (d: number) => Math.sin(d / deg);

/** CIEDE2000 difference of two Lab colours; about 1 is just seen. */
export function ciede2000([L1, a1, b1]: Lab, [L2, a2, b2]: Lab): number {
	const meanC = (Math.hypot(a1, b1) + Math.hypot(a2, b2)) / 2;
	const c7 = meanC ** 7;
	const G = 0.5 * (1 - Math.sqrt(c7 / (c7 + 25 ** 7)));
	const A1 = (1 + G) * a1;
	const A2 = (1 + G) * a2;
	const C1 = Math.hypot(A1, b1);
	const C2 = Math.hypot(A2, b2);
	const h1 = hue(A1, b1);
	const h2 = hue(A2, b2);
	const grey = C1 * C2 === 0;
	let dh = grey ? 0 : h2 - h1;
	if (dh > 180) dh -= 360;
	if (dh < -180) dh += 360;
	const dH = 2 * Math.sqrt(C1 * C2) * sinD(dh / 2);
	const dL = L2 - L1;
	const dC = C2 - C1;
	const L = (L1 + L2) / 2;
	const C = (C1 + C2) / 2;
	let h = h1 + h2;
	if (!grey) {
		if (Math.abs(h1 - h2) <= 180) h /= 2;
		else h = h < 360 ? (h + 360) / 2 : (h - 360) / 2;
	}
	const T = 1 - 0.17 * cosD(h - 30) + 0.24 * cosD(2 * h) + 0.32 * cosD(3 * h + 6) - 0.2 * cosD(4 * h - 63);
	const turn = 30 * Math.exp(-(((h - 275) / 25) ** 2));
	const C7 = C ** 7;
	const RC = 2 * Math.sqrt(C7 / (C7 + 25 ** 7));
	const SL = 1 + (0.015 * (L - 50) ** 2) / Math.sqrt(20 + (L - 50) ** 2);
	const SC = 1 + 0.045 * C;
	const SH = 1 + 0.015 * C * T;
	const RT = -sinD(2 * turn) * RC;
	return Math.sqrt((dL / SL) ** 2 + (dC / SC) ** 2 + (dH / SH) ** 2 + RT * (dC / SC) * (dH / SH));
}
