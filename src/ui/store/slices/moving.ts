/** How the move is looked at. */
import type { SmallFrame } from "../../../core/study/smallFrame.ts";

export interface Moving {
	/** Frame that is played now; null while the move stands still. */
	playing: number | null;
	/** Frames a second that were shown in the last second of playing. */
	playedRate: number | null;
	/** The small frames are played in the frame in the place of the working view. */
	playsSmall: boolean;
	/** Small frames of the move by their numbers, as they were traced last. */
	smallFrames: ReadonlyMap<number, SmallFrame>;
	/** Small frames that are wanted, 0 without a move. */
	smallWanted: number;
}

export const moving: Moving = {
	playing: null,
	playedRate: null,
	playsSmall: false,
	smallFrames: new Map(),
	smallWanted: 0,
};
