/** The sun that shines in the shot: the one that was set, or that of a sky picture, which turns with the picture. */
import type { Edit } from "../../core/doc/edits.ts";
import { DEG } from "../../core/maths/functions.ts";
import { useShown } from "../store/shotStore.ts";
import { useStudio } from "../store/studio.ts";

export interface ShownSun {
	headingDeg: number;
	elevationDeg: number;
	/** It belongs to a sky picture. */
	ofPicture: boolean;
	/** The edit that brings it to another heading. */
	turnTo: (headingDeg: number) => Edit;
}

const whole = (deg: number) => ((deg % 360) + 360) % 360;

/** Null under a sky picture without a sun. */
export function useShownSun(): ShownSun | null {
	const { sun, picture } = useShown().air;
	const dome = useStudio((s) => s.root?.dome ?? null);
	if (!picture || picture.sun)
		return {
			...sun,
			ofPicture: false,
			turnTo: (headingDeg) => ({ name: "air.setSun", headingDeg: whole(headingDeg) }),
		};
	if (!dome?.picture?.ownSun) return null;
	// The scene follows the document by a moment: the sun is where the picture is turned to already.
	const [x, y, z] = dome.sunDirection;
	const unturned = Math.atan2(x, -z) / DEG - dome.picture.turn * 360;
	return {
		headingDeg: unturned + picture.turnDeg,
		elevationDeg: Math.asin(y) / DEG,
		ofPicture: true,
		turnTo: (headingDeg) => ({ name: "air.setPicture", turnDeg: Math.round(whole(headingDeg - unturned) * 10) / 10 }),
	};
}
