/** A thread of its own for the pixels of one print. */
import { parentPort, workerData } from "node:worker_threads";
import type { AsideReply } from "./aside.ts";
import { database } from "./database.ts";
import { type PixelsAsked, printPixels } from "./printPixels.ts";
import { HttpError } from "./route.ts";

const answer = (reply: AsideReply<ArrayBuffer>, transfer: ArrayBuffer[] = []) =>
	parentPort?.postMessage(reply, transfer);

printPixels(workerData as PixelsAsked)
	.then(
		({ buffer }) => answer({ made: buffer }, [buffer]),
		(error) => {
			if (!(error instanceof HttpError)) throw error;
			answer({ refused: error.message, code: error.code, status: error.status });
		},
	)
	.finally(() => database().end());
