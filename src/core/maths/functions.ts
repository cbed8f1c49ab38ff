/**
 * Elementary functions that give the same bits on every engine.
 *
 * The host's `Math.sin`, `exp`, `pow` and kin differ in the last bit between engine versions, so whatever enters a
 * print takes them from here. Only +, −, ×, ÷ and sqrt are used, which IEEE 754 fixes. Polynomials and reductions
 * follow the method of FreeBSD's msun (Sun Microsystems, 1993); errors are below 2 ulp over the ranges used here.
 */

const LN2_HIGH = 6.9314718036912381649e-1;
const LN2_LOW = 1.90821492927058770002e-10;
const HALF_PI_HIGH = 1.57079632673412561417;
const HALF_PI_LOW = 6.07710050650619224932e-11;

export const DEG = 0.017453292519943295;
export const TAU = 6.283185307179586;

const bits = new DataView(new ArrayBuffer(8));

/** 2 to the power of a whole number k in [−1022, 1023]. */
function powerOfTwo(k: number): number {
	bits.setUint32(0, (k + 1023) << 20);
	bits.setUint32(4, 0);
	return bits.getFloat64(0);
}

/** e to the power of x. Overflows to Infinity above 709.78 and to 0 below −708. */
export function exp(x: number): number {
	if (x > 709.78) return Infinity;
	if (x < -708) return 0;
	const k = Math.floor(x * Math.LOG2E + 0.5);
	const high = x - k * LN2_HIGH;
	const low = k * LN2_LOW;
	const r = high - low;
	const t = r * r;
	const c =
		r -
		t *
			(1.66666666666666019037e-1 +
				t *
					(-2.77777777770155933842e-3 +
						t * (6.61375632143793436117e-5 + t * (-1.6533902205465251539e-6 + t * 4.13813679705723846039e-8))));
	return (1 - (low - (r * c) / (2 - c) - high)) * powerOfTwo(k);
}

/** Natural logarithm. −Infinity at 0, NaN below it. */
export function log(x: number): number {
	if (x === 0) return -Infinity;
	if (!(x > 0)) return Number.NaN;
	if (x === Infinity) return Infinity;
	let k = 0;
	let v = x;
	if (v < 2.2250738585072014e-308) {
		v *= 18014398509481984;
		k -= 54;
	}
	bits.setFloat64(0, v);
	const head = bits.getUint32(0);
	k += (head >>> 20) - 1023;
	bits.setUint32(0, (head & 0xfffff) | 0x3ff00000);
	let m = bits.getFloat64(0);
	if (m > Math.SQRT2) {
		m *= 0.5;
		k += 1;
	}
	const f = m - 1;
	const s = f / (2 + f);
	const z = s * s;
	const series =
		z *
		(6.66666666666673513e-1 +
			z *
				(3.999999999940941908e-1 +
					z *
						(2.857142874366239149e-1 +
							z *
								(2.222219843214978396e-1 +
									z * (1.818357216161805012e-1 + z * (1.531383769920937332e-1 + z * 1.479819860511658591e-1))))));
	const half = 0.5 * f * f;
	return k * LN2_HIGH - (half - (s * (half + series) + k * LN2_LOW) - f);
}

/** x to the power of y for x ≥ 0. */
export function pow(x: number, y: number): number {
	if (x === 0) return y === 0 ? 1 : 0;
	return exp(y * log(x));
}

function sinKernel(x: number): number {
	const z = x * x;
	return (
		x +
		x *
			z *
			(-1.66666666666666324348e-1 +
				z *
					(8.33333333332248946124e-3 +
						z *
							(-1.98412698298579493134e-4 +
								z * (2.75573137070700676789e-6 + z * (-2.50507602534068634195e-8 + z * 1.58969099521155010221e-10)))))
	);
}

function cosKernel(x: number): number {
	const z = x * x;
	return (
		1 -
		0.5 * z +
		z *
			z *
			(4.16666666666666019037e-2 +
				z *
					(-1.38888888888741095749e-3 +
						z *
							(2.48015872894767294178e-5 +
								z * (-2.75573143513906633035e-7 + z * (2.0875723212981748279e-9 - z * 1.13596475577881948265e-11)))))
	);
}

/** Sine of x in radians, |x| below about a million. */
export function sin(x: number): number {
	const q = Math.floor(x * 0.6366197723675814 + 0.5);
	const r = x - q * HALF_PI_HIGH - q * HALF_PI_LOW;
	const quadrant = q & 3;
	const value = quadrant & 1 ? cosKernel(r) : sinKernel(r);
	return quadrant & 2 ? -value : value;
}

/** Cosine of x in radians, |x| below about a million. */
export function cos(x: number): number {
	const q = Math.floor(x * 0.6366197723675814 + 0.5);
	const r = x - q * HALF_PI_HIGH - q * HALF_PI_LOW;
	const quadrant = q & 3;
	const value = quadrant & 1 ? sinKernel(r) : cosKernel(r);
	return quadrant === 1 || quadrant === 2 ? -value : value;
}

/** Tangent of x in radians. */
export function tan(x: number): number {
	return sin(x) / cos(x);
}

/** Arc tangent, in (−π/2, π/2). */
export function atan(x: number): number {
	const a = Math.abs(x);
	let base = 0;
	let r = a;
	if (a > 2.414213562373095) {
		base = 1.5707963267948966;
		r = -1 / a;
	} else if (a > 0.4142135623730951) {
		base = 0.7853981633974483;
		r = (a - 1) / (a + 1);
	}
	const z = r * r;
	const odd =
		3.33333333333329318027e-1 +
		z *
			z *
			(1.42857142725034663711e-1 +
				z *
					z *
					(9.09088713343650656196e-2 +
						z *
							z *
							(6.66107313738753120669e-2 + z * z * (4.97687799461593236017e-2 + z * z * 1.62858201153657823623e-2))));
	const even =
		-1.99999999998764832476e-1 +
		z *
			z *
			(-1.1111110405462355788e-1 +
				z *
					z *
					(-7.69187620504482999495e-2 + z * z * (-5.83357013379057348645e-2 + z * z * -3.6531572744216915527e-2)));
	const value = base + (r - r * z * (odd + z * even));
	return x < 0 ? -value : value;
}

/** Angle of the point (x, y) in (−π, π]. */
export function atan2(y: number, x: number): number {
	if (x > 0) return atan(y / x);
	if (x < 0) return y >= 0 ? atan(y / x) + Math.PI : atan(y / x) - Math.PI;
	return y > 0 ? 1.5707963267948966 : y < 0 ? -1.5707963267948966 : 0;
}

/** Arc sine of x, clamped to [−1, 1]. */
export function asin(x: number): number {
	const c = x < -1 ? -1 : Math.min(x, 1);
	return atan2(c, Math.sqrt((1 - c) * (1 + c)));
}

/** Arc cosine of x, clamped to [−1, 1]. */
export function acos(x: number): number {
	return 1.5707963267948966 - asin(x);
}

export function clamp(x: number, low: number, high: number): number {
	return x < low ? low : Math.min(x, high);
}

export function mix(a: number, b: number, t: number): number {
	return a + (b - a) * t;
}

/** Hermite step from 0 at a to 1 at b. */
export function smoothstep(a: number, b: number, x: number): number {
	if (a === b) return x < a ? 0 : 1;
	const t = clamp((x - a) / (b - a), 0, 1);
	return t * t * (3 - 2 * t);
}

/** Degrees as the same turn from −180 up to 180. */
export function wrapDeg(deg: number): number {
	const w = ((((deg + 180) % 360) + 360) % 360) - 180;
	return Object.is(w, -0) ? 0 : w;
}

/** Metres to the nearest whole millimetre, as hands put them down. */
export const millimetres = (metres: number): number => Math.round(metres * 1000) / 1000;
