/** Sky pictures prepared beside the server's own thread, one after the other: two large ones would take its memory. */
import { Worker } from "node:worker_threads";
import { PictureFileError } from "../core/formats/exr.ts";
import type { PreparedSky } from "../store/skies.ts";
import type { SkyReply } from "./skyWorker.ts";

/** What the thread said of a picture, in its words and with its code. */
class Refused extends PictureFileError {
	override readonly code: string;
	constructor(message: string, code: string) {
		super(message);
		this.code = code;
	}
}

let last: Promise<unknown> = Promise.resolve();

/** As {@link prepareSky} of the store. Throws {@link PictureFileError} in words. */
export function prepareAside(data: Uint8Array): Promise<PreparedSky> {
	const make = () =>
		new Promise<PreparedSky>((resolve, reject) => {
			const worker = new Worker([process.cwd(), "build", "skyWorker.mjs"].join("/"), { workerData: data });
			worker.on("message", (reply: SkyReply) =>
				"sky" in reply ? resolve(reply.sky) : reject(new Refused(reply.refused, reply.code)),
			);
			worker.on("error", reject);
			worker.on("exit", () => reject(new Error("The thread that reads sky pictures has ended.")));
		});
	const turn = last.then(make, make);
	last = turn.catch(() => {});
	return turn;
}
