/**
 * Work beside the server's own thread, which answers others meanwhile. Each kind of work is done one after the other: two
 * large pictures at once would take its memory.
 */
import { Worker } from "node:worker_threads";
import { PictureFileError } from "../core/formats/exr.ts";
import type { PreparedSky } from "../store/skies.ts";
import type { PixelsAsked } from "./printPixels.ts";
import { HttpError } from "./route.ts";

/** What a thread answers: what it made, or in words and by a code why it did not; other errors end it. */
export type AsideReply<T> = { made: T } | { refused: string; code: string; status?: number };

/** What a thread said of a picture, in its words and with its code. */
class Refused extends PictureFileError {
	override readonly code: string;
	constructor(message: string, code: string) {
		super(message);
		this.code = code;
	}
}

/** Runs a built program in a thread of its own for each thing that is asked, one at a time. */
function aside<Q, T>(program: string): (asked: Q) => Promise<T> {
	let last: Promise<unknown> = Promise.resolve();
	const make = (asked: Q) =>
		new Promise<T>((resolve, reject) => {
			const worker = new Worker([process.cwd(), "build", program].join("/"), { workerData: asked });
			worker.on("message", (reply: AsideReply<T>) => {
				if ("made" in reply) resolve(reply.made);
				else if (reply.status) reject(new HttpError(reply.status, reply.code, reply.refused));
				else reject(new Refused(reply.refused, reply.code));
			});
			worker.on("error", reject);
			worker.on("exit", () => reject(new Error(`The thread of ${program} has ended.`)));
		});
	return (asked) => {
		const turn = last.then(
			() => make(asked),
			() => make(asked),
		);
		last = turn.catch(() => {});
		return turn;
	};
}

/** As `prepareSky` of the store. Throws {@link PictureFileError} in words. */
export const prepareAside = aside<Uint8Array, PreparedSky>("skyWorker.mjs");

/** As `printPixels`. Throws {@link HttpError}. */
export const pixelsAside = aside<PixelsAsked, ArrayBuffer>("pixelsWorker.mjs");
