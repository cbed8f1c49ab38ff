/** A scene that is being put together. */
import type { Camera, ShotDocument } from "../doc/schema.ts";
import { type Planet, planetAbout } from "../ground/planet.ts";
import { footOfWay } from "../ground/sight.ts";
import { roomAbout, widenedWay } from "../lens/character.ts";
import type { SceneLight } from "../light/lamps.ts";
import { documentAt, withFocusMeasured } from "../time/documentAt.ts";
import type { Moment } from "../time/frames.ts";
import { lensWay } from "../time/lensWay.ts";
import type { Blobs, Makers } from "./inputs.ts";
import type { PartCache } from "./partCache.ts";
import type { CoverDraw, Draw, Material, ScenePart } from "./scene.ts";

/** Raised when the meaning of parts changes, so that no old part is taken for a new one. */
export const CODE = 3;

/** What a step of a compile yields: nothing, or a promise whose outcome it is to be given. */
export type Steps<T> = Generator<undefined | Promise<unknown>, T, unknown>;

type PartOf<K extends ScenePart["kind"]> = Extract<ScenePart, { kind: K }>;

export class Making {
	readonly parts = new Map<string, ScenePart>();
	readonly materials: Material[] = [];
	readonly draws: Draw[] = [];
	/** Of the ground, standing on the planet as pieces do: it rises to meet them. */
	readonly banks: Draw[] = [];
	readonly lights: SceneLight[] = [];
	readonly covers: CoverDraw[] = [];
	/** Pieces of which nothing is left. */
	readonly gone: string[] = [];
	/** Words for surfaces that are laid and not known any more. */
	readonly unknownSurfaces: string[] = [];

	/** The shot as it is in the middle of the shutter's time, when it opens and when it closes: three times the same while all stands still. */
	readonly doc: ShotDocument;
	readonly opening: ShotDocument;
	readonly closing: ShotDocument;
	/** The shot itself, for what is made once for its whole move. */
	readonly whole: ShotDocument;
	/** Cameras that together see all that is to be made for, with the room about the frame that is traced. */
	readonly way: readonly Camera[];
	/** See {@link SceneRoot}. */
	readonly room: number;
	readonly planet: Planet | null;
	/** Seconds of the move, 0 in the still. */
	readonly timeS: number;
	readonly blobs: Blobs;
	readonly makers: Makers;
	readonly cache: PartCache;

	constructor(doc: ShotDocument, moment: Moment, blobs: Blobs, makers: Makers, cache: PartCache) {
		const { timeS, shutterS } = moment;
		const at = (t: number | null) => withFocusMeasured(documentAt(doc, t));
		this.whole = doc;
		this.timeS = timeS === null ? 0 : timeS + shutterS / 2;
		this.doc = at(timeS === null ? null : this.timeS);
		this.opening = shutterS > 0 ? at(timeS) : this.doc;
		this.closing = shutterS > 0 && timeS !== null ? at(timeS + shutterS) : this.doc;
		this.room = roomAbout(doc);
		this.way = widenedWay(timeS === null ? [doc.camera] : lensWay(doc), this.room);
		this.planet = planetAbout(doc.ground, ...footOfWay(this.way.map(({ position: [x, , z] }) => ({ x, z }))));
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
