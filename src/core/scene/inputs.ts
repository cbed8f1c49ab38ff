/**
 * What a compile takes in besides the document: a time, files, and what hosts make for it. Core holds no WASM and no
 * package of its own, so what needs one (a picture decoded, bodies joined, land worn) is made by functions that the host
 * brings. They are deterministic: what they make is kept by key, and page, press and command line get the same.
 */
import type { SkyTable } from "../air/skyPicture.ts";
import type { NamedFile } from "../doc/files.ts";
import type { ActKind, ShotDocument } from "../doc/schema.ts";
import type { LandPicture } from "../formats/landPicture.ts";
import type { LandField, LandWork } from "../ground/field.ts";
import type { LandRead } from "../ground/pictures.ts";
import type { Mesh } from "../maths/mesh.ts";
import type { Face, ShapeMaker } from "../shape/geometry.ts";
import { SHAPES } from "../shape/shapes.ts";
import type { SheetPlanes } from "../surface/brought.ts";
import type { Sheet } from "../surface/sheet.ts";
import type { SurfaceKind } from "../surface/surfaces.ts";

/** Files by their hash. */
export type Blobs = ReadonlyMap<string, Uint8Array>;

export const NO_BLOBS: Blobs = new Map();

/** A closed body in metres, its faces by names. */
export interface Solid {
	mesh: Mesh;
	faces: readonly Face[];
}

/** A body, and what is done to it in turn. Faces of what acts keep their names, after its id. */
export interface Solids {
	base: Solid;
	acts: readonly { kind: ActKind; of: string; bodies: readonly Solid[] }[];
}

/** What hosts make; what is not at hand at once comes as a promise. */
export interface Makers {
	/** The table of a sky picture's file; its name is for messages alone. */
	sky: (file: string, name: string) => SkyTable | Promise<SkyTable>;
	/** A body after what is done to it, by the key of all that it is made from; without triangles where nothing is left. */
	solids: (key: string, of: () => Solids) => Solid | Promise<Solid>;
	/** How a square of land has worn, by the key of all that it is made from. */
	land: (key: string, of: LandWork) => LandField | Promise<LandField>;
	/** A picture that tells something of the land. */
	picture: (read: LandRead) => LandPicture | Promise<LandPicture>;
	/** A surface baked, by the key of all that it is made from. */
	sheet: (key: string, of: SheetWork) => Sheet | Promise<Sheet>;
	/** One of pictures packed. */
	packed: (key: string, of: PackWork) => Sheet | Promise<Sheet>;
}

/** What a surface of pictures is packed from; its planes are asked for when it is not at hand. */
export interface PackWork {
	sideM: number;
	/** As high as it is wide unless told. */
	highM?: number;
	texels: number;
	planes: () => SheetPlanes;
}

/** Which surface is to be baked, from which seed and in how many texels a side. */
export interface SheetWork {
	of: SurfaceKind;
	seed: number;
	texels: number;
}

/** For scenes in which nothing is made. */
export const NO_MAKERS: Makers = {
	sky: (_file, name) => {
		throw new Error(`The sky picture "${name}" has not been read.`);
	},
	solids: () => {
		throw new Error("Nothing is at hand that cuts, joins or meets bodies.");
	},
	land: () => {
		throw new Error("Nothing is at hand that wears land.");
	},
	picture: ({ name }) => {
		throw new Error(`The land picture "${name}" has not been read.`);
	},
	sheet: (_key, { of }) => {
		throw new Error(`Nothing is at hand that bakes the surface "${of}".`);
	},
	packed: () => {
		throw new Error("Nothing is at hand that packs surfaces of pictures.");
	},
};

/** Files whose bytes a compile of this document reads; each once. */
export function needs({ pieces }: Pick<ShotDocument, "pieces">): NamedFile[] {
	const files = new Map<string, NamedFile>();
	for (const { shape, hidden } of pieces) {
		if (hidden) continue;
		for (const file of (SHAPES[shape.kind] as ShapeMaker).needs?.(shape) ?? []) files.set(file.blob, file);
	}
	return [...files.values()];
}

/** Brings what a document needs and is not held yet; the same for all hosts, which differ in how they `bring` a file. */
export async function loadBlobs(
	doc: Pick<ShotDocument, "pieces">,
	bring: (file: NamedFile) => Promise<Uint8Array>,
	held: Blobs = NO_BLOBS,
): Promise<Blobs> {
	const files = needs(doc);
	if (files.length === 0) return NO_BLOBS;
	const bytes = await Promise.all(files.map((file) => held.get(file.blob) ?? bring(file)));
	return new Map(files.map(({ blob }, i) => [blob, bytes[i]]));
}

/** Things made, the last so many of them held; what is under way is waited for, not begun again. */
export function heldMaker<T, O>(
	make: (key: string, of: O) => Promise<T>,
	most: number,
): (key: string, of: O) => T | Promise<T> {
	const held = new Map<string, T | Promise<T>>();
	return (key, of) => {
		const known = held.get(key);
		if (known !== undefined) {
			held.delete(key);
			held.set(key, known);
			return known;
		}
		const coming = make(key, of).then(
			(thing) => {
				held.set(key, thing);
				return thing;
			},
			(error) => {
				held.delete(key);
				throw error;
			},
		);
		held.set(key, coming);
		for (const old of held.keys()) if (held.size > most) held.delete(old);
		return coming;
	};
}
