/** Sheets that lie on surfaces of a scene. */

import { isSeen } from "../doc/acts.ts";
import type { Laid, LaidOver, ShotDocument } from "../doc/schema.ts";
import { DEG } from "../maths/functions.ts";
import { keyOf } from "../maths/hash.ts";
import { surfacesOf } from "../shape/shapes.ts";
import { isSurface } from "../surface/laying.ts";
import { SHOT_TEXELS, TEXEL_WORDS, texelsOf } from "../surface/sheet.ts";
import { SURFACES, type SurfaceKind } from "../surface/surfaces.ts";
import { whereOf } from "../surface/where/wheres.ts";
import type { SheetWork } from "./inputs.ts";
import { CODE, type Making, type Steps, whenMade } from "./making.ts";
import type { SceneLayer } from "./scene.ts";

/** What says which sheet it is. */
type Of = Pick<Laid, "of" | "seed">;

function* sheetsOf(laid: Laid | null | undefined): Generator<Of> {
	if (!laid) return;
	yield laid;
	yield* laid.over ?? [];
}

/** All that is laid in a shot and seen. */
function* laidIn({ pieces, ground, groundLaid }: ShotDocument): Generator<Of> {
	if (!ground.out) yield* sheetsOf(groundLaid);
	for (const piece of pieces) {
		if (!isSeen(piece)) continue;
		for (const { laid } of [piece.surface, ...surfacesOf(piece.shape)]) yield* sheetsOf(laid);
	}
}

const keys = new Map<string, string>();

/** A sheet's part; thousands of pieces ask for a few. */
function sheetKey(of: SurfaceKind, seed: number): string {
	const asked = `${of} ${seed}`;
	let key = keys.get(asked);
	if (!key) {
		key = keyOf("sheet", CODE, of, seed, SHOT_TEXELS);
		keys.set(asked, key);
	}
	return key;
}

/** The most that the sheets of a shot may take, MiB, and what one takes. */
const MOST_MIB = 1024;
const SHEET_MIB = (4 * TEXEL_WORDS * texelsOf(SHOT_TEXELS)) / 2 ** 20;

/** Refuses in words what takes too much, and tells which surface most. */
function checkRoom(sheets: ReadonlyMap<string, SheetWork>): void {
	if (sheets.size * SHEET_MIB <= MOST_MIB) return;
	const counts = new Map<string, number>();
	for (const { of } of sheets.values()) counts.set(of, (counts.get(of) ?? 0) + 1);
	const [[most, seeds]] = [...counts].sort((a, b) => b[1] - a[1]);
	throw new Error(
		`The surfaces of this shot would take ${Math.round(sheets.size * SHEET_MIB).toLocaleString("en")} MiB; ${MOST_MIB.toLocaleString("en")} are the most. ${sheets.size} different ones are laid, "${most}" from ${seeds} ${seeds === 1 ? "seed" : "seeds"}: the same surface from the same seed takes its room once.`,
	);
}

/** Has all sheets baked that lie in the shot, each once. Throws in words when they take too much. */
export function* compileSheets(making: Making): Steps<void> {
	const unknown = new Set<string>();
	const sheets = new Map<string, SheetWork>();
	for (const { of, seed } of laidIn(making.doc))
		if (isSurface(of)) sheets.set(sheetKey(of, seed), { of, seed, texels: SHOT_TEXELS });
		else unknown.add(of);
	checkRoom(sheets);
	for (const [key, work] of sheets) {
		const { of } = work;
		const sheet = making.cache.has(key) ? null : yield* whenMade(making.makers.sheet(key, work));
		making.part("sheet", key, () => {
			if (!sheet) throw new Error(`The sheet of "${of}" is not at hand.`);
			return { sheet };
		});
	}
	making.unknownSurfaces.push(...unknown);
}

/** How sheets lie, the lowest first; those that are not known any more are left out. */
export function layersOn(laid: Laid | null | undefined, world: boolean): readonly SceneLayer[] | null {
	if (!laid) return null;
	const alone: LaidOver = { ...laid, share: 1, where: [] };
	const layers = [alone, ...(laid.over ?? [])].flatMap((over) => layerOf(over, world));
	return layers.length > 0 ? layers : null;
}

function layerOf({ of, share, where, ...laid }: LaidOver, world: boolean): SceneLayer[] {
	if (!isSurface(of)) return [];
	const { seed, turnDeg, acrossM, reliefMm, tint, wet } = laid;
	const lies = { seed, acrossM, turn: turnDeg * DEG, depthM: reliefMm / 1000, tint, wet, world, share };
	const bands = where.map((one) => whereOf(one).band(one));
	return [{ sheet: sheetKey(of, seed), grain: SURFACES[of].grain, ...lies, where: bands }];
}
