/** Lamps of a scene with their bodies. */
import type { LampKind } from "../doc/schema.ts";
import { coneCosines } from "../light/cone.ts";
import { LAMPS } from "../light/lamp.ts";
import { bodyTransform, halfMeasures, hasBody, lampColour, lampPlaces, lampStrength, shining } from "../light/lamps.ts";
import { lightLayers } from "../light/layers.ts";
import { keyOf } from "../maths/hash.ts";
import type { Mesh } from "../maths/mesh.ts";
import type { Vec3 } from "../maths/vec.ts";
import { pieceFrames } from "../shape/place.ts";
import { FIRST_PIECE } from "./ids.ts";
import { CODE, type Making } from "./making.ts";
import type { Material } from "./scene.ts";

/** More lights than this would take the tree over them longer to build than a person waits. */
const MOST_LIGHTS = 100_000;

const BLACK: Material = { colour: [0, 0, 0], roughness: 1, metal: 1, translucency: 0 };

export function compileLamps(making: Making): void {
	const { doc, draws, lights } = making;
	const shown = new Set(shining(doc.lamps));
	const { ofLamp } = lightLayers(doc);
	const black = shown.size > 0 ? making.material(BLACK) : -1;
	const pieces = new Map(shown.size > 0 ? doc.pieces.map((p) => [p.id, p]) : []);
	for (const [i, lamp] of doc.lamps.entries()) {
		if (!shown.has(lamp) || lamp.strength.value === 0) continue;
		const carrier = lamp.carriedBy === null ? undefined : pieces.get(lamp.carriedBy);
		if (carrier?.hidden) continue;
		const id = FIRST_PIECE + doc.pieces.length + doc.covers.length + i;
		const colour = lampColour(lamp);
		const strength = lampStrength(lamp);
		const { shape } = LAMPS[lamp.kind];
		const half = halfMeasures(lamp);
		const body = hasBody(lamp);
		for (const place of lampPlaces(lamp, doc, carrier ? pieceFrames(carrier, doc) : [])) {
			const rgb: Vec3 = [colour[0] * strength, colour[1] * strength, colour[2] * strength];
			const draw = body ? draws.length : -1;
			lights.push({ shape, layer: ofLamp.get(lamp.id) ?? 0, ...place, half, ...coneCosines(lamp), rgb, id, draw });
			if (!body) continue;
			const transform = bodyTransform(lamp, place);
			draws.push({ mesh: bodyOf(lamp.kind, making), transform, material: black, id, light: lights.length - 1 });
		}
	}
	if (lights.length > MOST_LIGHTS)
		throw new Error(
			`There are ${lights.length.toLocaleString("en")} lights with all repeats; a shot may have ${MOST_LIGHTS.toLocaleString("en")}. Let fewer copies carry lamps or glow.`,
		);
}

const bodyOf = (kind: LampKind, making: Making): string =>
	making.part("mesh", keyOf("lamp", CODE, kind), () => ({ mesh: (LAMPS[kind].body as () => Mesh)() })).key;
