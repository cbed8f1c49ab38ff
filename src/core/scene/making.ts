/** A scene that is being put together. */
import type { ShotDocument } from "../doc/schema.ts";
import type { SceneLight } from "../light/lamps.ts";
import type { Blobs, Makers, Moment } from "./inputs.ts";
import type { PartCache } from "./partCache.ts";
import type { CoverDraw, Draw, Material, ScenePart } from "./scene.ts";

/** Raised when the meaning of parts changes, so that no old part is taken for a new one. */
export const CODE = 2;

/** What a step of a compile yields: nothing, or a promise whose outcome it is to be given. */
export type Steps<T> = Generator<undefined | Promise<unknown>, T, unknown>;

type PartOf<K extends ScenePart["kind"]> = Extract<ScenePart, { kind: K }>;

export class Making {
	readonly parts = new Map<string, ScenePart>();
	readonly materials: Material[] = [];
	readonly draws: Draw[] = [];
	readonly lights: SceneLight[] = [];
	readonly covers: CoverDraw[] = [];

	readonly doc: ShotDocument;
	readonly moment: Moment;
	readonly blobs: Blobs;
	readonly makers: Makers;
	readonly cache: PartCache;

	constructor(doc: ShotDocument, moment: Moment, blobs: Blobs, makers: Makers, cache: PartCache) {
		this.doc = doc;
		this.moment = moment;
		this.blobs = blobs;
		this.makers = makers;
		this.cache = cache;
	}

	/** The part of a key, made when it is not there yet, as one of the scene's. */
	part<K extends ScenePart["kind"]>(kind: K, key: string, make: () => Omit<PartOf<K>, "kind" | "key">): PartOf<K> {
		return this.keep(this.cache.take(kind, key, make));
	}

	keep<P extends ScenePart>(part: P): P {
		this.parts.set(part.key, part);
		return part;
	}

	/** @returns Its number. */
	material(m: Material): number {
		return this.materials.push(m) - 1;
	}
}

/** Waits for what a maker may not have at hand. */
export function* whenMade<T>(thing: T | Promise<T>): Steps<T> {
	return thing instanceof Promise ? ((yield thing) as T) : thing;
}
