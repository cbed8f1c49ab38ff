/** What all entries share that wear the land over a square of their own. */
import type { NumberField } from "../../doc/field.ts";
import { millimetres } from "../../maths/functions.ts";
import type { Worn } from "./entry.ts";

interface PlaceWorn {
	x: number;
	z: number;
	radiusM: number;
	featherM: number;
	/** 2 to the power of it are the cells of a side. */
	fineness: number;
}

/** Fineness while a hand waits. */
export const COARSE = 7;

export const usualPlace = (x: number, z: number): PlaceWorn => ({
	x: millimetres(x),
	z: millimetres(z),
	radiusM: 400,
	featherM: 120,
	fineness: 9,
});

export const placeWorn = ({ x, z, radiusM, featherM, fineness }: PlaceWorn): Omit<Worn, "wear"> => ({
	x,
	z,
	radiusM,
	featherM,
	cells: 2 ** fineness,
});

/** Side of a cell in words. */
export function stepWords({ radiusM, featherM, fineness }: PlaceWorn): string {
	const step = (2 * (radiusM + featherM)) / 2 ** fineness;
	return `in steps of ${step < 10 ? step.toFixed(1) : step.toFixed(0)} m`;
}

const FIELDS: readonly NumberField<PlaceWorn>[] = [
	{ label: "Within", value: "radiusM", unit: "m", min: 5, max: 20_000, step: 10, digits: 0 },
	{ label: "Goes over in", value: "featherM", unit: "m", min: 1, max: 10_000, step: 10, digits: 0 },
	{ label: "Fineness", value: "fineness", unit: "", min: 6, max: 11, step: 1, digits: 0, whole: true },
	{ label: "Right", value: "x", unit: "m", min: -1e6, max: 1e6, step: 1, digits: 1 },
	{ label: "Away", value: "z", unit: "m", min: -1e6, max: 1e6, step: 1, digits: 1, times: -1 },
];

/** The numbers of where it wears; they are those of any entry that has such a place. */
export const wornFields = <E extends PlaceWorn>() =>
	FIELDS as readonly NumberField<unknown>[] as readonly NumberField<E>[];
