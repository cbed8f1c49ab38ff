/** Where the copies of a repeated piece stand beside it. */
import type { Repeat, RepeatKind, Single } from "../doc/schema/repeat.ts";
import { lengthAlong, placeAlong, placesAlong } from "../maths/curve.ts";
import { atan2, cos, DEG, sin, wrapDeg } from "../maths/functions.ts";
import { hash01 } from "../maths/hash.ts";

/** A copy beside its piece, in the piece's own directions as its heading gives them; metres, degrees clockwise. */
export interface Copy {
	/** Its number among all, those left out counted too. */
	copy: number;
	right: number;
	up: number;
	away: number;
	turnDeg: number;
	/** Its size as a multiple of the piece's. */
	size: number;
	/** Which of the seeds of its shape it has; 0 the piece's own. */
	variant: number;
	/** As a mirror shows it: its right is the piece's left. */
	mirrored: boolean;
}

const ITSELF: Copy = { copy: 0, right: 0, up: 0, away: 0, turnDeg: 0, size: 1, variant: 0, mirrored: false };

type Of<K extends RepeatKind> = Extract<Repeat, { kind: K }>;

/** What there is to know of a kind of repeat. */
interface Kind<K extends RepeatKind> {
	count: (repeat: Of<K>) => number;
	place: (repeat: Of<K>, copy: number) => Partial<Copy>;
	/** The same repeat with all its lengths a multiple of what they were. */
	scaled: (repeat: Of<K>, by: number) => Of<K>;
}

const both = ([a, b]: readonly [number, number], by: number): [number, number] => [a * by, b * by];

const known = new WeakMap<Of<"along">, { places: (readonly number[])[]; far: number }>();

/** The line of a repeat, kept for all of its copies. */
function placesOf(repeat: Of<"along">) {
	let line = known.get(repeat);
	if (!line) {
		const places = placesAlong(repeat.points, false);
		line = { places, far: lengthAlong(places, false) };
		known.set(repeat, line);
	}
	return line;
}

const KINDS: { [K in RepeatKind]: Kind<K> } = {
	row: {
		count: (r) => r.count,
		place: ({ step }, i) => ({ right: step[0] * i, away: step[1] * i }),
		scaled: (r, by) => ({ ...r, step: both(r.step, by) }),
	},
	field: {
		count: (r) => r.columns * r.rows,
		place: ({ columns, step }, i) => ({ right: step[0] * (i % columns), away: step[1] * Math.floor(i / columns) }),
		scaled: (r, by) => ({ ...r, step: both(r.step, by) }),
	},
	ring: {
		count: (r) => r.count,
		place: ({ count, centre: [right, away], arcDeg, turned }, i) => {
			const each = arcDeg >= 360 ? 360 / count : arcDeg / Math.max(1, count - 1);
			const [c, s] = [cos(i * each * DEG), sin(i * each * DEG)];
			return {
				right: right - right * c - away * s,
				away: away + right * s - away * c,
				turnDeg: turned ? i * each : 0,
			};
		},
		scaled: (r, by) => ({ ...r, centre: both(r.centre, by) }),
	},
	along: {
		count: (r) => r.count,
		place: (r, i) => {
			const { places, far } = placesOf(r);
			const { at, way } = placeAlong(places, (far * i) / Math.max(1, r.count - 1));
			const begun = placeAlong(places, 0).way;
			const turnDeg = wrapDeg((atan2(way[0], way[1]) - atan2(begun[0], begun[1])) / DEG);
			return { right: at[0], away: at[1], turnDeg: r.turned ? turnDeg : 0 };
		},
		scaled: (r, by) => ({ ...r, points: r.points.map((p) => ({ ...p, at: both(p.at, by) })) }),
	},
	facing: {
		count: () => 2,
		place: ({ acrossM }, i) => ({ right: acrossM * i, mirrored: i === 1 }),
		scaled: (r, by) => ({ ...r, acrossM: r.acrossM * by }),
	},
};

const kindOf = (repeat: Repeat) => KINDS[repeat.kind] as Kind<RepeatKind>;

/** How many there are, those left out counted too. */
export const countOf = (repeat: Repeat | null): number => (repeat ? kindOf(repeat).count(repeat) : 1);

/** The same repeat with all its lengths a multiple of what they were. */
export function scaledRepeat(repeat: Repeat | null, by: number): Repeat | null {
	if (!repeat) return null;
	const { singles, ...rest } = kindOf(repeat).scaled(repeat, by);
	if (!singles) return rest;
	const far = (s: Single): Single => ({ ...s, ...(s.by && { by: [s.by[0] * by, s.by[1] * by, s.by[2] * by] }) });
	return { ...rest, singles: singles.map(far) };
}

/** A repeat whose copy of a number has this of its own, beside what it has; one that has nothing of its own is none. */
export function withSingle(repeat: Repeat, change: Single): Repeat {
	const own: Single = { ...repeat.singles?.find((s) => s.copy === change.copy), ...change };
	const { copy, ...rest } = JSON.parse(JSON.stringify(own)) as Single;
	const others = repeat.singles?.filter((s) => s.copy !== copy) ?? [];
	const singles = Object.keys(rest).length ? [...others, { copy, ...rest }] : others;
	const { singles: _, ...bare } = repeat;
	return (singles.length ? { ...bare, singles } : bare) as Repeat;
}

/** All copies, those left out too. The first is the piece itself, which chance leaves as it is. */
export function everyCopy(repeat: Repeat | null): Copy[] {
	if (!repeat) return [ITSELF];
	const { count, place } = kindOf(repeat);
	const { vary, singles = [] } = repeat;
	const moved = new Map(singles.map((s) => [s.copy, s.by]));
	return Array.from({ length: count(repeat) }, (_, copy) => {
		const c: Copy = { ...ITSELF, ...place(repeat, copy), copy };
		const [right, up, away] = moved.get(copy) ?? [0, 0, 0];
		const varied = copy > 0 && vary;
		return {
			...c,
			right: c.right + right,
			up: c.up + up,
			away: c.away + away,
			turnDeg: c.turnDeg + (varied ? vary.turnDeg * either(copy, 2, vary.seed) : 0),
			size: varied ? 1 + vary.size * either(copy, 3, vary.seed) : 1,
			variant: varied && vary.seeds ? Math.floor(hash01(copy, 4, vary.seed) * vary.seeds) : 0,
		};
	});
}

/** Chance between −1 and 1. */
const either = (copy: number, of: number, seed: number): number => 2 * hash01(copy, of, seed) - 1;

/** All copies that stand there. */
export function copiesOf(repeat: Repeat | null): Copy[] {
	const all = everyCopy(repeat);
	const { vary, singles } = repeat ?? {};
	if (!vary?.drop && !singles) return all;
	const out = new Set(singles?.flatMap((s) => (s.out ? [s.copy] : [])));
	return all.filter(({ copy }) => !out.has(copy) && !(copy && vary && hash01(copy, 1, vary.seed) < vary.drop));
}
