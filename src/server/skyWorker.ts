/** A thread of its own for one sky picture: reading a large one takes seconds, in which the server answers others. */
import { parentPort, workerData } from "node:worker_threads";
import { PictureFileError } from "../core/formats/exr.ts";
import { type PreparedSky, prepareSky } from "../store/skies.ts";

/** The table, or in words why there is none; other errors end the thread. */
export type SkyReply = { sky: PreparedSky } | { refused: string; code: string };

prepareSky(workerData as Uint8Array).then(
	(sky) => parentPort?.postMessage({ sky } satisfies SkyReply, [sky.table.texels.buffer as ArrayBuffer]),
	(error) => {
		if (!(error instanceof PictureFileError)) throw error;
		parentPort?.postMessage({ refused: error.message, code: error.code } satisfies SkyReply);
	},
);
