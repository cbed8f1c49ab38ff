/** A number of something in a document as a person sets it. */
export interface NumberField<T> {
	label: string;
	/** Its name in the document; what is not there counts as 0. */
	value: { [K in keyof T]-?: T[K] extends number | undefined ? K : never }[keyof T];
	unit: string;
	min: number;
	max: number;
	step: number;
	digits: number;
	/** The person's number is so many times the document's. */
	times?: number;
	/** It is a whole number. */
	whole?: boolean;
	/** It is dragged along a thin rule, not only typed; on one by its logarithm. */
	ruled?: boolean;
	logarithmic?: boolean;
}

/** One of several words of something in a document, as a person picks it. */
export interface PickField<T> {
	label: string;
	value: { [K in keyof T]-?: NonNullable<T[K]> extends string ? K : never }[keyof T];
	/** The first is meant where it has none. */
	options: readonly (readonly [value: string, word: string])[];
	/** Whether it does anything to this one; else it is not offered. */
	matters?: (of: T) => boolean;
}
