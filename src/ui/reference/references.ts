/** Brings pictures in as references or as a sky: the bytes are kept first, then the edit refers to them. */

import { levelLux } from "../../core/air/dome.ts";
import type { LandPictureAs } from "../../core/formats/landPicture.ts";
import type { ScenePart } from "../../core/scene/scene.ts";
import type { ErrorBody, KeptLandPicture, KeptPicture, KeptSky } from "../../wire/contracts.ts";
import { MOST_BYTES } from "../../wire/contracts.ts";
import { newId } from "../parts/words.ts";
import { useShot } from "../store/shotStore.ts";
import { useStudio } from "../store/studio.ts";

/** Keeps the bytes of a picture. Throws an Error whose message is for the person. */
export const keepPicture = (data: Blob): Promise<KeptPicture> => keep("/api/pictures", data);

/** Keeps a picture of land and reads it. Throws an Error whose message is for the person. */
export const keepLandPicture = (data: Blob, as: LandPictureAs): Promise<KeptLandPicture> =>
	keep(`/api/land?as=${as}`, data);

async function keep<T>(address: string, data: Blob): Promise<T> {
	if (data.size > MOST_BYTES) throw new Error(`The picture is larger than ${MOST_BYTES / 1048576} MB.`);
	let response: Response;
	try {
		response = await fetch(address, {
			method: "POST",
			body: data,
			headers: { "Content-Type": "application/octet-stream" },
		});
	} catch {
		throw new Error("The server is away, so the picture could not be kept. Try again when it is back.");
	}
	if (!response.ok) throw new Error(((await response.json()) as ErrorBody).error.message);
	return (await response.json()) as T;
}

export const nameOf = (file: File, otherwise: string) =>
	file.name.replace(/\.[a-z0-9]+$/i, "").slice(0, 80) || otherwise;

/** Light on level ground in the scene as it is, lux; a sky that is hung starts with it, so that the exposure stays. */
function presentLux(): number {
	const { root, parts } = useStudio.getState();
	if (!root) return 10_000;
	const table = (key: string) => (parts.get(key) as Extract<ScenePart, { kind: "table" }>).data;
	const lux = levelLux({ ...root.dome, sky: table(root.dome.sky), cloud: table(root.dome.cloud) });
	return Number(Math.min(150_000, Math.max(1, lux)).toPrecision(3));
}

/** Hangs a file as the sky; turn and light of the one before stay. */
export async function hangSky(file: File): Promise<void> {
	const { commit, say } = useShot.getState();
	useStudio.setState({ hanging: file.name });
	try {
		const { mended, ...kept } = await keep<KeptSky>("/api/skies", file);
		const before = useShot.getState().document.air.picture;
		const { turnDeg, lux, saturation, sun } = before ?? { turnDeg: 0, lux: presentLux(), saturation: 1, sun: false };
		commit({ name: "air.hangPicture", picture: { ...kept, name: nameOf(file, "Sky"), turnDeg, lux, saturation, sun } });
		if (mended > 0)
			say(
				`${file.name}: ${mended.toLocaleString("en")} values were no numbers, infinite or below zero; they have been set right.`,
			);
	} catch (error) {
		say(`${file.name}: ${(error as Error).message}`);
	} finally {
		useStudio.setState({ hanging: null });
	}
}

/** Keeps a clip that this browser can play. */
async function hangClip(file: File): Promise<void> {
	const facts = await clipFacts(file);
	const { blob } = await keep<{ blob: string }>("/api/clips", file);
	useShot.getState().commit({ name: "clip.add", clip: { id: newId(), name: nameOf(file, "Clip"), blob, ...facts } });
}

/** Size and length of a clip. Throws when the browser cannot play it. */
function clipFacts(file: File): Promise<{ widthPx: number; heightPx: number; seconds: number }> {
	const address = URL.createObjectURL(file);
	const video = document.createElement("video");
	video.preload = "metadata";
	video.muted = true;
	return new Promise<{ widthPx: number; heightPx: number; seconds: number }>((take, fail) => {
		video.onerror = () =>
			fail(
				new Error(
					"This browser cannot play this clip. WebM and MP4 can be brought in, as far as the browser plays them.",
				),
			);
		video.onloadedmetadata = () => {
			if (!video.videoWidth) return fail(new Error("This clip has no picture."));
			const facts = { widthPx: video.videoWidth, heightPx: video.videoHeight };
			if (Number.isFinite(video.duration)) return take({ ...facts, seconds: video.duration });
			// A clip that was recorded live does not say how long it is until its end has been looked for.
			video.ondurationchange = () => Number.isFinite(video.duration) && take({ ...facts, seconds: video.duration });
			video.currentTime = 1e7;
		};
		video.src = address;
	}).finally(() => {
		video.removeAttribute("src");
		URL.revokeObjectURL(address);
	});
}

/** Hangs one picture as a reference. */
async function hangPicture(file: File): Promise<void> {
	const kept = await keepPicture(file);
	useShot
		.getState()
		.commit({ name: "reference.add", reference: { id: newId(), name: nameOf(file, "Reference"), ...kept } });
}

/** Takes files that were dropped, pasted or picked: HDR and EXR hang as the sky, clips and other pictures come in as references. */
export async function dropPictures(files: File[]): Promise<void> {
	const troubles: string[] = [];
	for (const [done, file] of files.entries()) {
		useStudio.setState({ bringing: { done, all: files.length, name: file.name } });
		try {
			if (/\.(hdr|exr|pic)$/i.test(file.name)) await hangSky(file);
			else if (file.type.startsWith("video/") || /\.(webm|mp4|m4v)$/i.test(file.name)) await hangClip(file);
			else await hangPicture(file);
		} catch (error) {
			troubles.push(`${file.name}: ${(error as Error).message}`);
		}
	}
	useStudio.setState({ bringing: null });
	if (troubles.length) useShot.getState().say(troubles.join(" "));
}
