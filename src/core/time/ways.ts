/**
 * How values go from key to key. A number's way is even (straight), held, or eased: a cubic whose slopes are limited so that
 * it rises and falls nowhere but where the keys do (Fritsch and Carlson 1980), comes to rest at the first and the last key,
 * and passes through those between without a halt. So it meets all keys and never goes beyond them.
 */
import type { Key, Leave, Way } from "../doc/schema.ts";
import { acos, asin, atan2, clamp, cos, DEG, exp, log, sin, wrapDeg } from "../maths/functions.ts";
import { dot, type Vec3 } from "../maths/vec.ts";

/** Numbers at rising times and how each is left. */
interface Numbers {
	times: readonly number[];
	values: readonly number[];
	leaves: readonly Leave[];
}

/** The last of rising times that is not after a time, −1 before the first. */
const keyBefore = (times: readonly number[], t: number): number => times.findLastIndex((time) => time <= t);
const heldKey = (keys: readonly Key[], t: number): number => keys.findLastIndex((key) => key.timeS <= t);

/** Slope of the straight way from a key to the next. */
const slope = ({ times, values }: Numbers, i: number): number =>
	(values[i + 1] - values[i]) / (times[i + 1] - times[i]);

/** Slope at a key as an eased way beside it has it. */
function slopeAt(n: Numbers, i: number): number {
	if (i === 0 || i === n.times.length - 1) return 0;
	if (n.leaves[i - 1] === "hold" || n.leaves[i] === "hold") return 0;
	const [a, b] = [slope(n, i - 1), slope(n, i)];
	if (a * b <= 0) return 0;
	// Beside an even way the slope is that of the even one, as far as the eased one may have it.
	if (n.leaves[i - 1] === "even") return Math.sign(a) * Math.min(Math.abs(a), 3 * Math.abs(b));
	if (n.leaves[i] === "even") return Math.sign(b) * Math.min(Math.abs(b), 3 * Math.abs(a));
	const [u, v] = [n.times[i] - n.times[i - 1], n.times[i + 1] - n.times[i]];
	// Harmonic mean weighted by the times (Fritsch and Butland 1984).
	const [w1, w2] = [2 * v + u, v + 2 * u];
	return (w1 + w2) / (w1 / a + w2 / b);
}

/** The number at a time; before the first key and after the last it rests. */
export function numberAt(n: Numbers, t: number): number {
	const i = keyBefore(n.times, t);
	if (i < 0) return n.values[0];
	if (i === n.times.length - 1 || n.leaves[i] === "hold") return n.values[i];
	const [from, to] = [n.values[i], n.values[i + 1]];
	const span = n.times[i + 1] - n.times[i];
	const s = (t - n.times[i]) / span;
	if (n.leaves[i] === "even" || from === to) return from + (to - from) * s;
	const [m0, m1] = [slopeAt(n, i) * span, slopeAt(n, i + 1) * span];
	const s2 = s * s;
	const s3 = s2 * s;
	return from * (2 * s3 - 3 * s2 + 1) + m0 * (s3 - 2 * s2 + s) + to * (3 * s2 - 2 * s3) + m1 * (s3 - s2);
}

/** A number of all keys as they stand beside each other. */
const each = (keys: readonly Key[], values: readonly number[]): Numbers => ({
	times: keys.map((k) => k.timeS),
	values,
	leaves: keys.map((k) => k.leave),
});

/** Angles in degrees, each by the shorter way from the one before. */
export function unwrapDeg(angles: readonly number[]): number[] {
	const out: number[] = [];
	for (const [i, angle] of angles.entries()) {
		const last = i > 0 ? out[i - 1] : angle;
		out.push(last + ((((angle - last) % 360) + 540) % 360) - 180);
	}
	return out;
}

type Plain = number | readonly number[] | Record<string, unknown> | null;

/** A value of numbers, number by number; what is no number is that of the key before. */
function byNumbers(keys: readonly Key[], t: number, at: (values: number[], name: string) => number): unknown {
	const values = keys.map((k) => k.value as Plain);
	const held = values[Math.max(0, heldKey(keys, t))];
	const numbers = (of: (v: Plain) => unknown, name: string): unknown => {
		const all = values.map(of);
		if (all.every((v) => v === all[0])) return all[0];
		return all.every((v) => typeof v === "number") ? at(all as number[], name) : of(held);
	};
	if (Array.isArray(held)) return held.map((_, c) => numbers((v) => (v as number[])[c], String(c)));
	if (held !== null && typeof held === "object")
		return Object.fromEntries(
			Object.keys(held).map((name) => [name, numbers((v) => (v as Record<string, unknown>)[name], name)]),
		);
	return numbers((v) => v, "");
}

/** Angles that a heading and a height over the level say, whatever they are called. */
const heightOf = (v: Record<string, number>): number => v.elevationDeg ?? v.pitchDeg;

function towards(v: Record<string, number>): Vec3 {
	const [h, e] = [v.headingDeg * DEG, heightOf(v) * DEG];
	return [sin(h) * cos(e), sin(e), -cos(h) * cos(e)];
}

/** Along great circles: the way that is gone is a number like any other, and the place lies at its share of the arc. */
function directionAt(keys: readonly Key[], t: number): Record<string, number> {
	const values = keys.map((k) => k.value as Record<string, number>);
	const places = values.map(towards);
	const arcs = places.map((p, i) => (i === 0 ? 0 : acos(clamp(dot(places[i - 1], p), -1, 1))));
	let sum = 0;
	const gone = arcs.map((a) => {
		sum += a;
		return sum;
	});
	const i = heldKey(keys, t);
	if (i < 0) return values[0];
	const arc = arcs[i + 1];
	if (i === keys.length - 1 || keys[i].leave === "hold" || t === keys[i].timeS) return values[i];
	const share = arc > 1e-9 ? (numberAt(each(keys, gone), t) - gone[i]) / arc : 0;
	// Opposite places have no one arc between them: then by the angles themselves.
	if (arc < 1e-9 || arc > Math.PI - 1e-6)
		return byNumbers(keys, t, (v, name) =>
			name === "headingDeg" ? wrapDeg(numberAt(each(keys, unwrapDeg(v)), t)) : numberAt(each(keys, v), t),
		) as Record<string, number>;
	const [a, b] = [sin((1 - share) * arc) / sin(arc), sin(share * arc) / sin(arc)];
	const [x, y, z] = [0, 1, 2].map((c) => places[i][c] * a + places[i + 1][c] * b);
	const height = asin(clamp(y, -1, 1)) / DEG;
	const headingDeg = Math.hypot(x, z) > 1e-9 ? atan2(x, -z) / DEG : values[i].headingDeg;
	return { headingDeg, ["elevationDeg" in values[i] ? "elevationDeg" : "pitchDeg"]: height };
}

const straight = (keys: readonly Key[], t: number) => byNumbers(keys, t, (v) => numberAt(each(keys, v), t));

/** Values at a time by the way that they go. Keys stand by rising time; at a key's time its own value comes, as it is. */
export const WAYS: Record<Exclude<Way, "focus">, (keys: readonly Key[], t: number) => unknown> = {
	straight,
	logarithm: (keys, t) =>
		byNumbers(keys, t, (v) =>
			v.every((x) => x > 0) ? exp(numberAt(each(keys, v.map(log)), t)) : numberAt(each(keys, v), t),
		),
	angles: (keys, t) => byNumbers(keys, t, (v) => wrapDeg(numberAt(each(keys, unwrapDeg(v)), t))),
	direction: directionAt,
	step: (keys, t) => keys[Math.max(0, heldKey(keys, t))].value,
};

/** The value of keys at a time, exactly a key's own where it stands, and outside of them all. */
export function valueAt(keys: readonly Key[], way: Exclude<Way, "focus">, t: number): unknown {
	const last = keys[keys.length - 1];
	if (t <= keys[0].timeS) return keys[0].value;
	if (t >= last.timeS) return last.value;
	const i = heldKey(keys, t);
	return keys[i].timeS === t ? keys[i].value : WAYS[way](keys, t);
}
