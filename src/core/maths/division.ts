/**
 * The division model of radial bend (Fitzgibbon 2001): a place at d from the picture's centre belongs at
 * d / (1 + k·(|d|/R)²), with R half of the diagonal. k below 0 is a barrel.
 */

type Place = readonly [number, number];

/** Where a place of the bent picture belongs; both relative to the centre. */
export function straightened([x, y]: Place, k: number, radius: number): [number, number] {
	const s = 1 / (1 + (k * (x * x + y * y)) / (radius * radius));
	return [x * s, y * s];
}

/** Where a place of the straight picture lies in the bent one: the inverse of {@link straightened}. */
export function bent([x, y]: Place, k: number, radius: number): [number, number] {
	// Beyond what the model reaches (4·k·r² above 1) the farthest place that it does.
	const s = 2 / (1 + Math.sqrt(Math.max(0, 1 - (4 * k * (x * x + y * y)) / (radius * radius))));
	return [x * s, y * s];
}
