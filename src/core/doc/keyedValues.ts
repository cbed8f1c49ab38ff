/** Values of a document that can be keyed, found by name. */
import type { Draft } from "immer";
import { type HolderKind, type KeyedName, keyed, type Move, type ShotDocument, type Track } from "./schema.ts";

type Either = ShotDocument | Draft<ShotDocument>;

/** The track of a value of a thing. */
export const trackOf = (move: Move | null | undefined, value: KeyedName, of?: string): Track | undefined =>
	move?.tracks.find((t) => t.value === value && t.of === of);

/** Where holders lie in a document: in a list, by their id, or beside others. */
type Lies = { list: "pieces" | "lamps" } | { in: "air" | null };
const LIES: Record<HolderKind, Lies> = {
	camera: { in: null },
	piece: { list: "pieces" },
	lamp: { list: "lamps" },
	sun: { in: "air" },
	moon: { in: "air" },
	fog: { in: "air" },
	water: { in: null },
	finish: { in: null },
};

/** What holds a value in a document; undefined when it is not there. */
function holderOf(doc: Either, value: KeyedName, of?: string): object | undefined {
	const kind = keyed(value).holder;
	const lies = LIES[kind];
	if ("list" in lies) return doc[lies.list].find((item) => item.id === of);
	return ((lies.in ? doc[lies.in] : doc) as unknown as Record<string, object | undefined>)[kind] ?? undefined;
}

/** The document with fields of its holders of a kind changed, by their ids; all else the same objects. */
export function withFields(doc: ShotDocument, kind: HolderKind, fields: ReadonlyMap<string, object>): ShotDocument {
	const lies = LIES[kind];
	if ("list" in lies) {
		const list = doc[lies.list] as { id: string }[];
		return {
			...doc,
			[lies.list]: list.map((item) => (fields.has(item.id) ? { ...item, ...fields.get(item.id) } : item)),
		};
	}
	const around = (lies.in ? doc[lies.in] : doc) as unknown as Record<string, object | undefined>;
	if (!around[kind]) return doc;
	const changed = { ...around, [kind]: { ...around[kind], ...fields.get("") } };
	return (lies.in ? { ...doc, [lies.in]: changed } : changed) as ShotDocument;
}

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
