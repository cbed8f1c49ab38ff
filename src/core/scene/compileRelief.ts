/**
 * Surfaces whose sheets stand out by half a pixel or more are shaped by them: bodies get triangles of a few pixels there and are moved
 * along their normals (displacement mapping, Cook 1984), so that outline, shadow and contact follow. Normals stay those of the body: the
 * sheet bends them as it does everywhere, finer than any triangle. What is seen smaller than that has its relief in its normals alone,
 * and between the two it fades.
 *
 * A body's triangles go by lenses that are rounded (`reliefSight.ts`); those of a move by all of its way. All of a shot together keep to
 * {@link MOST_TRIANGLES}: where more would be needed they are all larger.
 */

import { FRAME_PX } from "../ground/sight.ts";
import { fieldOf } from "../lens/camera.ts";
import { keyOf } from "../maths/hash.ts";
import { meshBounds } from "../maths/mesh.ts";
import { boundsOf, type Mat34, type Vec3 } from "../maths/vec.ts";
import { SHOT_TEXELS } from "../surface/sheet.ts";
import { FIRST_PIECE, ID_GROUND } from "./ids.ts";
import { CODE, type Making, type Steps } from "./making.ts";
import type { PartCache } from "./partCache.ts";
import { reliefOf } from "./reliefAt.ts";
import { counted, LEAST_PX, type Shaped, shapedParts } from "./reliefMesh.ts";
import { lensesOf, NEAREST_M } from "./reliefSight.ts";
import type { Draw, Material } from "./scene.ts";

/** A body of fewer triangles has no heights by itself. */
const FEW = 1000;
/** Triangles that come to all that is shaped in a shot, about. */
const MOST_TRIANGLES = 400_000;

/** Whether it goes through the move by itself. */
const goes = ({ doc, whole }: Making, { id, way }: Draw): boolean =>
	way !== undefined || (id >= FIRST_PIECE && doc.pieces[id - FIRST_PIECE] !== whole.pieces[id - FIRST_PIECE]);

/** What of a draw is to be shaped; null where nothing is. What goes is level: it would have other triangles in each frame. */
function shapedOf(making: Making, draw: Draw, pinned: boolean): Shaped | null {
	const material = making.materials[draw.material];
	const part = making.parts.get(draw.mesh);
	if (!material?.layers || material.glass || draw.light !== undefined || draw.traced || part?.kind !== "mesh")
		return null;
	if (goes(making, draw)) return null;
	const { outM, inM } = reliefOf(material.layers);
	const deepM = Math.max(outM, inM);
	if (deepM === 0) return null;
	const own = making.cache.along(`bounds of ${draw.mesh}`, () => meshBounds(part.mesh));
	const bounds = boundsOf(draw.transform, own);
	const nearest = making.way.map((camera) => {
		const off = camera.position.map((v, c) => Math.max(0, bounds[c] - v, v - bounds[c + 3]));
		return ((2 * fieldOf(camera).tanX) / FRAME_PX) * Math.max(NEAREST_M, Math.hypot(...off));
	});
	if (deepM < LEAST_PX * Math.min(...nearest)) return null;
	return {
		of: draw,
		mesh: part.mesh,
		layers: material.layers,
		lenses: lensesOf(making, draw.transform, bounds),
		deepM,
		leastM: Math.min(...material.layers.map(({ acrossM }) => acrossM)) / SHOT_TEXELS,
		underM: draw.id === ID_GROUND && making.whole.water.on ? making.whole.water.levelM : null,
		pinned,
	};
}

/** Of all that a shaped body is made from but how coarse it is. */
const keyOfShaped = ({ of, layers, lenses, pinned, underM }: Shaped, origin: Vec3): string =>
	keyOf(
		...["relief", CODE, of.mesh, of.transform, layers, lenses, pinned, underM],
		layers.some(({ world }) => world) && origin,
		of.id === ID_GROUND,
	);

/** What of a draw is to be shaped, with its key. */
interface KnownShaped {
	mesh: string;
	layers: Material["layers"];
	seenFrom: string;
	pinned: boolean;
	shaped: Shaped | null;
	key: string;
}

const shapedBefore = new WeakMap<Mat34, KnownShaped[]>();

/** The same as before for a draw that stands where it stood: of hundreds, an edit changes one. `seenFrom` says by which lenses. */
function knownShaped(making: Making, draw: Draw, pinned: boolean, seenFrom: string, origin: Vec3): KnownShaped {
	const { mesh, transform, material } = draw;
	const { layers } = making.materials[material];
	const before = shapedBefore.get(transform) ?? [];
	const same = before.find(
		(k) => k.mesh === mesh && k.layers === layers && k.seenFrom === seenFrom && k.pinned === pinned,
	);
	if (same) return { ...same, shaped: same.shaped && { ...same.shaped, of: draw } };
	const shaped = shapedOf(making, draw, pinned);
	const now = { mesh, layers, seenFrom, pinned, shaped, key: shaped ? keyOfShaped(shaped, origin) : "" };
	shapedBefore.set(transform, [...before.filter((k) => k.mesh !== mesh), now]);
	return now;
}

/** How many times longer edges were in the last whole scene: a draft takes what was made for it. */
const timesBefore = new WeakMap<PartCache, number>();

/**
 * Shapes what of a scene's surfaces stands out in its frame; once all bands have their volumes. `origin` is where receivers count from.
 * Of a `draft` that is shaped which is at hand as it was in the scene before; the rest is level.
 * @returns Whether all has been.
 */
export function* compileRelief(making: Making, origin: Vec3, draft: boolean): Steps<boolean> {
	const { cache } = making;
	const lists = [making.draws, making.banks];
	const bodies = new Map<Mat34, number>();
	for (const { transform } of making.draws) bodies.set(transform, (bodies.get(transform) ?? 0) + 1);
	const seenFrom = JSON.stringify([making.way, origin, making.whole.water]);
	const known = (draw: Draw) => knownShaped(making, draw, (bodies.get(draw.transform) ?? 0) > 1, seenFrom, origin);
	const found = lists.map((draws) => draws.map(known));
	const times = draft
		? (timesBefore.get(cache) ?? 1)
		: yield* timesFor(
				making,
				found.flat().flatMap(({ shaped, key }) => (shaped ? [{ shaped, key }] : [])),
			);
	if (!draft) timesBefore.set(cache, times);
	let all = true;
	for (const [l, draws] of lists.entries())
		for (const [i, { shaped, key: of }] of found[l].entries()) {
			if (
				!shaped ||
				(cache.knows(countOf(of)) &&
					tooFew(
						shaped,
						cache.along(countOf(of), () => 0),
					))
			)
				continue;
			const key = `${of} ${times}`;
			const made = cache.has(key);
			if (draft && !made) {
				all = false;
				continue;
			}
			making.part("mesh", key, () => shapedParts(making, origin, shaped, times));
			draws[i] = { ...draws[i], mesh: key, flat: draws[i].mesh };
			if (!made) yield;
		}
	return all;
}

const countOf = (key: string) => `count of ${key}`;

/** Of few triangles, and none to come: there is nothing that its heights could show by. */
const tooFew = ({ mesh }: Shaped, more: number): boolean => more < 1 && mesh.indices.length / 3 < FEW;

/** How many times longer edges have to be so that a shot keeps to its triangles, in steps: little more or less leaves all as it is. */
function* timesFor({ cache }: Making, all: readonly { shaped: Shaped; key: string }[]): Steps<number> {
	let triangles = 0;
	for (const { shaped, key } of all) {
		const known = cache.knows(countOf(key));
		triangles += cache.along(countOf(key), () => counted(shaped));
		if (!known) yield;
	}
	return triangles > MOST_TRIANGLES ? 2 ** (Math.ceil(4 * Math.log2(triangles / MOST_TRIANGLES)) / 8) : 1;
}
