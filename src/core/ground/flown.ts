/** A lens that goes far over a planet keeps its height over the sea there, and its level. */
import type { Camera } from "../doc/schema.ts";
import { anglesOf, cameraAxes } from "../maths/axes.ts";
import { onPlanet, type Planet, turnedOn } from "./planet.ts";

/** The world is level under a lens to this, metres. */
const LEVEL_M = 256;

/** A camera over flat land as it stands over the planet. Near the place where that is level it is the same. */
export function flown(planet: Planet | null, camera: Camera): Camera {
	const { position, headingDeg, pitchDeg, rollDeg } = camera;
	if (!planet || Math.hypot(position[0] - planet.x, position[2] - planet.z) < LEVEL_M) return camera;
	const axes = cameraAxes(headingDeg, pitchDeg, rollDeg);
	const turned = (d: (typeof axes)["up"]) => turnedOn(planet, position, d);
	return {
		...camera,
		position: [...onPlanet(planet, position)],
		...anglesOf({ right: turned(axes.right), up: turned(axes.up), forward: turned(axes.forward) }),
	};
}
