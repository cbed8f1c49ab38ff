/** Has a square of the land made into files by a worker of its own. */
import type { Ground, Water } from "../../core/doc/schema.ts";
import type { LandPicture } from "../../core/formats/landPicture.ts";
import { heldField, type LandField } from "../../core/ground/field.ts";
import { landNeeds, landReads } from "../../core/ground/height.ts";
import type { SquareOf } from "../../core/ground/landSquare.ts";
import { heldPicture, type LandRead } from "../../core/ground/pictures.ts";

export interface LandOrder {
	ground: Ground;
	water: Water;
	of: SquareOf;
	/** Words for its files. */
	words: readonly string[];
	/** Masks go together into the channels of pictures. */
	packed: boolean;
	/** Worn land, which is made already. */
	fields: readonly { key: string; id: string; field: LandField }[];
	pictures: readonly { read: LandRead; picture: LandPicture }[];
}

export type LandAnswer =
	| { share: number }
	| { bytes: Uint8Array<ArrayBuffer> }
	/** Why it could not be made. */
	| { trouble: string };

export interface Saving {
	/** The zip; null when it was given up. Rejects in words. */
	done: Promise<Uint8Array<ArrayBuffer> | null>;
	giveUp: () => void;
}

export function saveLand(order: Omit<LandOrder, "fields" | "pictures">, onShare: (share: number) => void): Saving {
	const fields = landNeeds(order.ground).flatMap(({ key, id }) => {
		const field = heldField(key);
		return field ? [{ key, id, field }] : [];
	});
	const pictures = landReads(order.ground).flatMap((read) => {
		const picture = heldPicture(read);
		return picture ? [{ read, picture }] : [];
	});
	if (fields.length < landNeeds(order.ground).length || pictures.length < landReads(order.ground).length)
		return { done: Promise.reject(new Error("The land is still made. Save it when that is done.")), giveUp: () => {} };
	const worker = new Worker(new URL("./land.worker.ts", import.meta.url), { type: "module" });
	let giveUp = () => {};
	const done = new Promise<Uint8Array<ArrayBuffer> | null>((resolve, reject) => {
		giveUp = () => resolve(null);
		worker.onmessage = ({ data }: MessageEvent<LandAnswer>) => {
			if ("share" in data) onShare(data.share);
			else if ("bytes" in data) resolve(data.bytes);
			else reject(new Error(data.trouble));
		};
		worker.onerror = () => reject(new Error("The land could not be saved: its worker broke off. Try fewer pixels."));
		worker.postMessage({ ...order, fields, pictures } satisfies LandOrder);
	}).finally(() => worker.terminate());
	return { done, giveUp: () => giveUp() };
}
