/** Volumes that bands of layers ask for: how far other things are, what has been painted, how full it is about a place; and ground that rises. */
import { type BankedLand, bankMesh } from "../ground/bank.ts";
import { farFromPaths, groundHeight } from "../ground/height.ts";
import { runoffOf } from "../ground/runoff.ts";
import { groundTint } from "../ground/tint.ts";
import { cos, DEG, exp, sin } from "../maths/functions.ts";
import { keyOf } from "../maths/hash.ts";
import { type Mesh, meshBounds } from "../maths/mesh.ts";
import { boundsOf, type Mat34, type Vec3 } from "../maths/vec.ts";
import type { Band, VolumeAsked } from "../surface/where/where.ts";
import { columnsVolume, HOLLOWS_REACH, hollowsOfLand, type Over, rainShare } from "../volume/columns.ts";
import { hollowVolume } from "../volume/hollow.ts";
import { paintVolume, strokesKey } from "../volume/paint.ts";
import { landVolume, reachFor, type SeamBody, seamVolume } from "../volume/seams.ts";
import { type Kept, packVolume } from "../volume/volume.ts";
import { FIRST_PIECE, ID_GROUND } from "./ids.ts";
import { CODE, type Making } from "./making.ts";
import type { Draw, Material } from "./scene.ts";

type Made = NonNullable<Band["volume"]>;

const asked = (layers: Material["layers"]): VolumeAsked[] =>
	(layers ?? []).flatMap(({ where }) => where.flatMap(({ asks }) => asks ?? []));

/** What is asked of things by how far they are. */
type Near = Extract<VolumeAsked, { kind: "seams" }>;

const asks = (material: Material | undefined, { kind, reachM }: Near): boolean =>
	asked(material?.layers).some((ask) => ask.kind === kind && "reachM" in ask && ask.reachM === reachM);

/** Metres of the squares in whose corners volumes count from. */
const ANCHOR_M = 4096;

function meshIn(making: Making, { mesh }: Draw): Mesh {
	const part = making.parts.get(mesh);
	if (part?.kind !== "mesh") throw new Error(`The body "${mesh}" has no mesh.`);
	return part.mesh;
}

const scaleOf = (t: Mat34): Vec3 => [0, 1, 2].map((c) => Math.hypot(t[c], t[4 + c], t[8 + c])) as unknown as Vec3;

interface Standing {
	draws: readonly Draw[];
	body: Omit<SeamBody, "asks">;
}

const standing = new WeakMap<Making, Standing[]>();

/** Bodies of pieces as they stand, those of several surfaces as one, with the draws that they are; once all pieces have been compiled. */
function bodiesOf(making: Making): readonly Standing[] {
	const known = standing.get(making) ?? gathered(making);
	standing.set(making, known);
	return known;
}

function gathered(making: Making): Standing[] {
	const bodies = new Map<string, { draws: Draw[]; transform: Mat34 }>();
	const places = new Map<Mat34, number>();
	for (const draw of making.draws) {
		if (draw.id < FIRST_PIECE || making.parts.get(draw.mesh)?.kind !== "mesh") continue;
		const place = places.get(draw.transform) ?? places.size;
		places.set(draw.transform, place);
		const name = `${draw.id} ${place}`;
		const known = bodies.get(name);
		if (known) known.draws.push(draw);
		else bodies.set(name, { draws: [draw], transform: draw.transform });
	}
	return [...bodies.values()].map(({ draws, transform }) => {
		const meshes = draws.map((draw) => meshIn(making, draw));
		const key = keyOf("body", ...draws.map((d) => d.mesh), transform);
		const each = meshes.map((mesh, n) =>
			boundsOf(
				transform,
				making.cache.along(`bounds of ${draws[n].mesh}`, () => meshBounds(mesh)),
			),
		);
		const bounds = [0, 1, 2, 3, 4, 5].map((c) => (c < 3 ? Math.min : Math.max)(...each.map((b) => b[c])));
		return { draws, body: { key, meshes, transform, bounds } };
	});
}

/** The land as bodies meet it, and the number of its material. */
export interface MetLand {
	key: string;
	material: number;
}

/** Places that volumes count from. */
function anchorOf(making: Making): Vec3 {
	const [x, , z] = making.doc.camera.position;
	return [x, 0, z].map((v) => Math.round(v / ANCHOR_M) * ANCHOR_M) as unknown as Vec3;
}

const heightIn =
	({ doc: { ground } }: Making) =>
	(x: number, z: number): number =>
		groundHeight(ground, x, z);

function seamsPart(making: Making, ask: Near, met: MetLand | null): Made {
	const of = (material: number) => asks(making.materials[material], ask);
	const bodies = bodiesOf(making).map(({ draws, body }) => ({ ...body, asks: draws.some((d) => of(d.material)) }));
	const land = met && { key: met.key, heightAt: heightIn(making), asks: of(met.material) };
	const anchor = anchorOf(making);
	const { kind, reachM } = ask;
	const key = keyOf(
		...[kind, CODE, reachM, anchor, land && [land.key, land.asks]],
		bodies.map((body) => [body.key, body.asks]),
	);
	const kept: Kept = (name, make) => making.cache.along(name, make);
	making.part("volume", key, () => ({
		volume:
			kind === "seams"
				? seamVolume(bodies, land, reachM, anchor, kept)
				: land
					? landVolume(bodies, land, reachM, anchor, kept)
					: packVolume(reachM, anchor, []),
	}));
	return { part: key, missing: 1, world: true };
}

/** Ground that rises to meet pieces, about each of their copies. */
export function compileBanks(making: Making, met: MetLand | null): void {
	const { pieces, ground, water } = making.doc;
	if (!met || !pieces.some((p) => p.bank && p.bank.riseM > 0)) return;
	const heightAt = heightIn(making);
	const tintAt: BankedLand["tintAt"] = (...at) => groundTint(ground, water, ...at);
	const kept: Kept = (name, make) => making.cache.along(name, make);
	for (const { draws, body } of bodiesOf(making)) {
		const { bank } = pieces[draws[0].id - FIRST_PIECE];
		if (!bank || bank.riseM === 0) continue;
		const anchor = anchorOf(making);
		const key = keyOf("bank", CODE, body.key, met.key, bank, anchor);
		const [x, z] = [body.transform[3], body.transform[11]];
		const { mesh } = making.part("mesh", key, () => {
			const reachM = reachFor(bank.widthM);
			const land = { key: met.key, heightAt, asks: true };
			const distances = seamVolume([{ ...body, asks: false }], land, reachM, anchor, kept);
			return { mesh: bankMesh(bank, distances, reachM, { heightAt, tintAt }, [x, z]) };
		});
		if (mesh.indices.length === 0) continue;
		making.banks.push({
			mesh: key,
			transform: [1, 0, 0, x, 0, 1, 0, 0, 0, 0, 1, z],
			material: met.material,
			id: ID_GROUND,
		});
	}
}

function paintPart(making: Making, id: string): Made {
	const mask = making.doc.masks?.find((own) => own.id === id);
	const strokes = mask?.strokes ?? [];
	const key = keyOf("paint", CODE, strokesKey(strokes));
	making.part("volume", key, () => ({
		volume: strokes.length
			? paintVolume(strokes, (name, make) => making.cache.along(`${id} ${name}`, make))
			: packVolume(1, [0, 0, 0], []),
	}));
	return { part: key, missing: 0, world: !mask?.on };
}

/** The hollows of a surface of land, about the lens and before it. */
function landHollowsPart(making: Making, sizeM: number, met: MetLand): Made {
	const withinM = Math.min(PATHS_M, HOLLOWS_REACH * sizeM);
	const over = squareBefore(making, 0.8 * withinM, withinM);
	const anchor = anchorOf(making);
	const key = keyOf("hollows of land", CODE, sizeM, met.key, over, anchor);
	making.part("volume", key, () => {
		const heightAt = heightIn(making);
		const { valueAt, cellM } = hollowsOfLand(heightAt, over, sizeM, anchor);
		return { volume: columnsVolume({ valueAt, within: () => true, over, cellM, heightAt }, anchor) };
	});
	return { part: key, missing: 0.5, world: true };
}

/** How full it is about places of the first body that a material is on; nothing is known of what has no inside. */
function hollowPart(making: Making, material: number, sizeM: number): Made {
	const first = making.draws.find((draw) => draw.material === material && draw.id >= FIRST_PIECE);
	const own = first ? making.draws.filter((d) => d.id === first.id && d.transform === first.transform) : [];
	const key = keyOf("hollow", CODE, sizeM, ...own.map((d) => d.mesh), first ? scaleOf(first.transform) : null);
	making.part("volume", key, () => ({
		volume: first
			? hollowVolume(
					own.map((d) => meshIn(making, d)),
					scaleOf(first.transform),
					sizeM,
				)
			: packVolume(sizeM, [0, 0, 0], []),
	}));
	return { part: key, missing: 0.5, world: false };
}

/** Cells in how far paths are told; they are told so far about the lens, and rain so far about a place before it, metres. */
const PATH_CELLS = 5;
const PATHS_M = 250;
const RAIN_M = 150;
const RAIN_CELL_M = 1;
/** The lens counts as standing on a lattice of this, metres, so that a small step leaves all as it is. */
const STEP_M = 32;

/** A square about where the lens is, or about a place so far before it. */
function squareBefore({ whole: { camera } }: Making, beforeM: number, withinM: number): Over {
	const [x, , z] = camera.position;
	const on = (v: number) => Math.round(v / STEP_M) * STEP_M;
	const [dx, dz] = [sin(camera.headingDeg * DEG), -cos(camera.headingDeg * DEG)];
	return { x: on(x + beforeM * dx), z: on(z + beforeM * dz), withinM };
}

/** How far the edge of the nearest path is, as a share of the reach. */
function pathsPart(making: Making, reachM: number, met: MetLand | null): Made {
	const over = squareBefore(making, 0, PATHS_M);
	const anchor = anchorOf(making);
	const key = keyOf("paths", CODE, reachM, met?.key, over, anchor);
	making.part("volume", key, () => {
		const far = met && farFromPaths(making.doc.ground);
		if (!far) return { volume: packVolume(reachM, anchor, []) };
		const valueAt = (x: number, z: number) => far(x, z) / reachM;
		const within = (x: number, z: number, radiusM: number) => far(x, z) < reachM + radiusM;
		const cellM = reachM / PATH_CELLS;
		return { volume: columnsVolume({ valueAt, within, over, cellM, heightAt: heightIn(making) }, anchor) };
	});
	return { part: key, missing: 1, world: true };
}

/** From how much land water comes by, see {@link rainShare}. */
function rainPart(making: Making, met: MetLand | null): Made {
	const over = squareBefore(making, 0.8 * RAIN_M, RAIN_M);
	const anchor = anchorOf(making);
	const key = keyOf("rain", CODE, met?.key, over, anchor);
	making.part("volume", key, () => {
		if (!met) return { volume: packVolume(RAIN_CELL_M, anchor, []) };
		const area = runoffOf(making.doc.ground, over);
		const valueAt = (x: number, z: number) => rainShare(exp(area(x, z)));
		const within = () => true;
		return {
			volume: columnsVolume({ valueAt, within, over, cellM: RAIN_CELL_M, heightAt: heightIn(making) }, anchor),
		};
	});
	return { part: key, missing: 0, world: true };
}

/** Has made what bands ask for, and tells it to them. The land is null where there is none. */
export function compileVolumes(making: Making, land: MetLand | null): void {
	const known = new Map<string, Made>();
	const makers: { [K in VolumeAsked["kind"]]: (ask: Extract<VolumeAsked, { kind: K }>, material: number) => Made } = {
		paint: ({ mask }) => paintPart(making, mask),
		hollow: ({ sizeM }, material) =>
			land?.material === material ? landHollowsPart(making, sizeM, land) : hollowPart(making, material, sizeM),
		paths: ({ reachM }) => pathsPart(making, reachM, land),
		rain: () => rainPart(making, land),
		seams: (ask) => seamsPart(making, ask, land),
		land: (ask) => seamsPart(making, ask, land),
	};
	const make = (ask: VolumeAsked, material: number): Made =>
		(makers[ask.kind] as (ask: VolumeAsked, material: number) => Made)(ask, material);
	const madeFor = (ask: VolumeAsked, material: number): Made => {
		const name = JSON.stringify([ask, ask.kind === "hollow" && material]);
		const made = known.get(name) ?? make(ask, material);
		known.set(name, made);
		return made;
	};
	for (const [i, material] of making.materials.entries()) {
		if (!material.layers || asked(material.layers).length === 0) continue;
		const layers = material.layers.map((layer) => ({
			...layer,
			where: layer.where.map(({ asks, ...band }) => (asks ? { ...band, volume: madeFor(asks, i) } : band)),
		}));
		making.materials[i] = { ...material, layers };
	}
}
