/** What land needs that is not told by one place alone: pictures, and squares that wear, made by the host in the ledger's order. */
import type { Ground } from "../doc/schema.ts";
import { heldField, holdField } from "../ground/field.ts";
import { landNeeds, landReads } from "../ground/height.ts";
import { heldPicture, holdPicture, keepPictures } from "../ground/pictures.ts";
import type { Makers } from "./inputs.ts";
import { type Steps, whenMade } from "./making.ts";

/** Cells whose heights are told between two looks at what is wanted. */
const AT_ONCE = 4096;

/** Makes what is not held yet; afterwards heights of this ground can be asked for. */
export function* settleLand(ground: Ground, makers: Pick<Makers, "land" | "picture">): Steps<void> {
	const reads = landReads(ground);
	for (const read of reads) if (!heldPicture(read)) holdPicture(read, yield* whenMade(makers.picture(read)));
	if (reads.length) keepPictures(reads);
	// Asked for anew each time: what an entry between two squares keeps of the land is told of the square that has just been made.
	for (let n = 0; n < landNeeds(ground).length; n++) {
		const { key, id, before, wear, x0, z0, stepM, cells } = landNeeds(ground)[n];
		if (heldField(key)) continue;
		const heightsM = new Float32Array(cells * cells);
		for (let at = 0; at < heightsM.length; at++) {
			const [i, j] = [at % cells, Math.floor(at / cells)];
			heightsM[at] = before(x0 + (i + 0.5) * stepM, z0 + (j + 0.5) * stepM);
			if (at % AT_ONCE === AT_ONCE - 1) yield;
		}
		const field = yield* whenMade(makers.land(key, { x0, z0, stepM, cells, heightsM, wear }));
		holdField(key, id, field);
	}
}
