/** What is in hand: selected, or about to be placed. */
import type { LampKind, ShapeKind } from "../../../core/doc/schema.ts";

export interface Hand {
	selected: string[];
	/** The group that was entered: what is pointed at in it is picked by itself. */
	entered: string | null;
	/** One of a repeated piece's copies that is worked on. */
	copy: { of: string; copy: number } | null;
	cover: string | null;
	/** Lamp that is worked on. */
	lamp: string | null;
	/** Kind of lamp that the next click places. */
	placing: LampKind | null;
	/** Shape that the next drag draws. */
	drawing: ShapeKind | null;
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
	lamp: null,
	placing: null,
	drawing: null,
	pickingFogPiece: false,
	focusing: null,
	delivery: null,
};
