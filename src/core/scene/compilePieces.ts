/** Pieces of a scene: their bodies, placed, with what they are made of. */
import { isSeen } from "../doc/acts.ts";
import type { Ground, Piece, ShotDocument, Stain, Surface } from "../doc/schema.ts";
import { fieldOf } from "../lens/camera.ts";
import { blackbody } from "../light/blackbody.ts";
import type { SceneLight } from "../light/lamps.ts";
import { GLOW_LAYER } from "../light/layers.ts";
import { log } from "../maths/functions.ts";
import { keyOf } from "../maths/hash.ts";
import type { Mesh } from "../maths/mesh.ts";
import { determinant, type Mat34, type Vec3 } from "../maths/vec.ts";
import { copiesOf } from "../shape/copies.ts";
import type { Face, Geometry } from "../shape/geometry.ts";
import { pieceTransforms, type Standing, supportsOf } from "../shape/place.ts";
import {
	type Body,
	bodyMadeFrom,
	detailOf,
	isFront,
	makeFar,
	makeGeometry,
	slotOf,
	surfacesOf,
	variantOf,
} from "../shape/shapes.ts";
import { broughtBy } from "../surface/brought.ts";
import { compileActed } from "./compileActs.ts";
import { type Along, earthOn, layersOn } from "./compileSheets.ts";
import { FIRST_PIECE } from "./ids.ts";
import { CODE, type Making, type Steps } from "./making.ts";
import type { Draw, Material } from "./scene.ts";

/** What all glowing pieces have in common as lights; their draw tells their shape. */
const BODY: Pick<SceneLight, "layer" | "shape" | "axis" | "right" | "up" | "half" | "cosInner" | "cosOuter"> = {
	layer: GLOW_LAYER,
	shape: "body",
	axis: [0, 1, 0],
	right: [1, 0, 0],
	up: [0, 1, 0],
	half: [0, 0],
	cosInner: 1,
	cosOuter: -1,
};

type BroughtIn = Pick<ShotDocument, "imageSurfaces">;

/** The front of a piece's body in its own metres; one that is its front alone is seen from both sides, and a picture may cut it out. */
function frontOf({ shape, size, surface }: Pick<Piece, "shape" | "size" | "surface">, doc: BroughtIn): Along {
	const [wide, high, deep] = size;
	const only = isFront(shape);
	const half = [wide / 2, high / 2, Math.max(0.1, deep)] as const;
	const at = { at: [0, high / 2, 0], right: [1, 0, 0], up: [0, 1, 0] } as const;
	return {
		front: { ...at, half, soft: 0, ...(only && { both: true }) },
		cut: only && !!surface.laid && !!broughtBy(surface.laid.of, doc)?.files.cut,
	};
}

function materialOf(s: Surface, glow: Vec3 | null, doc: BroughtIn, along: Along = {}): Material {
	const { colour, roughness, metal, coat, coatRoughness, glass } = s;
	const layers = glass ? null : layersOn(s.laid, false, doc, along);
	const plain = {
		...{ colour, roughness, metal, translucency: 0, coat, coatRoughness },
		...(glow && { glow }),
		...(layers && { layers }),
		...(layers?.[0].once?.as === "cut" && { cut: true as const }),
	};
	if (!glass) return plain;
	const tint = colour.map((c) => (glass.pane ? c : -log(Math.max(1e-4, c)) / glass.depthM)) as unknown as Vec3;
	return { ...plain, glass: { pane: glass.pane, index: glass.index, tint } };
}

/** What a surface sends out, cd/m²; null when it does not glow. */
const glowOf = ({ glow }: Surface): Vec3 | null =>
	glow && glow.nits > 0 ? (blackbody(glow.kelvin).map((v) => v * glow.nits) as unknown as Vec3) : null;

/** Copies of a repeat lie otherwise on each other up to so many, which then come again. */
const VARIED = 6;
/** Where a shot has more materials than this, copies lie alike: the working view's tables have an end. */
const MOST_VARIED = 1500;
/** From one to the next, so that no two seeds that hands would set meet. */
const SEED_STEP = 1_000_003;

const varied = new WeakMap<Material, readonly Material[]>();

/** A material as it lies on the copies of a repeat: what counts from each copy's own middle by other seeds, of the same sheets. */
function onCopies(material: Material, copies: number): readonly Material[] {
	if (copies === 1 || !material.layers?.some(({ world }) => !world)) return [material];
	const known = varied.get(material);
	if (known) return known;
	const made = Array.from({ length: VARIED }, (_, n) => ({
		...material,
		layers: material.layers?.map((layer) => (layer.world ? layer : { ...layer, seed: layer.seed + n * SEED_STEP })),
	}));
	varied.set(material, made);
	return made;
}

/** What of a piece depends on nothing but itself and what it stands on: of thousands, an edit changes one. */
interface Made {
	ground: Ground;
	imageSurfaces: ShotDocument["imageSurfaces"];
	/** What it stands on, and what that stands on. */
	under: readonly Piece[];
	/** The bodies of its copies and where these are. */
	copies: readonly { mesh: string; body: Body; transform: Mat34; turned: boolean }[];
	material: Material;
	/** cd/m², null when it does not glow. */
	glow: Vec3 | null;
}

const made = new WeakMap<Piece, Made>();

function makePiece(piece: Piece, { ground, pieces, imageSurfaces }: Standing & BroughtIn): Made {
	const known = made.get(piece);
	const under = supportsOf(piece, pieces);
	if (
		known?.ground === ground &&
		known.imageSurfaces === imageSurfaces &&
		under.length === known.under.length &&
		under.every((p, i) => p === known.under[i])
	)
		return known;
	const glow = glowOf(piece.surface);
	const now: Made = {
		ground,
		imageSurfaces,
		under,
		copies: copiesMade(piece, { ground, pieces: under }),
		material: materialOf(piece.surface, glow, { imageSurfaces }, frontOf(piece, { imageSurfaces })),
		glow,
	};
	made.set(piece, now);
	return now;
}

/**
 * A copy that a mirror shows has a body of its own, so that no picture has to do with bodies that are inside out: what turns
 * its right to its left goes from the matrix into the body.
 */
function copiesMade(piece: Piece, place: Standing): Made["copies"] {
	const keyed = (body: Body) => ({ body, mesh: keyOf("shape", CODE, ...bodyMadeFrom(body)) });
	const [across, up, deep] = piece.mirrored ?? [false, false, false];
	const known = new Map<string, ReturnType<typeof keyed>>();
	/** The body of a seed, as it is or as a mirror shows it. */
	const bodyOf = (variant: number, turned: boolean) => {
		const name = `${variant} ${turned}`;
		let body = known.get(name);
		if (!body) {
			const shape = variantOf(piece.shape, variant);
			body = keyed({ ...piece, shape, ...(turned && { mirrored: [!across, up, deep] }) });
			known.set(name, body);
		}
		return body;
	};
	const copies = copiesOf(piece.repeat);
	return pieceTransforms(piece, place).map((transform, i) => {
		const { variant } = copies[i];
		if (determinant(transform) > 0) return { ...bodyOf(variant, false), transform, turned: false };
		return { ...bodyOf(variant, true), transform: transform.map((v, k) => (k % 4 === 0 ? -v : v)), turned: true };
	});
}

/** Where a piece's copies are when the shutter opens and when it closes; null when they have not moved. */
function endsOf(
	before: Piece,
	opening: ShotDocument,
	after: Piece,
	closing: ShotDocument,
): { opening: Mat34[]; closing: Mat34[] } | null {
	if (before === after && supportsOf(after, closing.pieces).every((p) => opening.pieces.includes(p))) return null;
	const at = (piece: Piece, doc: ShotDocument) => copiesMade(piece, doc).map((c) => c.transform);
	const ends = { opening: at(before, opening), closing: at(after, closing) };
	const still = ends.opening.every((m, copy) => m.every((v, k) => v === ends.closing[copy][k]));
	return still || ends.opening.length !== ends.closing.length ? null : ends;
}

/** Pixels below which a detail is none, of a picture as wide as large prints are, whatever width is asked for now. */
const DETAIL_PX = 1.2;
const FINEST_PX = 3840;

/** Whether the details of a body are too small to be seen from wherever the lens is. */
function isFar(body: Body, m: Mat34, { way, whole }: Making): boolean {
	const detailM = detailOf(body);
	if (detailM === null) return false;
	const reach = Math.hypot(...body.size);
	const nearest = Math.min(...way.map(({ position: [x, y, z] }) => Math.hypot(m[3] - x, m[7] - y, m[11] - z) - reach));
	const { tanX } = fieldOf(whole.camera);
	const pxPerM = FINEST_PX / (2 * tanX * Math.max(0.1, nearest));
	return detailM * pxPerM < DETAIL_PX;
}

/** One of the surfaces of a body: its number among the materials, and what it sends out. */
interface Slot {
	material: number;
	glow: Vec3 | null;
}

interface SlotDraw extends Pick<Draw, "id" | "mesh" | "transform"> {
	body: Body;
	surfaces: readonly Slot[];
	way: readonly [Mat34, Mat34] | null;
}

/** A body of several surfaces: one draw for each, and what glows of it as a light. */
function drawSlots(making: Making, { id, body, mesh: key, transform, surfaces, way }: SlotDraw): void {
	const { draws, lights, blobs } = making;
	const far = isFar(body, transform, making);
	const whole = far ? `${key} far` : key;
	let geometry: Geometry | null = null;
	for (const [slot, { material, glow }] of surfaces.entries()) {
		const mesh = `${whole} ${slot}`;
		const part = making.part("mesh", mesh, () => {
			geometry ??= far ? makeFar(body, { blobs }) : makeGeometry(body, { blobs });
			return slotOf(geometry, slot);
		});
		if (part.mesh.indices.length === 0) continue;
		// What glows is chosen where it is; it does not move while the shutter is open.
		if (glow)
			lights.push({
				...BODY,
				position: [transform[3], transform[7], transform[11]],
				rgb: glow,
				id,
				draw: draws.length,
				scattered: true,
			});
		draws.push({
			mesh,
			transform,
			material,
			id,
			...(glow && { light: lights.length - 1 }),
			...(way && !glow && { way }),
		});
	}
}

interface FacesDraw extends Pick<Draw, "id" | "mesh" | "transform"> {
	body: { mesh: Mesh; faces: readonly Face[] };
	/** Names of faces that have a material of their own, and these; what is left has the piece's. */
	names: readonly string[];
	materials: readonly number[];
	material: number;
	way: readonly [Mat34, Mat34] | null;
}

/** A body on whose faces other things lie: one draw for each of them, and one for the rest. */
function drawFaces(making: Making, { id, body, mesh, transform, names, materials, material, way }: FacesDraw): void {
	const slotted = body.faces.map((face) => ({ ...face, slot: names.indexOf(face.name) + 1 }));
	for (const [slot, number] of [material, ...materials].entries()) {
		const key = `${mesh} faces ${JSON.stringify(names)} ${slot}`;
		const part = making.part("mesh", key, () => slotOf({ mesh: body.mesh, faces: slotted }, slot));
		if (part.mesh.indices.length === 0) continue;
		making.draws.push({ mesh: key, transform, material: number, id, ...(way && { way }) });
	}
}

export function* compilePieces(making: Making): Steps<void> {
	const { doc, opening, closing, draws, lights, blobs } = making;
	const stains = new Map<string, Stain[]>();
	for (const stain of doc.stains ?? [])
		for (const id of stain.pieces) stains.set(id, [...(stains.get(id) ?? []), stain]);
	for (const [i, piece] of doc.pieces.entries()) {
		if (!isSeen(piece)) continue;
		const id = FIRST_PIECE + i;
		const { copies, material, glow } = makePiece(piece, doc);
		const earth = piece.bank ? earthOn(doc, piece.bank.blendM) : [];
		const own: Along = { stains: stains.get(piece.id), earth, ...frontOf(piece, doc) };
		const more = earth.length || stains.has(piece.id);
		const m = more ? materialOf(piece.surface, glow, doc, own) : material;
		// What glows is light as well: that is chosen where it is, so it stands in its middle.
		const ends = glow || opening === closing ? null : endsOf(opening.pieces[i], opening, closing.pieces[i], closing);
		const slots = surfacesOf(piece.shape).map((s) => materialOf(s, glowOf(s), doc, own));
		const surfaces = [m, ...slots].map((of): Slot => ({ material: making.material(of), glow: of.glow ?? null }));
		const [{ material: number }] = surfaces;
		const vary = making.materials.length < MOST_VARIED ? copies.length : 1;
		const others = onCopies(m, vary)
			.slice(1, vary)
			.map((of) => making.material(of));
		const numbers = [number, ...others];
		// What glows is one light, and a body of several surfaces has them already.
		const faced = glow || slots.length || piece.surface.glass ? [] : (piece.surface.faces ?? []);
		const faceMaterials = faced.map(({ laid }) =>
			making.material(materialOf({ ...piece.surface, laid }, null, doc, own)),
		);
		const acted = yield* compileActed(
			piece,
			making,
			copies.some((c) => c.turned),
		);
		if (acted?.empty) {
			making.gone.push(piece.id);
			continue;
		}
		for (const [copy, { mesh: own, body, transform, turned }] of copies.entries()) {
			const mesh = acted ? (turned ? acted.mirrored : acted.mesh) : own;
			if (slots.length && !acted) {
				drawSlots(making, {
					id,
					body,
					mesh,
					transform,
					surfaces,
					way: ends && [ends.opening[copy], ends.closing[copy]],
				});
				continue;
			}
			const made = () => {
				const { mesh, coarse, faces } = makeGeometry(body, { blobs });
				return { mesh, faces, ...(coarse && { coarse }) };
			};
			if (faced.length) {
				const whole = making.cache.take("mesh", mesh, made);
				drawFaces(making, {
					...{ id, mesh, transform, material: number, materials: faceMaterials },
					body: { mesh: whole.mesh, faces: whole.faces ?? [] },
					names: faced.map((own) => own.face),
					way: ends && [ends.opening[copy], ends.closing[copy]],
				});
				continue;
			}
			if (!making.parts.has(mesh)) making.part("mesh", mesh, made);
			if (glow)
				lights.push({
					...BODY,
					position: [transform[3], transform[7], transform[11]],
					rgb: glow,
					id,
					draw: draws.length,
				});
			draws.push({
				mesh,
				transform,
				material: numbers[copy % numbers.length],
				id,
				...(glow && { light: lights.length - 1 }),
				...(ends && { way: [ends.opening[copy], ends.closing[copy]] as const }),
			});
		}
	}
}
