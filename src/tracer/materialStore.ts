/** Materials of a scene, and what lies on them, in the tracer's memory. */

import type { Vec3 } from "../core/maths/vec.ts";
import { layerRecord, layersOf } from "../core/scene/layerTable.ts";
import { materialTable } from "../core/scene/materialTable.ts";
import type { Scene, SceneLayer } from "../core/scene/scene.ts";
import * as L from "./kernel/layout.ts";
import type { TracerMemory } from "./memory.ts";

/** Records of layers as they were last made: most stay what they are from edit to edit. */
const records = new WeakMap<SceneLayer, { origin: Vec3; record: number[] }>();

function recordOf(layer: SceneLayer, parts: Scene["parts"], origin: Vec3): number[] {
	const known = records.get(layer);
	if (known?.origin.every((v, c) => v === origin[c])) return known.record;
	const record = layerRecord(layer, parts, origin, 0, () => 0);
	records.set(layer, { origin, record });
	return record;
}

/**
 * Writes the records of materials and of their layers. `tableOf` tells where the words of a part lie; `taken` is told of what is to be released
 * with the scene besides the materials.
 * @returns The address of the materials.
 */
export function writeMaterials(
	m: TracerMemory,
	{ root: { materials, origin }, parts }: Scene,
	tableOf: (part: string) => number,
	taken: (at: number) => void,
): number {
	const layers = layersOf(materials);
	const at = m.put(materialTable(materials));
	if (layers.length === 0) return at;
	const recordsAt = m.allocate(layers.length * L.LY_SIZE_BYTES);
	taken(recordsAt);
	for (const [i, layer] of layers.entries()) {
		const record = recordsAt + i * L.LY_SIZE_BYTES;
		m.f32.set(recordOf(layer, parts, origin), record >> 2);
		m.u32[(record + L.LY_SHEET) >> 2] = tableOf(layer.sheet);
		for (const [n, { volume }] of layer.where.entries()) {
			const band = record + L.LY_BANDS + n * L.LY_BAND_BYTES;
			if (volume) m.u32[(band + L.BA_VOLUME) >> 2] = tableOf(volume.part);
		}
	}
	// Materials name their layers by number; here they lead to them.
	for (const [i, { layers: own }] of materials.entries()) {
		const word = (at + i * L.MAT_SIZE + L.MAT_LAYERS) >> 2;
		m.u32[word] = own ? recordsAt + (m.f32[word] - 1) * L.LY_SIZE_BYTES : 0;
	}
	return at;
}
