/** How the frame is looked at. */
import type { Camera } from "../../../core/doc/schema.ts";
import type { Look } from "../../view/looks.ts";

export type FreePose = Pick<Camera, "position" | "headingDeg" | "pitchDeg"> &
	Partial<Pick<Camera, "rollDeg" | "focalMm" | "shiftMm">>;

export interface Zoom {
	k: number;
	/** Place of the frame (0 to 1) that lies in the middle. */
	x: number;
	y: number;
}

export interface Looking {
	free: FreePose | null;
	/** In a free view the arrows go along the view, whatever the ground does. */
	flying: boolean;
	/** Metres of one step in a free view. */
	strideM: number;
	zoom: Zoom;
	grey: boolean;
	/** The frame is shown as small as a stamp while its key is held. */
	small: boolean;
	/** The reference over the frame is taken away while its key is held. */
	blinking: boolean;
	mirrored: boolean;
	/** The working view shows what lies before and behind the focus as the lens does. */
	blurred: boolean;
	look: Look;
	/** Values that the look of tones tells apart. */
	valueSteps: number;
	/** Print that lies over the frame. */
	print: string | null;
	/** Layer of the print that is shown. */
	layer: string;
	/** Metres at the white and at the darkest grey of the layer of depth that is shown. */
	depthRange: readonly [number, number] | null;
	/** What lies under the pointer in that print, in words. */
	underPointer: string | null;
	/** Proof and print are shown without their noise, or as they were traced. */
	clean: boolean;
	/** Printed frames of a move are shown, and filmed, with their neighbours taken in. */
	steady: boolean;
	/** The proof goes no farther than its first samples, so that the machine has its hands free. */
	held: boolean;
	frameSize: { width: number; height: number };
}

export const looking: Looking = {
	free: null,
	flying: false,
	strideM: 1,
	zoom: { k: 1, x: 0.5, y: 0.5 },
	grey: false,
	small: false,
	blinking: false,
	mirrored: false,
	blurred: true,
	look: "surfaces",
	valueSteps: 4,
	print: null,
	layer: "picture",
	depthRange: null,
	underPointer: null,
	clean: true,
	steady: true,
	held: false,
	frameSize: { width: 0, height: 0 },
};
