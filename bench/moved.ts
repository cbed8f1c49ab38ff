/** In any engine: milliseconds for all of the demo shot, surfaces baked, and for it as it is seen at once after one of its pieces has moved, each time anew. */

import { saltWorksDocument } from "../demo/saltWorks.ts";
import { applyEdit } from "../src/core/doc/edits.ts";
import { compile } from "../src/core/scene/compile.ts";
import { type Makers, NO_BLOBS } from "../src/core/scene/inputs.ts";
import { PartCache } from "../src/core/scene/partCache.ts";
import { STILL } from "../src/core/time/frames.ts";
import { drafted } from "./drafted.ts";
import { median } from "./median.ts";

const ROUNDS = 40;

export function compileMoved(makers: Makers): { whole: number; moved: number } {
	let doc = saltWorksDocument();
	const cache = new PartCache();
	const at = performance.now();
	compile(doc, STILL, NO_BLOBS, makers, cache);
	const whole = performance.now() - at;
	const ms = Array.from({ length: ROUNDS }, (_, k) => {
		const pieces = [{ id: "cart-a-tub", position: [8, 0.9, -22 - 0.1 * k] as [number, number, number] }];
		doc = applyEdit(doc, { name: "piece.move", pieces }).document;
		const moving = performance.now();
		drafted(doc, makers, cache);
		return performance.now() - moving;
	});
	return { whole, moved: median(ms) };
}
