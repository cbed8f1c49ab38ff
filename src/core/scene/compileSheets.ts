/** Sheets that lie on surfaces of a scene. */

import { isSeen } from "../doc/acts.ts";
import {
	ImageRole,
	type ImageSurface,
	type Laid,
	type LaidOver,
	MOST_LAID_WHERES,
	type ShotDocument,
	type Stain,
} from "../doc/schema.ts";
import type { LandPicture } from "../formats/landPicture.ts";
import { DEG } from "../maths/functions.ts";
import { keyOf } from "../maths/hash.ts";
import { surfacesOf } from "../shape/shapes.ts";
import { broughtBy, planesOf } from "../surface/brought.ts";
import { isSurface } from "../surface/laying.ts";
import { SHOT_TEXELS, TEXEL_WORDS, texelsOf } from "../surface/sheet.ts";
import { SURFACES, type SurfaceKind } from "../surface/surfaces.ts";
import { type Band, type Box, inBox } from "../surface/where/where.ts";
import { whereOf } from "../surface/where/wheres.ts";
import { reachFor } from "../volume/seams.ts";
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

type BroughtIn = Pick<ShotDocument, "imageSurfaces">;

/** All that is laid in a shot and seen. */
function* laidIn({ pieces, ground, groundLaid, covers, stains }: ShotDocument): Generator<Of> {
	if (!ground.out) yield* sheetsOf(groundLaid);
	for (const { laid } of stains ?? []) yield laid;
	for (const { hidden, laid } of covers) if (!hidden) yield* sheetsOf(laid);
	for (const piece of pieces) {
		if (!isSeen(piece)) continue;
		const { surface, shape } = piece;
		for (const { laid } of [surface, ...(surface.faces ?? []), ...surfacesOf(shape)]) yield* sheetsOf(laid);
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
function checkRoom(sheets: readonly string[]): void {
	if (sheets.length * SHEET_MIB <= MOST_MIB) return;
	const counts = new Map<string, number>();
	for (const of of sheets) counts.set(of, (counts.get(of) ?? 0) + 1);
	const [[most, seeds]] = [...counts].sort((a, b) => b[1] - a[1]);
	throw new Error(
		`The surfaces of this shot would take ${Math.round(sheets.length * SHEET_MIB).toLocaleString("en")} MiB; ${MOST_MIB.toLocaleString("en")} are the most. ${sheets.length} different ones are laid, "${most}" from ${seeds} ${seeds === 1 ? "seed" : "seeds"}: the same surface from the same seed takes its room once.`,
	);
}

const keyOfBrought = ({ name: _, id: __, sequence: ___, ...own }: ImageSurface): string =>
	keyOf("sheet", CODE, own, SHOT_TEXELS);

/** Has a surface of pictures read and packed. */
function* compileBrought(making: Making, own: ImageSurface): Steps<void> {
	const key = keyOfBrought(own);
	const pictures: Partial<Record<ImageRole, LandPicture>> = {};
	if (!making.cache.has(key))
		for (const role of ImageRole.options) {
			const file = own.files[role];
			if (file) pictures[role] = yield* whenMade(making.makers.picture(file));
		}
	const asked = Object.keys(pictures).length;
	const planes = () => planesOf(own, pictures, SHOT_TEXELS);
	const work = { sideM: own.sideM, highM: own.highM, texels: SHOT_TEXELS, planes };
	const sheet = asked > 0 ? yield* whenMade(making.makers.packed(key, work)) : null;
	making.part("sheet", key, () => {
		if (!sheet) throw new Error(`The pictures of the surface "${own.name}" are not at hand.`);
		return { sheet };
	});
}

/** Has all sheets baked that lie in the shot, each once. Throws in words when they take too much. */
export function* compileSheets(making: Making): Steps<void> {
	const unknown = new Set<string>();
	const sheets = new Map<string, SheetWork>();
	const brought = new Map<string, ImageSurface>();
	for (const { of, seed } of laidIn(making.doc))
		if (isSurface(of)) sheets.set(sheetKey(of, seed), { of, seed, texels: SHOT_TEXELS });
		else {
			const own = broughtBy(of, making.doc);
			if (own) brought.set(of, own);
			else unknown.add(of);
		}
	checkRoom([...[...sheets.values()].map(({ of }) => of), ...brought.keys()]);
	for (const [key, work] of sheets) {
		const { of } = work;
		const sheet = making.cache.has(key) ? null : yield* whenMade(making.makers.sheet(key, work));
		making.part("sheet", key, () => {
			if (!sheet) throw new Error(`The sheet of "${of}" is not at hand.`);
			return { sheet };
		});
	}
	for (const own of brought.values()) yield* compileBrought(making, own);
	making.unknownSurfaces.push(...unknown);
}

/** The ground's surface where it climbs on a piece, within so many metres over the ground. */
export function earthOn(doc: ShotDocument, blendM: number): readonly SceneLayer[] {
	const { ground, groundLaid } = doc;
	if (ground.out || !groundLaid || blendM === 0) return [];
	const reachM = reachFor(blendM);
	const most = Math.min(0.999, blendM / reachM);
	const band: Band = { of: "volume", rises: [-2, -1], falls: [0, most], asks: { kind: "land", reachM } };
	return layerOf({ ...groundLaid, tint: 0, share: 1, where: [] }, true, doc).map((layer) => ({
		...layer,
		where: [band],
	}));
}

/** What lies on a piece besides its own surface, and the front that a picture which stands once fills where no place is told. */
export interface Along {
	stains?: readonly Stain[];
	earth?: readonly SceneLayer[];
	front?: Box;
	/** The body is only where the first that lies on it is there. */
	cut?: boolean;
}

/** How sheets lie, the lowest first, then the ground's and stains over them; those that are not known any more are left out. */
export function layersOn(
	laid: Laid | null | undefined,
	world: boolean,
	doc: BroughtIn,
	{ stains = [], earth = [], front, cut }: Along = {},
): readonly SceneLayer[] | null {
	const own = laid ? [{ ...laid, share: 1, where: [] }, ...(laid.over ?? [])] : [];
	const under = own.slice(0, 1).flatMap((first) => layerOf(first, world, doc, front));
	if (cut && under[0]?.once) under[0] = { ...under[0], once: { ...under[0].once, as: "cut" } };
	const layers = [
		...under,
		...own.slice(1).flatMap((over) => layerOf(over, world, doc, front)),
		...earth,
		...stains.flatMap((stain) => layerOf(stain.laid, true, doc)),
	];
	if ((under.length === 0 || under[0].once) && layers.length > 0) layers[0] = { ...layers[0], bare: true };
	return layers.length > 0 ? layers : null;
}

function layerOf({ of, share, where, ...laid }: LaidOver, world: boolean, doc: BroughtIn, front?: Box): SceneLayer[] {
	const own = isSurface(of) ? null : broughtBy(of, doc);
	if (!isSurface(of) && !own) return [];
	const { seed, turnDeg, acrossM, reliefMm, thickMm, tint, wet, shade, rougher, worn, dirt } = laid;
	const lies = {
		...(shade && { shade }),
		...(thickMm && { thickM: thickMm / 1000 }),
		...(rougher && { rougher }),
		...(worn && { worn }),
		...(dirt && { dirt }),
		...{ seed, acrossM, turn: turnDeg * DEG, depthM: reliefMm / 1000, tint, wet, world, share },
	};
	const bands = where.map((one) => whereOf(one).band(one));
	if (own?.highM !== undefined) {
		const box = bands.findLast((band) => band.box)?.box ?? front;
		if (!box) return [];
		const acrossM = 2 * box.half[0];
		const along = (own.highM * acrossM) / (2 * box.half[1] * own.sideM);
		const once = { along, as: own.files.colour ? ("picture" as const) : ("relief" as const) };
		const all = bands.some((band) => band.box) ? bands : [inBox(box), ...bands].slice(0, MOST_LAID_WHERES);
		return [{ sheet: keyOfBrought(own), grain: { blocks: 1 }, ...lies, acrossM, where: all, once }];
	}
	// What is in a picture is not known to have a direction, or rows: it repeats as it is.
	if (own) return [{ sheet: keyOfBrought(own), grain: { blocks: 1 }, ...lies, where: bands }];
	const kind = of as SurfaceKind;
	return [{ sheet: sheetKey(kind, seed), grain: SURFACES[kind].grain, ...lies, where: bands }];
}
