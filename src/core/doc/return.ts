/** A return to an earlier state of a shot: an edit of its own, whose patches put every field as it was then. */
import type { Patch } from "./edits.ts";

export const RETURN = "shot.return";

export interface Return {
	name: typeof RETURN;
	/** The revision whose document the shot has again. */
	to: number;
}

type Fields = Record<string, unknown>;

const put = (key: string, from: Fields, to: Fields): Patch =>
	key in to ? { op: key in from ? "replace" : "add", path: [key], value: to[key] } : { op: "remove", path: [key] };

/** Patches from one document to another and back: whole fields, those that differ. */
export function patchesBetween(before: object, after: object): { forward: Patch[]; inverse: Patch[] } {
	const [a, b] = [before as Fields, after as Fields];
	const keys = [...new Set([...Object.keys(a), ...Object.keys(b)])].filter(
		(key) => JSON.stringify(a[key]) !== JSON.stringify(b[key]),
	);
	return { forward: keys.map((k) => put(k, a, b)), inverse: keys.map((k) => put(k, b, a)) };
}
