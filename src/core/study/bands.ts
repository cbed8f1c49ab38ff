/** Bands of distance from the lens by which a picture is spoken of, metres. */
export const BANDS = [
	{ band: "near", fromM: 0, toM: 10 },
	{ band: "middle", fromM: 10, toM: 300 },
	{ band: "far", fromM: 300, toM: Number.POSITIVE_INFINITY },
] as const;
export type Band = (typeof BANDS)[number]["band"];
