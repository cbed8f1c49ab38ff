/** A lens that goes far over a planet keeps its height over the sea there, and its level. */
import type { Camera } from "../doc/schema.ts";
import type { FrameOfView } from "../lens/camera.ts";
import { anglesOf, cameraAxes } from "../maths/axes.ts";
import type { Vec3 } from "../maths/vec.ts";
import { onPlanet, type Planet, turnedOn } from "./planet.ts";

/** The world is level under a lens to this, metres. */
const LEVEL_M = 256;

const isNear = (planet: Planet, [x, , z]: readonly number[]): boolean =>
	Math.hypot(x - planet.x, z - planet.z) < LEVEL_M;

/** The frame of a view over flat land as it stands over the planet. */
export function viewFlown(planet: Planet | null, view: FrameOfView): FrameOfView {
	const { position, right, up, forward, middle } = view;
	if (!planet || isNear(planet, position)) return view;
	const turned = (d: Vec3) => turnedOn(planet, position, d);
	return {
		...view,
		position: onPlanet(planet, position),
		...{ right: turned(right), up: turned(up), forward: turned(forward), middle: turned(middle) },
	};
}

/** A camera over flat land as it stands over the planet. Near the place where that is level it is the same. */
export function flown(planet: Planet | null, camera: Camera): Camera {
	const { position, headingDeg, pitchDeg, rollDeg } = camera;
	if (!planet || isNear(planet, position)) return camera;
	const axes = cameraAxes(headingDeg, pitchDeg, rollDeg);
	const turned = (d: (typeof axes)["up"]) => turnedOn(planet, position, d);
	return {
		...camera,
		position: [...onPlanet(planet, position)],
		...anglesOf({ right: turned(axes.right), up: turned(axes.up), forward: turned(axes.forward) }),
	};
}
