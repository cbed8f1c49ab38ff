/** Bands of clouds that cover a share of all places. */
import { type Band, NEVER } from "./where.ts";

/** How far the middle half of clouds lies about a half: a share is taken as if they were spread evenly between. */
const SPREAD = 0.62;

export function shareOfClouds(share: number, soft: number): Pick<Band, "of" | "rises" | "falls"> {
	const edge = 0.5 + SPREAD * (0.5 - share);
	const half = 0.02 + 0.25 * soft;
	return { of: "clouds", rises: [edge - half, edge + half], falls: [NEVER, 2 * NEVER] };
}
