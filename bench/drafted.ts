/** A compile as it is seen at once: with surfaces shaped by their relief where that is at hand, and level where it is not. */
import type { ShotDocument } from "../src/core/doc/schema.ts";
import { compileSteps } from "../src/core/scene/compile.ts";
import { type Makers, NO_BLOBS } from "../src/core/scene/inputs.ts";
import type { PartCache } from "../src/core/scene/partCache.ts";
import type { Scene } from "../src/core/scene/scene.ts";
import { STILL } from "../src/core/time/frames.ts";

export function drafted(doc: ShotDocument, makers: Makers, cache: PartCache, inHand = false): Scene {
	const steps = compileSteps(doc, STILL, NO_BLOBS, makers, cache, inHand, true);
	let step = steps.next();
	while (!step.done) step = steps.next();
	return step.value;
}
