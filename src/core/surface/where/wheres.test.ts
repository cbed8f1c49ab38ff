import { describe, expect, it } from "vitest";
import { LaidWhere } from "../../doc/schema.ts";
import { QUANTITIES } from "./where.ts";
import { takenOn, WHERES, whereOf, whereWords } from "./wheres.ts";

describe.each(Object.keys(WHERES) as LaidWhere["kind"][])("the where %s of a surface over another", (kind) => {
	const { usual, act, sentence, fields, band } = whereOf({ kind });

	it("is taken in as one of a document, in words of its own", () => {
		expect(LaidWhere.parse(usual)).toEqual(usual);
		expect(usual.kind).toBe(kind);
		expect(Object.values(WHERES).filter((other) => other.act === act)).toHaveLength(1);
	});

	it("is a sentence and a band at both ends of each number that a person sets, and documents hold them", () => {
		for (const { value, min, max, times = 1 } of fields)
			for (const end of [min, max]) {
				const where = LaidWhere.parse({ ...usual, [value]: end / times });
				expect(sentence(where)).not.toMatch(/NaN|undefined/);
				const { of, rises, falls } = band(where);
				expect(QUANTITIES[of]).toBeGreaterThan(0);
				for (const [from, to] of [rises, falls]) {
					expect(Number.isFinite(from) && Number.isFinite(to)).toBe(true);
					expect(to).toBeGreaterThanOrEqual(from);
				}
			}
	});
});

describe("wheres", () => {
	it("are all offered, on plants but for what asks what they have not", () => {
		expect(takenOn(false)).toHaveLength(Object.keys(WHERES).length);
		const kinds = takenOn(true).map(({ taken }) => taken("new").kind);
		for (const kind of ["hollows", "edges", "touching", "here", "painted"]) expect(kinds).not.toContain(kind);
		expect(kinds).toContain("facing");
		for (const { taken } of takenOn(false)) expect(LaidWhere.safeParse(taken("new")).success).toBe(true);
		const painted = takenOn(false)
			.map(({ taken }) => taken("new"))
			.find((one) => one.kind === "painted");
		expect(painted).toMatchObject({ mask: "new" });
	});

	it("are numbered apart, and said together", () => {
		expect(new Set(Object.values(QUANTITIES)).size).toBe(Object.keys(QUANTITIES).length);
		expect(whereWords([])).toBe("everywhere");
		expect(whereWords([WHERES.facing.usual, WHERES.high.usual])).toBe(
			"where it leans less than 40°, from -0.10 to 0.40 m high",
		);
	});
});
