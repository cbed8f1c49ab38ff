/** A thread for the pixels of prints. */
import { answerAside } from "./answerAside.ts";
import { type PixelsAsked, printPixels } from "./printPixels.ts";

answerAside(
	async (asked: PixelsAsked) => (await printPixels(asked)).buffer,
	(buffer) => [buffer],
);
