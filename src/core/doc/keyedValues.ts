/** Values of a document that can be keyed, found by name. */
import type { Draft } from "immer";
import { type HolderKind, type KeyedName, keyed, type Move, type ShotDocument, type Track } from "./schema.ts";

type Either = ShotDocument | Draft<ShotDocument>;

/** The track of a value of a thing. */
export const trackOf = (move: Move | null | undefined, value: KeyedName, of?: string): Track | undefined =>
	move?.tracks.find((t) => t.value === value && t.of === of);

/** What holds a value in a document, by its kind; undefined when it is not there. */
const HOLDERS: Record<HolderKind, (doc: Either, of?: string) => object | undefined> = {
	camera: (d) => d.camera,
	piece: (d, of) => d.pieces.find((p) => p.id === of),
	lamp: (d, of) => d.lamps.find((l) => l.id === of),
	sun: (d) => d.air.sun,
	moon: (d) => d.air.moon,
	fog: (d) => d.air.fog,
	water: (d) => d.water,
	finish: (d) => d.finish,
};

export const holderOf = (doc: Either, value: KeyedName, of?: string): object | undefined =>
	HOLDERS[keyed(value).holder](doc, of);

/** A value as it stands in a document; undefined when what holds it is not there. */
export function readKeyed(doc: Either, value: KeyedName, of?: string): unknown {
	const holder = holderOf(doc, value, of);
	return holder === undefined ? undefined : keyed(value).read(holder);
}

/** Puts a value into a draft; nothing where what holds it is not there. */
export function writeKeyed(doc: Draft<ShotDocument>, name: KeyedName, of: string | undefined, value: unknown): void {
	const holder = holderOf(doc, name, of);
	if (holder) Object.assign(holder, keyed(name).fields(value));
}

/** What a value is called: "place of Crane", "focal length". */
export function keyedWords(doc: ShotDocument, value: KeyedName, of?: string): string {
	const { holder, label } = keyed(value);
	const thing = [...doc.pieces, ...doc.lamps].find((t) => t.id === of)?.name;
	return thing ? `${label} of ${thing}` : holder === "camera" ? label : `${label} of the ${holder}`;
}
