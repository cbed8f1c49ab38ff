/**
 * Work beside the server's own thread, which answers others meanwhile. Each kind of work is done one after the other: two
 * large pictures at once would take its memory.
 */
import { Worker } from "node:worker_threads";
import { PictureFileError } from "../core/formats/exr.ts";
import type { LandPictureAsked, PreparedLandPicture } from "../store/landPictures.ts";
import { isLargeSky, type PreparedSky } from "../store/skies.ts";
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

/** A thread that is asked nothing for so long goes. To begin one takes most of a second. */
const IDLE_MS = 60_000;

/** Asks a built program in a thread of its own, one thing at a time; the thread stays for the next. What takes too long is ended. */
function aside<Q, T>(program: string, mostSeconds: number): (asked: Q) => Promise<T> {
	let last: Promise<unknown> = Promise.resolve();
	let thread: Worker | null = null;
	let idle: ReturnType<typeof setTimeout> | undefined;
	const begin = (): Worker => {
		const worker = new Worker([process.cwd(), "build", program].join("/"));
		for (const end of ["error", "exit"]) worker.on(end, () => leave(worker));
		return worker;
	};
	/** The next thing is asked of another thread. */
	const leave = (worker: Worker) => {
		if (thread === worker) thread = null;
	};
	const ask = (asked: Q) =>
		new Promise<T>((resolve, reject) => {
			clearTimeout(idle);
			thread ??= begin();
			const worker = thread;
			const failed = (error: Error) => {
				clearTimeout(late);
				reject(error);
			};
			const ended = () => failed(new Error(`The thread of ${program} has ended.`));
			const late = setTimeout(() => {
				reject(new Refused(`This took longer than ${mostSeconds} s and was given up.`, "too-long"));
				leave(worker);
				void worker.terminate();
			}, mostSeconds * 1000);
			worker.once("message", (reply: AsideReply<T>) => {
				clearTimeout(late);
				if ("made" in reply) resolve(reply.made);
				else if (reply.status) reject(new HttpError(reply.status, reply.code, reply.refused));
				else reject(new Refused(reply.refused, reply.code));
				worker.off("error", failed);
				worker.off("exit", ended);
				// It keeps neither the server nor memory when nobody asks.
				worker.unref();
				idle = setTimeout(() => {
					leave(worker);
					void worker.terminate();
				}, IDLE_MS).unref();
			});
			worker.once("error", failed);
			worker.once("exit", ended);
			worker.ref();
			worker.postMessage(asked);
		});
	return (asked) => {
		const turn = last.then(() => ask(asked));
		last = turn.catch(() => {});
		return turn;
	};
}

const usualSky = aside<Uint8Array, PreparedSky>("skyWorker.mjs", 60);
const largeSky = aside<Uint8Array, PreparedSky>("skyWorker.mjs", 180);

/** As `prepareSky` of the store; a large one does not keep others waiting. Throws {@link PictureFileError} in words. */
export const prepareAside = async (data: Uint8Array): Promise<PreparedSky> =>
	(isLargeSky(data) ? largeSky : usualSky)(data);

/** As `prepareLandPicture` of the store. Throws {@link PictureFileError} in words. */
export const landPictureAside = aside<LandPictureAsked, PreparedLandPicture>("landPictureWorker.mjs", 120);

/** As `printPixels`. Throws {@link HttpError}. */
export const pixelsAside = aside<PixelsAsked, ArrayBuffer>("pixelsWorker.mjs", 300);
