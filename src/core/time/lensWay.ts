/** The lens over a whole move: what is made for it is made once, for all that it sees. */
import type { Camera, ShotDocument } from "../doc/schema.ts";
import { frameOfView } from "../lens/camera.ts";
import { dot } from "../maths/vec.ts";
import { documentAt } from "./documentAt.ts";
import { shutterSeconds, timeOfFrame } from "./frames.ts";

/** Values of the camera by which what is seen changes. */
const SEEING = ["camera.place", "camera.direction", "camera.focal"];
const MOST = 240;
/** Share of the frame's half width by which it turns or zooms before it is noted again, and metres that it goes. */
const STEP = 0.12;
const STEP_M = 0.24;

/** Whether the lens itself goes anywhere, turns or zooms. */
export const lensGoes = ({ move }: Pick<ShotDocument, "move">): boolean =>
	!!move && (!!move.tremor?.amountDeg || !!move.keepsSizeOf || move.tracks.some((t) => SEEING.includes(t.value)));

const ways = new WeakMap<ShotDocument, readonly Camera[]>();

/**
 * Cameras that together see all that a move sees: the first, the last, and those between as often as the view has changed
 * by a part of itself; one alone, the still's own, where the lens does not go.
 */
export function lensWay(doc: ShotDocument): readonly Camera[] {
	const known = ways.get(doc);
	if (known) return known;
	const way = lensGoes(doc) ? noted(doc) : [doc.camera];
	ways.set(doc, way);
	return way;
}

function noted(doc: ShotDocument): readonly Camera[] {
	const move = doc.move as NonNullable<ShotDocument["move"]>;
	const last = move.frames - 1;
	const at = (frame: number, late = 0) => documentAt(doc, timeOfFrame(frame, move.rate) + late).camera;
	// Of a long move every frame is too much: as many as tell its way.
	const every = Math.max(1, Math.floor(last / (MOST * 4)));
	const cameras: Camera[] = [];
	for (let frame = 0; frame < last; frame += every) cameras.push(at(frame));
	let out = changed(cameras, 1);
	for (let coarser = 2; out.length >= MOST; coarser *= 2) out = changed(cameras, coarser);
	return [...out, at(last, shutterSeconds(move))];
}

/** Those from which the view differs from that of the one before by so many steps. */
function changed(cameras: readonly Camera[], steps: number): Camera[] {
	const out = [cameras[0]];
	let before = frameOfView(cameras[0]);
	for (const camera of cameras) {
		const view = frameOfView(camera);
		const turned = 1 - dot(view.forward, before.forward) > (steps * STEP * view.tanX) ** 2 / 2;
		const rolled = Math.abs(dot(view.right, before.up)) > steps * STEP;
		const zoomed = Math.abs(view.tanX / before.tanX - 1) > steps * STEP;
		const gone = Math.hypot(...view.position.map((v, c) => v - before.position[c]));
		if (!turned && !rolled && !zoomed && gone <= steps * STEP_M) continue;
		out.push(camera);
		before = view;
	}
	return out;
}
