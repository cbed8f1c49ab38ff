/**
 * A tree over the lights of a scene, by which the tracer picks one with a chance near its share of the light at a
 * place (Conty Estevez and Kulla 2018, "Importance sampling of many lights with adaptive tree splitting"). Nodes hold a
 * sphere about their lights, a cone about their directions, and their strength; splits keep strength, size and spread
 * of directions of both halves low.
 */
import { acos, cos, sin } from "../maths/functions.ts";
import { cross, dot, length, normalize, scale, type Vec3 } from "../maths/vec.ts";

export interface LightBounds {
	low: Vec3;
	high: Vec3;
	/** Directions lie within `spread` of the axis and light leaves within `emission` of each, both in radians. */
	axis: Vec3;
	spread: number;
	emission: number;
	/** Candela towards its brightest side. */
	strength: number;
}

/** Words of a node: centre, radius, axis, cos and sin of the spread, cos of the emission, strength, then whole numbers. */
export const NODE_WORDS = 16;
export const NODE_LEFT = 11;
export const NODE_RIGHT = 12;
export const NODE_PARENT = 13;
export const NODE_LIGHT = 14;
export const NONE = 0xffffffff;

export interface LightTree {
	/** NODE_WORDS words a node, the root first; the last five are whole numbers. */
	nodes: Float32Array;
	/** Node of each light. */
	leafOf: Uint32Array;
}

const BINS = 12;

/** Smallest cone about two cones. */
function joinCones(a: LightBounds, b: LightBounds): { axis: Vec3; spread: number } {
	const [wide, narrow] = a.spread >= b.spread ? [a, b] : [b, a];
	const between = acos(Math.max(-1, Math.min(1, dot(wide.axis, narrow.axis))));
	if (Math.min(between + narrow.spread, Math.PI) <= wide.spread) return { axis: wide.axis, spread: wide.spread };
	const spread = (wide.spread + between + narrow.spread) / 2;
	const about = cross(wide.axis, narrow.axis);
	if (spread >= Math.PI || length(about) < 1e-9) return { axis: wide.axis, spread: Math.PI };
	// Turn the wide axis towards the narrow one by what the cone grew.
	const turn = spread - wide.spread;
	const side = normalize(cross(normalize(about), wide.axis));
	const [c, s] = [cos(turn), sin(turn)];
	return {
		axis: normalize([wide.axis[0] * c + side[0] * s, wide.axis[1] * c + side[1] * s, wide.axis[2] * c + side[2] * s]),
		spread,
	};
}

function join(a: LightBounds, b: LightBounds): LightBounds {
	return {
		low: [Math.min(a.low[0], b.low[0]), Math.min(a.low[1], b.low[1]), Math.min(a.low[2], b.low[2])],
		high: [Math.max(a.high[0], b.high[0]), Math.max(a.high[1], b.high[1]), Math.max(a.high[2], b.high[2])],
		...joinCones(a, b),
		emission: Math.max(a.emission, b.emission),
		strength: a.strength + b.strength,
	};
}

/** How much a group costs: strength times extent times the solid angle that it shines into. */
function cost(b: LightBounds): number {
	const w = Math.min(b.spread + b.emission, Math.PI);
	const [so, co] = [sin(b.spread), cos(b.spread)];
	const angle = 2 * Math.PI * (1 - co) + (Math.PI / 2) * (2 * w * so - cos(b.spread - 2 * w) - 2 * b.spread * so + co);
	const d = [0, 1, 2].map((c) => b.high[c] - b.low[c]);
	return b.strength * angle * (d[0] * d[0] + d[1] * d[1] + d[2] * d[2] + 1e-6);
}

const middle = (b: LightBounds, axis: number) => (b.low[axis] + b.high[axis]) / 2;

/** Where to cut a range of lights, sorted in place; the number of lights in its first half. */
function cut(lights: LightBounds[], order: Uint32Array, begin: number, end: number): number {
	let best = { cost: Number.POSITIVE_INFINITY, axis: -1, edge: 0 };
	for (let axis = 0; axis < 3; axis++) {
		let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
		for (let i = begin; i < end; i++) {
			low = Math.min(low, middle(lights[order[i]], axis));
			high = Math.max(high, middle(lights[order[i]], axis));
		}
		if (high - low < 1e-6) continue;
		const bins: (LightBounds | null)[] = new Array(BINS).fill(null);
		for (let i = begin; i < end; i++) {
			const b = lights[order[i]];
			const k = Math.min(BINS - 1, Math.floor(((middle(b, axis) - low) / (high - low)) * BINS));
			const old = bins[k];
			bins[k] = old ? join(old, b) : b;
		}
		for (let k = 1; k < BINS; k++) {
			const gather = (part: (LightBounds | null)[]) => part.reduce((a, b) => (a && b ? join(a, b) : (a ?? b)), null);
			const left = gather(bins.slice(0, k));
			const right = gather(bins.slice(k));
			if (!left || !right) continue;
			const sum = cost(left) + cost(right);
			if (sum < best.cost) best = { cost: sum, axis, edge: low + ((high - low) * k) / BINS };
		}
	}
	const part = order.subarray(begin, end);
	if (best.axis < 0) return (end - begin) >> 1;
	const { axis, edge } = best;
	const first = part.filter((i) => middle(lights[i], axis) < edge);
	const rest = part.filter((i) => middle(lights[i], axis) >= edge);
	if (first.length === 0 || rest.length === 0) return (end - begin) >> 1;
	part.set(first);
	part.set(rest, first.length);
	return first.length;
}

/** Builds the tree. Lights without strength must have been left out. */
export function buildLightTree(lights: LightBounds[]): LightTree {
	const count = Math.max(1, 2 * lights.length - 1);
	const nodes = new Float32Array(count * NODE_WORDS);
	const whole = new Uint32Array(nodes.buffer);
	const leafOf = new Uint32Array(lights.length);
	const order = Uint32Array.from(lights, (_, i) => i);
	let used = 0;
	const build = (begin: number, end: number, parent: number): { at: number; bounds: LightBounds } => {
		const at = used++;
		const w = at * NODE_WORDS;
		let bounds: LightBounds;
		if (end - begin === 1) {
			bounds = lights[order[begin]];
			leafOf[order[begin]] = at;
			whole.set([NONE, NONE, parent, order[begin]], w + NODE_LEFT);
		} else {
			const half = begin + cut(lights, order, begin, end);
			const left = build(begin, half, at);
			const right = build(half, end, at);
			bounds = join(left.bounds, right.bounds);
			whole.set([left.at, right.at, parent, NONE], w + NODE_LEFT);
		}
		const centre = scale(
			[bounds.low[0] + bounds.high[0], bounds.low[1] + bounds.high[1], bounds.low[2] + bounds.high[2]],
			0.5,
		);
		const radius = length([bounds.high[0] - centre[0], bounds.high[1] - centre[1], bounds.high[2] - centre[2]]);
		nodes.set(
			[
				...centre,
				radius,
				...bounds.axis,
				cos(bounds.spread),
				sin(bounds.spread),
				cos(Math.min(Math.PI, bounds.emission)),
				bounds.strength,
			],
			w,
		);
		return { at, bounds };
	};
	if (lights.length > 0) build(0, lights.length, NONE);
	return { nodes, leafOf };
}
