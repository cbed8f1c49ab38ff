/** Heads of openings: how high one is at a place across it. */

/** How high a curve rises over its springs, as a part of its width. */
export const RISES = { round: 0.5, pointed: Math.sqrt(3) / 2, low: 1 / 6, straight: 0 } as const;

interface Of {
	widthM: number;
	head: keyof typeof RISES;
}

/** Height of an opening over its sill at a place beside its middle, of one that is so high in all. Metres. */
export function headAt({ widthM, head }: Of, besideM: number, tallM: number): number {
	const half = widthM / 2;
	const rise = Math.min(RISES[head] * widthM, tallM);
	if (rise === 0) return tallM;
	const x = Math.min(half, Math.abs(besideM));
	const spring = tallM - rise;
	if (head === "round") return spring + rise * Math.sqrt(Math.max(0, 1 - (x / half) ** 2));
	// A point that is cut short by the wall's top is a low bow.
	if (head === "low" || rise < half) {
		const radius = (half * half + rise * rise) / (2 * rise);
		return spring + Math.sqrt(Math.max(0, radius * radius - x * x)) - (radius - rise);
	}
	// Two arcs about the springs' line, each through one spring and the point between them.
	const radius = (half * half + rise * rise) / (2 * half);
	return spring + Math.sqrt(Math.max(0, radius * radius - (x + radius - half) ** 2));
}
