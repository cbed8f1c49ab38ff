/** Volumes that bands of layers ask for: how far other things are, what has been painted, how full it is about a place; and ground that rises. */
import { type BankedLand, bankMesh } from "../ground/bank.ts";
import { groundHeight } from "../ground/height.ts";
import { groundTint } from "../ground/tint.ts";
import { keyOf } from "../maths/hash.ts";
import { type Mesh, meshBounds } from "../maths/mesh.ts";
import { boundsOf, type Mat34, type Vec3 } from "../maths/vec.ts";
import type { Band, VolumeAsked } from "../surface/where/where.ts";
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

const asks = (material: Material | undefined, { kind, reachM }: Extract<VolumeAsked, { reachM: number }>): boolean =>
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

function seamsPart(making: Making, ask: Extract<VolumeAsked, { reachM: number }>, met: MetLand | null): Made {
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

/** How full it is about places of the first body that a material is on; nothing is known of the land, and of what has no inside. */
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

/** Has made what bands ask for, and tells it to them. The land is null where there is none. */
export function compileVolumes(making: Making, land: MetLand | null): void {
	const known = new Map<string, Made>();
	const make = (ask: VolumeAsked, material: number): Made =>
		ask.kind === "paint"
			? paintPart(making, ask.mask)
			: ask.kind === "hollow"
				? hollowPart(making, material, ask.sizeM)
				: seamsPart(making, ask, land);
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
