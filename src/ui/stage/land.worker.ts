/** Makes a square of the land into files. */
import { holdField } from "../../core/ground/field.ts";
import { holdPicture } from "../../core/ground/pictures.ts";
import { landZip } from "../../core/out/landFiles.ts";
import type { LandAnswer, LandOrder } from "./landSaver.ts";

const post = (answer: LandAnswer, transfer: Transferable[] = []) => self.postMessage(answer, { transfer });

self.onmessage = ({ data: { ground, water, of, words, packed, fields, pictures } }: MessageEvent<LandOrder>) => {
	try {
		for (const { key, id, field } of fields) holdField(key, id, field);
		for (const { read, picture } of pictures) holdPicture(read, picture);
		const steps = landZip(ground, water, of, words, packed);
		for (;;) {
			const step = steps.next();
			if (step.done) {
				const bytes = step.value as Uint8Array<ArrayBuffer>;
				return post({ bytes }, [bytes.buffer]);
			}
			post({ share: step.value });
		}
	} catch (error) {
		post({ trouble: (error as Error).message });
	}
};
