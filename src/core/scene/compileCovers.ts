/** Covers of a scene, cell by cell. */
import { candidatesOf, coverCells, placeCell, surroundingsOf } from "../dress/placeCover.ts";
import { PLANTS, VARIANTS } from "../dress/plant.ts";
import type { Surroundings } from "../dress/rules/rule.ts";
import { keyOf } from "../maths/hash.ts";
import { layersOn } from "./compileSheets.ts";
import { FIRST_PIECE } from "./ids.ts";
import { CODE, type Making, type Steps } from "./making.ts";

export function* compileCovers(making: Making): Steps<void> {
	// Plants stand still while the lens moves: rules speak of the still, of its pieces, and of all that is ever seen.
	const { whole, way } = making;
	for (const [i, cover] of whole.covers.entries()) {
		if (cover.hidden) continue;
		yield* compileCover(making, surroundingsOf(whole, cover, way), FIRST_PIECE + whole.pieces.length + i);
	}
}

function* compileCover(making: Making, around: Surroundings, id: number): Steps<void> {
	const { cache } = making;
	const { id: coverId, species } = around.cover;
	const plant = PLANTS[species];
	const meshes = Array.from(
		{ length: VARIANTS },
		(_, v) => making.part("mesh", keyOf("plant", CODE, species, v), () => ({ mesh: plant.grow(v) })).key,
	);
	const { roughness, translucency } = plant;
	const layers = layersOn(around.cover.laid, false, making.doc);
	const material = making.material({ colour: [1, 1, 1], roughness, metal: 0, translucency, ...(layers && { layers }) });
	const cells: string[] = [];
	let count = 0;
	for (const job of coverCells(around)) {
		const fresh = !cache.has(job.key);
		const candidates = () => cache.along(job.steady.key, () => candidatesOf(job, around));
		const part = cache.take("plants", job.key, () => ({ plants: placeCell(job, around, candidates()) }));
		if (fresh) yield;
		// What all other rules leave stays at hand where pieces reach, for the next one that moves there.
		else if (job.ofPieces.length) candidates();
		if (part.plants.count === 0) continue;
		making.keep(part);
		cells.push(part.key);
		count += part.plants.count;
	}
	making.covers.push({ coverId, cells, meshes, material, id, count });
}
