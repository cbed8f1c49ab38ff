/** Surfaces made brighter, darker or of another tone, whatever lies on them. */
import type { Laid, LaidOver, Surface } from "../doc/schema.ts";
import type { Vec3 } from "../maths/vec.ts";
import { isSurface } from "./laying.ts";
import { LOOKS_LIKE } from "./likeness.ts";

const MOST = 50;
const LEAST = 0.01;

const times = (a: readonly number[], b: readonly number[]): Vec3 => [a[0] * b[0], a[1] * b[1], a[2] * b[2]];
const within = (v: readonly number[], least: number, most: number): [number, number, number] =>
	v.map((x) => Math.min(most, Math.max(least, Number(x.toPrecision(5))))) as [number, number, number];

const shaded = <L extends Laid | LaidOver>(laid: L, factor: Vec3): L => ({
	...laid,
	shade: within(times(laid.shade ?? [1, 1, 1], factor), LEAST, MOST),
});

/** All that lies there, times a colour. */
export const laidTimes = ({ over, ...laid }: Laid, factor: Vec3): Laid => ({
	...shaded(laid, factor),
	...(over && { over: over.map((own) => shaded(own, factor)) }),
});

/** What of a surface changes when its colour is to be so many times what it is. */
export const surfaceTimes = ({ colour, laid, faces }: Surface, factor: Vec3): Partial<Surface> => ({
	...(laid ? { laid: laidTimes(laid, factor) } : { colour: within(times(colour, factor), 0, 1) }),
	...(faces && { faces: faces.map((own) => ({ ...own, laid: own.laid && laidTimes(own.laid, factor) })) }),
});

/** The mean colour of what lies on something of this colour. */
export function laidColour(laid: Laid, colour: Vec3): Vec3 {
	const own = isSurface(laid.of) ? LOOKS_LIKE[laid.of]?.colour : null;
	const mean = own ? own.map((v, c) => v + laid.tint * (colour[c] - v)) : colour;
	return times(mean, laid.shade ?? [1, 1, 1]);
}

/** The mean colour of a surface, as it is seen from afar under white light. */
export const ownColour = ({ colour, laid }: Surface): Vec3 => (laid ? laidColour(laid, colour) : colour);
