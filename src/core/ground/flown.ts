/** A lens that goes far over a planet keeps its height over the sea there, and its level. */
import type { Camera } from "../doc/schema.ts";
import { type FrameOfView, frameOfView } from "../lens/camera.ts";
import { anglesOf } from "../maths/axes.ts";
import type { Vec3 } from "../maths/vec.ts";
import { levelM, onPlanet, type Planet, turnedOn } from "./planet.ts";

/** The frame of a view over flat land as it stands over the planet. Near the place where that is level it is the same. */
export function viewFlown(planet: Planet | null, view: FrameOfView): FrameOfView {
	const { position, right, up, forward, middle } = view;
	if (!planet || Math.hypot(position[0] - planet.x, position[2] - planet.z) < levelM(planet.radiusM)) return view;
	const turned = (d: Vec3) => turnedOn(planet, position, d);
	return {
		...view,
		position: onPlanet(planet, position),
		...{ right: turned(right), up: turned(up), forward: turned(forward), middle: turned(middle) },
	};
}

/** The same of a camera. */
export function flown(planet: Planet | null, camera: Camera): Camera {
	const view = frameOfView(camera);
	const there = viewFlown(planet, view);
	return there === view ? camera : { ...camera, position: [...there.position], ...anglesOf(there) };
}
