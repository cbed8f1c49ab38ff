/** What an edit did, in the words of the contact sheet: the thing by its name, what of it, and the value. */
import { type Edit, editLabel } from "./edits.ts";
import { keyedWords } from "./keyedValues.ts";
import type { ShotDocument } from "./schema.ts";

/** Units by how a field's name ends. */
const UNITS: [ending: RegExp, unit: string][] = [
	[/PerM2$/, " per m²"],
	[/Deg$/, "°"],
	[/Mm$/, " mm"],
	[/Percent$/, " %"],
	[/Px$/, " px"],
	[/K$/, " K"],
	[/Lm$/, " lm"],
	[/M$/, " m"],
	[/S$/, " s"],
];

/** What fields are called where the name without its unit is not the word. */
const WORDS: Record<string, string> = {
	ev100: "exposure",
	fStop: "f",
	on: "",
	hidden: "",
	locked: "",
	rgb: "colour",
};

/** What several things are called, by the field that lists them. */
const MANY = ["pieces", "lamps", "lines"];

const MOST_VALUES = 3;
const MOST_LENGTH = 90;

const number = (v: number): string => String(Number(v.toPrecision(Math.abs(v) >= 100 ? 4 : 3)));

/** "headingDeg", 212.4 → "heading 212°". */
function valueWords(field: string, value: unknown, label: string): string | null {
	const [ending, unit] = UNITS.find(([e]) => e.test(field)) ?? [null, ""];
	const plain = ending ? field.replace(ending, "") : field;
	const spoken =
		WORDS[field] ??
		plain
			.replace(/([A-Z])/g, " $1")
			.toLowerCase()
			.trim();
	// What the label says already is not said again.
	const word = spoken === label ? "" : spoken;
	const space = word ? `${word} ` : "";
	if (typeof value === "number") return `${space}${number(value)}${unit}`;
	if (typeof value === "boolean") {
		if (field === "hidden") return value ? "left out" : "back in";
		if (field === "locked") return value ? "locked" : "unlocked";
		return `${space}${value ? "on" : "off"}`;
	}
	if (typeof value === "string") return value.length > 40 ? `${space}"${value.slice(0, 38)}…"` : `${space}"${value}"`;
	if (value === null) return `no ${spoken}`;
	if (Array.isArray(value) && value.length <= 3 && value.every((v) => typeof v === "number"))
		return `${space}${value.map(number).join(", ")}${unit}`;
	return null;
}

/** Names of the things in a document that carry an id. */
function namesIn(doc: ShotDocument): Map<string, string> {
	const names = new Map<string, string>();
	for (const list of Object.values(doc))
		if (Array.isArray(list))
			for (const item of list as { id?: unknown; name?: unknown }[])
				if (typeof item?.id === "string" && typeof item.name === "string") names.set(item.id, item.name);
	return names;
}

/** Ids of the things that an edit is about, in its own fields or one list or thing deep. */
function idsOf(values: object): string[] {
	const own = values as Record<string, unknown>;
	if (typeof own.id === "string") return [own.id];
	if (Array.isArray(own.ids)) return own.ids as string[];
	return Object.values(own).flatMap((v) => {
		const one = (thing: unknown): string[] => {
			const id = (thing as { id?: unknown } | null)?.id;
			return typeof id === "string" ? [id] : [];
		};
		return Array.isArray(v) ? v.flatMap(one) : one(v);
	});
}

/** Values that were set: those of the edit, of its one change, or of the one thing in its list when it is not new. */
function valuesOf(values: object): [string, unknown][] {
	return Object.entries(values).flatMap(([key, v]): [string, unknown][] => {
		if (key === "id" || key === "ids" || key === "index") return [];
		if (["change", "surface", "lens"].includes(key) && v && typeof v === "object") return Object.entries(v);
		if (key === "pieces" && Array.isArray(v) && v.length === 1)
			return Object.entries(v[0] as object).filter(([k]) => k !== "id");
		return [[key, v]];
	});
}

/**
 * What an edit did, told after it: "density of reeds: 3.2 per m²", "sun: heading 212°, elevation 4°".
 * `before` and `after` are the documents on its two sides, for names.
 */
export function tellEdit(edit: Edit, before: ShotDocument, after: ShotDocument): string {
	if (edit.name === "move.at") {
		const inner = tellEdit(edit.edit as unknown as Edit, before, after);
		return `${inner}, at ${number(edit.keys[0].timeS)} s`.slice(0, MOST_LENGTH);
	}
	if (edit.name === "move.key") {
		const words = edit.keys.map(({ value, of }) => keyedWords(after, value, of));
		const more = words.length - MOST_VALUES;
		return `key at ${number(edit.keys[0].timeS)} s: ${words.slice(0, MOST_VALUES).join(", ")}${more > 0 ? ` and ${more} more` : ""}`.slice(
			0,
			MOST_LENGTH,
		);
	}
	const { name, ...values } = edit;
	const label = editLabel(name);
	const ids = idsOf(values);
	const [now, then] = [namesIn(after), namesIn(before)];
	const named = ids.map((id) => now.get(id) ?? then.get(id)).filter((n): n is string => !!n);
	const of =
		named.length === 1
			? named[0]
			: named.length > 1
				? `${named.length} ${MANY.find((m) => m in values) ?? "things"}`
				: "";
	const adds = /\.(add\w*|remove\w*|keep|take)$/.test(name);
	const told = adds
		? []
		: valuesOf(values)
				.map(([field, v]) => valueWords(field, v, label))
				.filter((w) => w !== null)
				.slice(0, MOST_VALUES);
	// A label that is a verb stands before its thing: "move crane"; a noun is told of it: "surface of crane".
	const verb = /^(add|delete|move|turn|size|push|stand|name|keep|take|remove|describe|hang|adjust|draw|show)\b/.test(
		label,
	);
	const thing = !of ? label : `${label}${verb ? " " : " of "}${of}`;
	return `${thing}${told.length ? `: ${told.join(", ")}` : ""}`.slice(0, MOST_LENGTH);
}
