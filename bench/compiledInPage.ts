/** Scenes of what the bench runs in the page, with their surfaces baked there. */
import type { ShotDocument } from "../src/core/doc/schema.ts";
import { compileWhenMade } from "../src/core/scene/compile.ts";
import { type Makers, NO_BLOBS, NO_MAKERS } from "../src/core/scene/inputs.ts";
import { PartCache } from "../src/core/scene/partCache.ts";
import type { Scene } from "../src/core/scene/scene.ts";
import { STILL } from "../src/core/time/frames.ts";
import { pageSheets } from "../src/makers/sheets/page.ts";

/** What has been baked once is at hand at once. */
export const PAGE_MAKERS: Makers = { ...NO_MAKERS, ...pageSheets({}) };

export const compiledInPage = (doc: ShotDocument): Promise<Scene> =>
	compileWhenMade(doc, STILL, NO_BLOBS, PAGE_MAKERS, new PartCache());
