/** Sheets that lie on surfaces of a scene. */

import { isSeen } from "../doc/acts.ts";
import type { Laid, ShotDocument } from "../doc/schema.ts";
import { DEG } from "../maths/functions.ts";
import { keyOf } from "../maths/hash.ts";
import { surfacesOf } from "../shape/shapes.ts";
import { isSurface } from "../surface/laying.ts";
import { SHOT_TEXELS } from "../surface/sheet.ts";
import { SURFACES } from "../surface/surfaces.ts";
import { CODE, type Making, type Steps, whenMade } from "./making.ts";
import type { SceneLayer } from "./scene.ts";

/** All that is laid in a shot and seen. */
function* laidIn({ pieces, ground, groundLaid }: ShotDocument): Generator<Laid> {
	if (groundLaid && !ground.out) yield groundLaid;
	for (const piece of pieces) {
		if (!isSeen(piece)) continue;
		for (const { laid } of [piece.surface, ...surfacesOf(piece.shape)]) if (laid) yield laid;
	}
}

const sheetKey = ({ of, seed }: Laid): string => keyOf("sheet", CODE, of, seed, SHOT_TEXELS);

/** Has all sheets baked that lie in the shot, each once. */
export function* compileSheets(making: Making): Steps<void> {
	const unknown = new Set<string>();
	for (const laid of laidIn(making.doc)) {
		const { of, seed } = laid;
		if (!isSurface(of)) {
			unknown.add(of);
			continue;
		}
		const key = sheetKey(laid);
		if (making.parts.has(key)) continue;
		const sheet = making.cache.has(key)
			? null
			: yield* whenMade(making.makers.sheet(key, { of, seed, texels: SHOT_TEXELS }));
		making.part("sheet", key, () => {
			if (!sheet) throw new Error(`The sheet of "${of}" is not at hand.`);
			return { sheet };
		});
	}
	making.unknownSurfaces.push(...unknown);
}

/** How a sheet lies; null where none does, or where its surface is not known any more. */
export function layerOf(laid: Laid | null | undefined, world: boolean): SceneLayer | null {
	if (!laid || !isSurface(laid.of)) return null;
	const { of, seed, turnDeg, acrossM, reliefMm, tint, wet } = laid;
	const { grain } = SURFACES[of];
	return {
		sheet: sheetKey(laid),
		grain,
		seed,
		acrossM,
		turn: turnDeg * DEG,
		depthM: reliefMm / 1000,
		tint,
		wet,
		world,
	};
}
