/** What a baked sheet is kept by: the digest of all that it is made from. */
import { keyOf } from "../maths/hash.ts";
import { programOf } from "./program.ts";
import { SURFACES, type SurfaceKind } from "./surfaces.ts";

/** Raised when what bakes sheets makes others of the same recipes. */
const BAKING = 1;

const names = new Map<string, string>();

/** A name for files and addresses: letters and digits alone. */
export function sheetName({ of, seed, texels }: { of: SurfaceKind; seed: number; texels: number }): string {
	const asked = `${of}|${seed}|${texels}`;
	let name = names.get(asked);
	if (!name) {
		name = keyOf("", BAKING, programOf(SURFACES[of], seed), SURFACES[of].sideM, texels).slice(1);
		names.set(asked, name);
	}
	return name;
}
