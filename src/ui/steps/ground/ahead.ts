import { alongHeading } from "../../../core/ground/walk.ts";
import { useShot } from "../../store/shotStore.ts";
import { useStudio } from "../../store/studio.ts";

/** Metres before the lens about which something new happens to the land. */
const AHEAD_M = 40;

/** Place of the land before the lens, or before the free view, and the heading in which that looks. */
export function placeAhead(): [x: number, z: number, headingDeg: number] {
	const { free } = useStudio.getState();
	const { position, headingDeg } = free ?? useShot.getState().document.camera;
	const [dx, dz] = alongHeading(headingDeg, 0, AHEAD_M);
	return [position[0] + dx, position[2] + dz, headingDeg];
}
