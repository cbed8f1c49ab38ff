/** The table of a scene's materials, as tracer and working view both read it: one record each, of the tracer's layout. */
import type { Material } from "./scene.ts";

/** Numbers of a record. */
export const MATERIAL_NUMBERS = 20;

/** Kinds of glass by their numbers: none, a body that bends light, a pane that lets it straight through, a surface of water. */
export const GLASS = { none: 0, body: 1, pane: 2, water: 3 } as const;

/** What the coat's roughness is where nothing is said of it. */
const COAT_ROUGHNESS = 0.1;
const INDEX = 1.5;

/**
 * Records one after the other: colour (3), roughness, metal, translucency, coat and its roughness, kind of glass, index of
 * refraction, tint of the glass (3), the number of the first
 * layer that lies on it, counted from 1, 0 for none, how many, whether it is cut out by the first, glow (3, cd/m²), how water runs.
 */
export function materialTable(materials: readonly Material[]): Float32Array<ArrayBuffer> {
	let first = 1;
	const table = new Float32Array(materials.length * MATERIAL_NUMBERS);
	materials.forEach((m, i) => {
		const { glass } = m;
		const kind = !glass ? GLASS.none : glass.water ? GLASS.water : glass.pane ? GLASS.pane : GLASS.body;
		const surface = [...m.colour, m.roughness, m.metal, m.translucency, m.coat ?? 0, m.coatRoughness ?? COAT_ROUGHNESS];
		const through = [kind, glass?.index ?? INDEX, ...(glass?.tint ?? [0, 0, 0])];
		const last = [...(m.glow ?? [0, 0, 0]), glass?.runs ?? 0];
		const layers = m.layers?.length ?? 0;
		table.set([...surface, ...through, layers && first, layers, m.cut ? 1 : 0, ...last], i * MATERIAL_NUMBERS);
		first += layers;
	});
	return table;
}
