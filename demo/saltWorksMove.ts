/** The move of the salt works. */

import type { NewKey } from "../src/core/doc/edits/move.ts";
import type { Edit } from "../src/core/doc/edits.ts";
import type { KeyedName, Leave, Piece } from "../src/core/doc/schema.ts";
import { millimetres } from "../src/core/maths/functions.ts";

/** Frames of the move, and the time of its last one. */
const FRAMES = 96;
const LAST_S = (FRAMES - 1) / 24;
/** Metres that gulls glide in a second. */
const GLIDE = 3.4;

/** A slow rise and push to a place along the track, in a hand that is nearly still; the gulls among the pieces glide on. */
export function saltWorksMove(pieces: readonly Piece[], [x, , z]: readonly number[]): Edit[] {
	const two = (value: KeyedName, from: unknown, to: unknown, leave: Leave, of?: string): NewKey[] => [
		{ value, timeS: 0, is: from, leave, ...(of && { of }) },
		{ value, timeS: LAST_S, is: to, leave, ...(of && { of }) },
	];
	const gulls = pieces
		.filter((p) => p.id.startsWith("gull-"))
		.flatMap((p) => {
			const body = pieces.find((b) => b.id === p.id.replace(/-[lr]$/, "-body")) as Piece;
			const h = (body.headingDeg * Math.PI) / 180;
			const way = GLIDE * LAST_S;
			const [px, py, pz] = p.position;
			const to = [millimetres(px + Math.sin(h) * way), millimetres(py + 0.5), millimetres(pz - Math.cos(h) * way)];
			return two("piece.place", p.position, to, "even", p.id);
		});
	return [
		{
			name: "move.set",
			rate: "24",
			frames: FRAMES,
			shutter: 0.5,
			tremor: { amountDeg: 0.05, speed: 1, seed: 4 },
		},
		{
			name: "move.key",
			keys: [
				...two("camera.place", [0, 1.78, 0], [x, 2.62, z], "ease"),
				...two(
					"camera.direction",
					{ headingDeg: 0, pitchDeg: 2.4, rollDeg: 0 },
					{ headingDeg: 1.6, pitchDeg: 1.5, rollDeg: 0 },
					"ease",
				),
				...gulls,
			],
		},
	];
}
