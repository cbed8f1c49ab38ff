/** What is kept about a shot beside its document, as store, server and page all see it. */
import type { Area } from "../maths/area.ts";
import type { Rate, ShotDocument, Spread } from "./schema.ts";

/** How a shot stands, without its document. */
export interface ShotStanding {
	id: string;
	title: string;
	revision: number;
	/** The revision whose document this is: another one after a return to it. */
	standsFor: number;
	/** Raised by every edit and every move of the head. */
	sequence: number;
	canUndo: boolean;
	canRedo: boolean;
}

export interface ShotState extends ShotStanding {
	document: ShotDocument;
}

export interface ShotLine {
	id: string;
	title: string;
	revision: number;
	updatedAt: string;
	thumbnail: string | null;
}

/** Back to the parent, on to the newest child, or a return to any revision, which is an edit of its own. */
export type HeadMove = "undo" | "redo" | { open: number };

export interface Checkpoint {
	id: string;
	name: string;
	revision: number;
	thumbnail: string | null;
	createdAt: string;
}

export interface HistoryLine {
	revision: number;
	/** What was done: the thing, what of it, the value. */
	label: string;
	at: string;
}

/** The end of a branch of the log that was left by an edit after an undo. */
export interface LeftBehind extends HistoryLine {
	/** The frame as it stood there, when a page was there to keep it. */
	thumbnail: string | null;
}

/** Files that a video of printed frames comes in. */
export const VIDEOS = { mp4: "MP4", webm: "WebM" } as const;
export type VideoKind = keyof typeof VIDEOS;
export const VIDEO_KINDS = Object.keys(VIDEOS) as VideoKind[];

export interface VideoLine {
	id: string;
	kind: VideoKind;
	state: "waiting" | "making" | "done" | "failed";
	/** Frames that are in it, and those that are to be. */
	done: number;
	frames: number;
	blob: string | null;
	message: string | null;
}

export type PrintState = "queued" | "tracing" | "paused" | "assembling" | "done" | "cancelled" | "failed";

export interface PrintLine {
	id: string;
	shotId: string;
	revision: number;
	width: number;
	height: number;
	samples: number;
	seed: number;
	/** Noise in percent at which its tiles stop, null when they take all samples. */
	noisePercent: number | null;
	spread: Spread;
	/** Pixels that are printed when it is a part: left, top, width, height. */
	part: Area | null;
	/** Pixels that are traced for it, in those of the frame: more than it shows where its lens bends, or with an overscan. */
	area: Area;
	state: PrintState;
	message: string | null;
	createdAt: string;
	finishedAt: string | null;
	exr: string | null;
	thumbnail: string | null;
	pixelsSha256: string | null;
	ev100: number;
	rays: number;
	seconds: number | null;
	/** Share of the blocks that are traced. */
	done: number;
	/** Samples of a pixel that it may take yet, and those that all prints ordered before it may take. */
	samplesLeft: number;
	samplesAhead: number;
	/** Seconds left by the measured time of its units, null before the first. */
	secondsLeft: number | null;
	/** Moment of the move that a still shows, null for the document as it is. */
	timeS: number | null;
	/** Of frames of a move: how many are wanted and done, the first and the last of them, frames a second. */
	sequence: {
		frames: number;
		done: number;
		first: number;
		last: number;
		rate: Rate;
		/** Frames whose neighbours have been taken in, in order. */
		steadied: number[];
		videos: VideoLine[];
	} | null;
}
