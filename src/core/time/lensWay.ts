/** The lens over a whole move: what is made for it is made once, for all that it sees. */
import type { Camera, ShotDocument } from "../doc/schema.ts";
import { frameOfView } from "../lens/camera.ts";
import { dot } from "../maths/vec.ts";
import { documentAt } from "./documentAt.ts";
import { rangeOf, shutterSeconds, timeOfFrame } from "./frames.ts";

/** Values of the camera by which what is seen changes. */
const SEEING = ["camera.place", "camera.direction", "camera.focal"];
const MOST = 240;
/** Share of the frame's half width by which it turns or slides, or of the lens's height that it goes, before it is noted again. */
const STEP = 0.12;

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
	const { from, to } = rangeOf({ ...move, range: null });
	const at = (frame: number, late = 0) => documentAt(doc, timeOfFrame(frame, move.rate) + late).camera;
	const out: Camera[] = [at(from)];
	let last = frameOfView(out[0]);
	// Of a long move every frame is too much: as many as tell its way.
	const every = Math.max(1, Math.floor((to - from) / (MOST * 4)));
	for (let frame = from + every; frame < to && out.length < MOST; frame += every) {
		const camera = at(frame);
		const view = frameOfView(camera);
		const turned = 1 - dot(view.forward, last.forward) > (STEP * view.tanX) ** 2 / 2;
		const rolled = Math.abs(dot(view.right, last.up)) > STEP;
		const zoomed = Math.abs(view.tanX / last.tanX - 1) > STEP;
		const gone = Math.hypot(...view.position.map((v, c) => v - last.position[c]));
		if (!turned && !rolled && !zoomed && gone <= STEP * 2) continue;
		out.push(camera);
		last = view;
	}
	return [...out, at(to, shutterSeconds(move))];
}
