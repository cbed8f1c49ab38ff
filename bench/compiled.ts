/** Scenes of the bench, with their surfaces baked on this thread. */
import type { ShotDocument } from "../src/core/doc/schema.ts";
import { compile } from "../src/core/scene/compile.ts";
import { type Makers, NO_BLOBS, NO_MAKERS } from "../src/core/scene/inputs.ts";
import { PartCache } from "../src/core/scene/partCache.ts";
import type { Scene } from "../src/core/scene/scene.ts";
import { type Moment, STILL } from "../src/core/time/frames.ts";
import { sheetsAtOnce } from "../src/makers/sheets/atOnce.ts";

export const MAKERS: Makers = { ...NO_MAKERS, sheet: sheetsAtOnce() };

export const compiled = (doc: ShotDocument, moment: Moment = STILL, cache: PartCache = new PartCache()): Scene =>
	compile(doc, moment, NO_BLOBS, MAKERS, cache);
