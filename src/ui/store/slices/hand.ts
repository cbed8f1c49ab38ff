/** What is in hand: selected, or about to be placed. */
import type { LampKind, ShapeKind, Stands, StrokeTool } from "../../../core/doc/schema.ts";
import type { SetPoint } from "../../../core/shape/handPoints.ts";

/** A line that is being drawn, point by point. */
/** What a brush over the land does: strokes of the hand, or rain along them. */
export type Brush = StrokeTool | "wear";

export interface DrawnSoFar {
	kind: ShapeKind;
	points: readonly SetPoint[];
	stands: Stands;
	/** It stands in an upright plane through its first point, which is looked at along the heading. */
	upright: boolean;
	headingDeg: number;
}

export interface Hand {
	selected: string[];
	/** The group that was entered: what is pointed at in it is picked by itself. */
	entered: string | null;
	/** One of a repeated piece's copies that is worked on. */
	copy: { of: string; copy: number } | null;
	cover: string | null;
	/** Entry of the land's ledger that is worked on. */
	landEntry: string | null;
	/** Point of its line that is worked on, by its number. */
	landPoint: number | null;
	/** The next stroke over the frame is a line that far land is to meet. */
	skylining: boolean;
	/** What strokes over the land do, while a brush is in hand. */
	brush: Brush | null;
	/** Its radius and its strength, metres. */
	brushRadiusM: number;
	brushByM: number;
	/** How far the wearing brush wears, 0 to 1. */
	brushWear: number;
	/** Where it lies on the land, right and towards; and what the stroke under way begins to hide, in words. */
	brushAt: readonly [number, number] | null;
	brushTold: string;
	/** Lamp that is worked on. */
	lamp: string | null;
	/** Kind of lamp that the next click places. */
	placing: LampKind | null;
	/** Shape that the next drag draws. */
	drawing: ShapeKind | null;
	/** Line that the next press goes on with. */
	sketch: DrawnSoFar | null;
	/** Points of it are set soft, and lines stand upright. */
	sketchSoft: boolean;
	sketchUpright: boolean;
	/** What is moved comes to what is near, while its key is held; and what it came to last, in words. */
	snapping: boolean;
	snapTold: string;
	/** Piece for whose place candidates are looked at. */
	exchanging: string | null;
	/** A point of a drawn piece that is worked on, by its number. */
	point: { of: string; n: number } | null;
	pickingFogPiece: boolean;
	/** What the next click in the frame makes sharp: the place, or a piece that the focus follows. */
	focusing: "place" | "piece" | null;
	/** Delivery that is worked on. */
	delivery: string | null;
}

export const hand: Hand = {
	selected: [],
	entered: null,
	copy: null,
	cover: null,
	landEntry: null,
	landPoint: null,
	skylining: false,
	brush: null,
	brushRadiusM: 6,
	brushByM: 1,
	brushWear: 0.4,
	brushAt: null,
	brushTold: "",
	lamp: null,
	placing: null,
	drawing: null,
	sketch: null,
	sketchSoft: false,
	sketchUpright: false,
	snapping: false,
	snapTold: "",
	exchanging: null,
	point: null,
	pickingFogPiece: false,
	focusing: null,
	delivery: null,
};
