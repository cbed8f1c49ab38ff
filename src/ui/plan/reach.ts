/** Metres that plan and section show ahead of the lens: as far as most pieces lie. */
export function reachOf(distances: number[]): number {
	const sorted = distances.filter((d) => d > 1).sort((a, b) => a - b);
	return Math.min(2000, Math.max(12, (sorted[Math.floor(sorted.length * 0.75)] ?? 40) * 1.25));
}
