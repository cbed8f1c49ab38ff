/** What is worked on over the reference. */
import type { MatchAxis } from "../../../core/doc/schema.ts";
import type { EdgeFamily } from "../../../core/match/families.ts";
import type { StaffKind } from "./names.ts";

export type MatchTool = "line" | "height" | "length" | "circle" | "curve";

export interface Matching {
	axis: MatchAxis;
	/** What a drag over the reference draws. */
	tool: MatchTool;
	line: { id: string; end: 1 | 2; held?: boolean } | null;
	/** Known size or circle that is worked on, or the horizon. */
	mark: string | null;
	/** Families of edges found in the picture, not yet taken or refused; the one that is pointed at. */
	proposals: EdgeFamily[] | null;
	proposalOver: number | null;
	/** Place of the reference that is seen enlarged, in shares of the frame. */
	magnified: { x: number; y: number } | null;
	/** Place of the staff that checks a match, in world metres. */
	staff: [number, number] | null;
	/** What stands there. */
	staffKind: StaffKind;
	/** Upright lines over the reference, to be held against its own. */
	plumb: boolean;
	placingStaff: boolean;
}

export const matching: Matching = {
	axis: "along",
	tool: "line",
	line: null,
	mark: null,
	proposals: null,
	proposalOver: null,
	magnified: null,
	staff: null,
	staffKind: "staff",
	plumb: false,
	placingStaff: false,
};
