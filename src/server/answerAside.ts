/** The thread's side of `aside.ts`. */
import { parentPort } from "node:worker_threads";
import { PictureFileError } from "../core/formats/exr.ts";
import type { AsideReply } from "./aside.ts";
import { HttpError } from "./route.ts";

/** Answers each thing that is asked; `moved` are the buffers that go with the answer. Other errors end the thread. */
export function answerAside<Q, T>(make: (asked: Q) => Promise<T>, moved: (made: T) => ArrayBuffer[]): void {
	const answer = (reply: AsideReply<T>, buffers: ArrayBuffer[] = []) => parentPort?.postMessage(reply, buffers);
	parentPort?.on("message", async (asked: Q) => {
		try {
			const made = await make(asked);
			answer({ made }, moved(made));
		} catch (error) {
			if (!(error instanceof HttpError || error instanceof PictureFileError)) throw error;
			const { message: refused, code } = error;
			answer({ refused, code, ...(error instanceof HttpError ? { status: error.status } : {}) });
		}
	});
}
