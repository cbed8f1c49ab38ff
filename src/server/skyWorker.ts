/** A thread of its own for one sky picture: reading a large one takes seconds. */
import { parentPort, workerData } from "node:worker_threads";
import { PictureFileError } from "../core/formats/exr.ts";
import { type PreparedSky, prepareSky } from "../store/skies.ts";
import type { AsideReply } from "./aside.ts";

const answer = (reply: AsideReply<PreparedSky>, transfer: ArrayBuffer[] = []) =>
	parentPort?.postMessage(reply, transfer);

prepareSky(workerData as Uint8Array).then(
	(sky) => answer({ made: sky }, [sky.table.texels.buffer as ArrayBuffer]),
	(error) => {
		if (!(error instanceof PictureFileError)) throw error;
		answer({ refused: error.message, code: error.code });
	},
);
