/** Brings pictures in as references: the bytes are kept first, then the edit refers to them. */

import type { ErrorBody, KeptPicture } from "../wire/contracts.ts";
import { MOST_BYTES } from "../wire/contracts.ts";
import { newId } from "./frame/geometry.ts";
import { useShot } from "./store/shotStore.ts";

/** Keeps the bytes of a picture. Throws an Error whose message is for the person. */
export async function keepPicture(data: Blob): Promise<KeptPicture> {
	if (data.size > MOST_BYTES) throw new Error(`The picture is larger than ${MOST_BYTES / 1048576} MB.`);
	let response: Response;
	try {
		response = await fetch("/api/pictures", { method: "POST", body: data, headers: { "Content-Type": "application/octet-stream" } });
	} catch {
		throw new Error("The server is away, so the picture could not be kept. Try again when it is back.");
	}
	if (!response.ok) throw new Error(((await response.json()) as ErrorBody).error.message);
	return (await response.json()) as KeptPicture;
}

export async function dropPictures(files: File[]): Promise<void> {
	const { commit, say } = useShot.getState();
	for (const file of files) {
		try {
			const kept = await keepPicture(file);
			const name = file.name.replace(/\.[a-z0-9]+$/i, "").slice(0, 80) || "Reference";
			commit({ name: "reference.add", reference: { id: newId(), name, ...kept } });
		} catch (error) {
			say(`${file.name}: ${(error as Error).message}`);
		}
	}
}
