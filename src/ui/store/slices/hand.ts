/** What is in hand: selected, or about to be placed. */
import type { LaidWhere, LampKind, ShapeKind, Stands, StrokeTool } from "../../../core/doc/schema.ts";
import type { Taken } from "../../../core/finish/colourMatch.ts";
import type { SetPoint } from "../../../core/shape/handPoints.ts";

type Here = Extract<LaidWhere, { kind: "here" }>;

/** What a brush over the land does: strokes of the hand, or rain along them. */
export type Brush = StrokeTool | "wear";

/** A line that is being drawn, point by point. */
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
	/** The mask that strokes over surfaces go to, and the piece in whose metres it lies, while its brush is in hand. */
	painting: { mask: string; on: string | null } | null;
	/** What is laid in one place and held in the frame, and the lines that it goes through. */
	heldPlace: {
		id: string;
		where: Here;
		on: string | null;
		show: (where: Here | undefined) => void;
		commit: (where: Here) => void;
	} | null;
	paintRadiusM: number;
	/** How much a stroke covers, over which share of the radius it fades, and whether it takes away. */
	paintStrength: number;
	paintSoft: number;
	paintAway: boolean;
	/** Patches of a colour match as shares of the frame: of what is to change, and of what it is to be like, in the frame or in a reference. */
	colouring: { from: readonly [number, number]; to: readonly [number, number]; like: string | null } | null;
	colourTaken: Taken;
	/** Face of the selected piece whose surface is worked on; null for the piece as a whole. */
	face: { of: string; name: string } | null;
	/** Middle of the patch of a reference that surfaces are to look like, as shares of the frame. */
	likePatch: readonly [number, number] | null;
	/** Where it is, in the world. */
	paintAt: readonly [number, number, number] | null;
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
	painting: null,
	heldPlace: null,
	paintRadiusM: 0.4,
	paintStrength: 0.8,
	paintSoft: 0.6,
	paintAway: false,
	paintAt: null,
	colouring: null,
	likePatch: null,
	face: null,
	colourTaken: { brightness: true, saturation: true, warmth: true },
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
