/** Patterns over a square that repeat after it. Each asks for a seed of its own, in the order in which a recipe asks for them. */
import { type Amount, Field } from "./field.ts";

/** Where a pattern is looked at: right and towards, 0 to 1 over the square; beyond, it goes on. */
export interface Place {
	u: Field;
	v: Field;
}

const HERE: Place = { u: new Field("right"), v: new Field("towards") };

/** A place among scattered points: how far the nearest two are, in cells, and the nearest one's own number from 0 to 1. */
export interface Scattered {
	nearest: Field;
	second: Field;
	lot: Field;
}

/** Blocks in courses: how many rows over the square and how many of them in a row, and by which share each row is shifted. */
export interface Courses {
	rows: number;
	inRow: number;
	shift: number;
	/** How far each row strays from its shift, as a share of a block. */
	strays?: number;
}

/** A place in a course: metres to the block's nearest edge, beside it and under or over it, shares across the block, and its own number. */
export interface InBlock {
	edgeM: Field;
	asideM: Field;
	underM: Field;
	across: Field;
	along: Field;
	lot: Field;
	/** The number of its row, from 0. */
	row: Field;
}

export interface Cloud {
	/** Cells of the coarsest noise over the square; `along` where it is drawn out. */
	cells: number;
	along?: number;
	octaves?: number;
	/** How strong each noise is beside the one before. */
	gain?: number;
	at?: Place;
}

const STRIDE = 0x9e3779b9;

export class Patterns {
	readonly here = HERE;
	private asked = 0;
	private seed: number;

	constructor(seed: number) {
		this.seed = seed;
	}

	private get own(): number {
		this.asked++;
		return (Math.imul(this.seed + 1, 0x85ebca77) + Math.imul(this.asked, STRIDE)) | 0;
	}

	/** Sums of gradient noise (Perlin 2002), about −1 to 1 and of mean 0. */
	cloudy({ cells, along = cells, octaves = 5, gain = 0.5, at = HERE }: Cloud): Field {
		return new Field("noise", [at.u, at.v], [cells, along, octaves, gain, this.own]);
	}

	/** Points scattered one to a cell, `cells` across the square. */
	scattered({
		cells,
		along = cells,
		strays = 0.8,
		at = HERE,
	}: {
		cells: number;
		along?: number;
		strays?: number;
		at?: Place;
	}): Scattered {
		const all = new Field("cells", [at.u, at.v], [cells, along, strays, this.own]);
		const [nearest, second, lot] = [0, 1, 2].map((n) => new Field("result", [all], [n]));
		return { nearest, second, lot };
	}

	/** A number from 0 to 1 of a pair of whole numbers, which repeat after so many. */
	lot(x: Field, y: Field, periods: readonly [number, number]): Field {
		return new Field("lot", [x, y], [...periods, this.own]);
	}

	courses({ rows, inRow, shift, strays = 0 }: Courses, sideM: number, at: Place = HERE): InBlock {
		const high = at.v.times(rows);
		const level = high.floor;
		const row = level.after(rows);
		let x = at.u.times(inRow).plus(row.times(shift));
		if (strays) x = x.plus(this.lot(row, row, [rows, rows]).times(strays));
		const column = x.floor;
		const across = x.minus(column);
		const along = high.minus(level);
		const asideM = across.atMost(across.from(1)).times(sideM / inRow);
		const underM = along.atMost(along.from(1)).times(sideM / rows);
		return {
			edgeM: asideM.atMost(underM),
			asideM,
			underM,
			across,
			along,
			lot: this.lot(column, row, [inRow, rows]),
			row,
		};
	}

	/** A place that strays by so much of the square, in clouds of so many cells. */
	strayed(by: number, cells: number, octaves = 3, at: Place = HERE): Place {
		return this.moved(this.cloudy({ cells, octaves, at }).times(by), this.cloudy({ cells, octaves, at }).times(by), at);
	}

	/** A place that lies aside by shares of the square. */
	moved(u: Amount, v: Amount, at: Place = HERE): Place {
		return { u: at.u.plus(u), v: at.v.plus(v) };
	}
}
