/** Figures as words, and names for what is new. */

export const metres = (m: number): string =>
	m >= 1000
		? `${(m / 1000).toFixed(m >= 10_000 ? 0 : 1)} km`
		: m >= 100
			? `${m.toFixed(0)} m`
			: m >= 10
				? `${m.toFixed(1)} m`
				: `${m.toFixed(2)} m`;

/** A share of the frame, in percent, of what lies in it: null before it has been counted, none of what something hides. */
export const shareWords = (percent: number | null): string =>
	percent === null
		? "not counted yet"
		: percent === 0
			? "hidden"
			: percent < 0.05
				? "below 0.1 %"
				: `${percent.toFixed(1)} %`;

export const clock = (seconds: number): string =>
	seconds < 90
		? `${Math.max(1, Math.round(seconds))} s`
		: seconds < 5400
			? `${Math.round(seconds / 60)} min`
			: `${(seconds / 3600).toFixed(1)} h`;

export const newId = (): string => crypto.randomUUID().slice(0, 8);
