/** Looks for edges in a reference, off the page's thread. The picture is decoded once and kept as brightness. */
import { shownSize, toFile, toShown } from "../../core/doc/look.ts";
import type { Reference } from "../../core/doc/schema.ts";
import { type EdgeSegment, findEdges, fitToEdge, type GreyPicture, greyOf } from "../../core/match/edges.ts";
import { findFamilies } from "../../core/match/families.ts";
import { copyAddress } from "../../wire/contracts.ts";
import type { EdgeAnswer, EdgeQuestion } from "./edgeClient.ts";

let held: { address: string; picture: GreyPicture } | null = null;

async function decode(reference: Reference): Promise<GreyPicture> {
	const address = copyAddress(reference, reference.widthPx);
	if (held?.address === address) return held.picture;
	const response = await fetch(address);
	if (!response.ok) throw new Error("The picture could not be read.");
	const bitmap = await createImageBitmap(await response.blob());
	const context = new OffscreenCanvas(bitmap.width, bitmap.height).getContext("2d", { willReadFrequently: true });
	if (!context) throw new Error("This browser cannot read the picture's pixels.");
	context.drawImage(bitmap, 0, 0);
	const { data, width, height } = context.getImageData(0, 0, bitmap.width, bitmap.height);
	bitmap.close();
	held = { address, picture: greyOf(data, width, height) };
	return held.picture;
}

async function answer({ id, reference, fit }: EdgeQuestion): Promise<EdgeAnswer> {
	const picture = await decode(reference);
	const scale = picture.width / reference.widthPx;
	const into = ([a, b, c, d]: EdgeSegment): EdgeSegment =>
		[...toFile(reference, [a, b]), ...toFile(reference, [c, d])].map((v) => v * scale) as unknown as EdgeSegment;
	const back = (s: EdgeSegment): EdgeSegment => {
		const [a, b, c, d] = s.map((v) => v / scale);
		return [...toShown(reference, [a, b]), ...toShown(reference, [c, d])] as unknown as EdgeSegment;
	};
	if (fit) {
		const fitted = fitToEdge(picture, into(fit.segment), Math.max(3, fit.reachPx * scale));
		return { id, fitted: fitted && { segment: back(fitted.segment), offPx: fitted.offPx / scale } };
	}
	const size = shownSize(reference);
	const seen = findEdges(picture)
		.map((e) => ({ ...e, segment: back(e.segment) }))
		.filter(({ segment: s }) =>
			[0, 2].every((k) => s[k] >= 0 && s[k] <= size.width && s[k + 1] >= 0 && s[k + 1] <= size.height),
		);
	return { id, families: findFamilies(seen, size) };
}

self.onmessage = async (event: MessageEvent<EdgeQuestion>) => {
	try {
		self.postMessage(await answer(event.data));
	} catch (error) {
		self.postMessage({ id: event.data.id, trouble: (error as Error).message } satisfies EdgeAnswer);
	}
};
