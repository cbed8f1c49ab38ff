/** What a compile on this machine takes in: files and made things, out of the database. */
import type pg from "pg";
import type { NamedFile } from "../core/doc/files.ts";
import type { Ground, ShotDocument } from "../core/doc/schema.ts";
import { compileWhenMade } from "../core/scene/compile.ts";
import { settleLand } from "../core/scene/compileLand.ts";
import { type Blobs, heldMaker, loadBlobs, type Makers, NO_BLOBS } from "../core/scene/inputs.ts";
import { PartCache } from "../core/scene/partCache.ts";
import type { Scene } from "../core/scene/scene.ts";
import { type Moment, STILL } from "../core/time/frames.ts";
import { nodeSolids } from "../makers/solids/node.ts";
import { nodeLand } from "../makers/wear/node.ts";
import { getBlob } from "./blobs.ts";
import { readPreparedLandPicture } from "./landPictures.ts";
import { keptSheets } from "./sheets.ts";
import { readPreparedSky } from "./skies.ts";

/** Sky pictures whose tables are held. */
const SKIES = 2;

/** Compiles documents one after the other; what they share is made once. */
export class Compiler {
	private pool: pg.Pool;
	private cache = new PartCache();
	private blobs: Blobs = NO_BLOBS;
	private makers: Makers;

	constructor(pool: pg.Pool) {
		this.pool = pool;
		this.makers = {
			sky: heldMaker((file, name) => readPreparedSky(pool, file, name), SKIES),
			solids: nodeSolids(),
			land: nodeLand(),
			...keptSheets(),
			picture: (read) => readPreparedLandPicture(pool, read),
		};
	}

	/** The scene of a document. Throws in words when a file that it needs is gone. */
	async compile(doc: ShotDocument, moment: Moment = STILL): Promise<Scene> {
		this.blobs = await loadBlobs(doc, (file) => this.bring(file), this.blobs);
		return compileWhenMade(doc, moment, this.blobs, this.makers, this.cache);
	}

	/** Makes what heights of a ground need that is not told by one place alone. */
	async settle(ground: Ground): Promise<void> {
		const steps = settleLand(ground, this.makers);
		for (let step = steps.next(); !step.done; ) step = steps.next(await step.value);
	}

	private async bring({ blob, what }: NamedFile): Promise<Uint8Array> {
		const bytes = await getBlob(this.pool, blob);
		if (!bytes) throw new Error(`The file of the ${what} is gone.`);
		return bytes;
	}
}
