/** Measures that kinds of shapes have of their own: their limits, their usual value, and the words that are said of them. */
import { z } from "zod";

export interface Measure {
	word: string;
	of: "metres" | "share" | "count" | "seed" | "choice";
	/** What it is when nothing is said of it; null where the shape finds it by itself. */
	usual: number | string | null;
	min: number;
	max: number;
	options?: readonly string[];
}

/** What stands in a schema's meta under this name. */
const UNDER = "measure";

const told = <T extends z.ZodType>(schema: T, measure: Measure): T => schema.meta({ [UNDER]: measure });

const numbers = (of: Measure["of"], schema: z.ZodNumber) => (word: string, min: number, max: number, usual: number) =>
	told(schema.min(min).max(max).default(usual), { word, of, usual, min, max });

/** A length in metres. */
export const length = numbers("metres", z.number());
/** A part of one. */
export const share = (word: string, usual: number, max = 1) => numbers("share", z.number())(word, 0, max, usual);
export const count = numbers("count", z.int());
/** What chance begins with. */
export const seed = () => numbers("seed", z.int())("Seed", 0, 9999, 1);

/** A length in metres that is none at all while nothing is said of it. */
export const lengthIfAny = (word: string, max: number) =>
	told(z.number().min(0).max(max).optional(), { word, of: "metres", usual: 0, min: 0, max });

export const shareIfAny = (word: string, max: number) =>
	told(z.number().min(0).max(max).optional(), { word, of: "share", usual: 0, min: 0, max });

/** A length in metres; null where the shape finds it by itself. */
export const lengthOrOwn = (word: string, min: number, max: number) =>
	told(z.number().min(min).max(max).nullable().default(null), { word, of: "metres", usual: null, min, max });

export const choice = <const O extends readonly [string, ...string[]]>(word: string, options: O, usual: O[number]) =>
	told(z.enum(options).default(usual as never), { word, of: "choice", usual, min: 0, max: 0, options });

/** The measures of a kind's schema by their fields, in its order. */
export const measuresIn = (schema: z.ZodObject): [field: string, measure: Measure][] =>
	Object.entries(schema.shape).flatMap(([field, of]) => {
		const measure = (of as z.ZodType).meta()?.[UNDER] as Measure | undefined;
		return measure ? [[field, measure] as [string, Measure]] : [];
	});
