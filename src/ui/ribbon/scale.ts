/** The ribbon's scale: distance from the lens along its width, logarithmic, between two ends that can be drawn together. */
export const NEAR = 0.5;
export const FAR = 30_000;
export const SIDE = 14;

export interface Span {
	fromM: number;
	toM: number;
}

export const WHOLE: Span = { fromM: NEAR, toM: FAR };

export const xOf = (m: number, { fromM, toM }: Span, width: number): number =>
	SIDE + (Math.log(Math.max(1e-3, m) / fromM) / Math.log(toM / fromM)) * (width - 2 * SIDE);

export const metresAt = (x: number, { fromM, toM }: Span, width: number): number =>
	fromM * (toM / fromM) ** ((x - SIDE) / (width - 2 * SIDE));

/** The span enlarged about a distance; never beyond the whole, never less than a factor of 1.3 between its ends. */
export function zoomed(span: Span, factor: number, aboutM: number): Span {
	const whole = Math.log(FAR / NEAR);
	const length = Math.min(whole, Math.max(Math.log(1.3), Math.log(span.toM / span.fromM) / factor));
	const share = Math.log(aboutM / span.fromM) / Math.log(span.toM / span.fromM);
	return inside(Math.log(aboutM) - share * length, length);
}

/** The span moved so that what was at one distance comes to lie at another. */
export const moved = (span: Span, fromM: number, toM: number): Span =>
	inside(Math.log(span.fromM) + Math.log(fromM / toM), Math.log(span.toM / span.fromM));

function inside(start: number, length: number): Span {
	const from = Math.min(Math.log(FAR) - length, Math.max(Math.log(NEAR), start));
	return { fromM: Math.exp(from), toM: Math.exp(from + length) };
}

/** Round distances to be marked, about `most` of them. */
export function ticks({ fromM, toM }: Span, most: number): number[] {
	for (const steps of [
		[1, 1.2, 1.5, 2, 2.5, 3, 4, 5, 6, 7, 8, 9],
		[1, 1.5, 2, 3, 4, 5, 7],
		[1, 2, 3, 5],
		[1, 3],
		[1],
	]) {
		const found: number[] = [];
		for (let e = -1; e <= 4; e++)
			for (const s of steps)
				if (s * 10 ** e >= fromM * 0.999 && s * 10 ** e <= toM * 1.001)
					found.push(Number((s * 10 ** e).toPrecision(3)));
		if (found.length <= most) return found;
	}
	return [];
}
