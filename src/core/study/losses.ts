/** What a delivery loses of the frame: pieces that it cuts or leaves out, and how much of the focal point's surroundings. */
import { isSeen } from "../doc/acts.ts";
import type { FramePart, ShotDocument } from "../doc/schema.ts";
import { keptView } from "../lens/camera.ts";
import { inFrame } from "../shape/inFrame.ts";

export interface Losses {
	/** Names of pieces that its edge goes through, and of those that lie wholly outside; the largest in the frame first. */
	cut: string[];
	outside: string[];
	/** Share of the focal point's surroundings that it keeps; null without a focal point. */
	focalKept: number | null;
}

/** A piece that covers less of the frame is not spoken of. */
const LEAST_SHARE = 0.001;
/** Pieces that run out of the frame itself are cut anyway. */
const EDGE = 0.004;
/** Surroundings of the focal point: a square so high, as a share of the frame's height. */
const AROUND = 0.3;

const overlap = (a0: number, a1: number, b0: number, b1: number): number =>
	Math.max(0, Math.min(a1, b1) - Math.max(a0, b0));

/** `seenOf` tells what of a piece is in the frame: kept by those who ask often. */
export function lossesOf(
	doc: Pick<ShotDocument, "camera" | "pieces" | "ground" | "focalPoint">,
	area: FramePart,
	seenOf: typeof inFrame = inFrame,
): Losses {
	const view = keptView(doc.camera);
	const [x0, x1, y0, y1] = [area.x, area.x + area.width, area.y, area.y + area.height];
	const cut: { name: string; size: number }[] = [];
	const outside: { name: string; size: number }[] = [];
	for (const piece of doc.pieces) {
		const seen = !isSeen(piece) ? null : seenOf(piece, doc, view);
		if (!seen) continue;
		const { box } = seen;
		const size = (box.x1 - box.x0) * (box.y1 - box.y0);
		if (size < LEAST_SHARE) continue;
		if (overlap(box.x0, box.x1, x0, x1) <= 0 || overlap(box.y0, box.y1, y0, y1) <= 0) {
			outside.push({ name: piece.name, size });
			continue;
		}
		// Where the frame cuts it as well, nothing more is lost.
		const through =
			(box.x0 < x0 - EDGE && box.x0 > EDGE) ||
			(box.x1 > x1 + EDGE && box.x1 < 1 - EDGE) ||
			(box.y0 < y0 - EDGE && box.y0 > EDGE) ||
			(box.y1 > y1 + EDGE && box.y1 < 1 - EDGE);
		if (through) cut.push({ name: piece.name, size });
	}
	const names = (list: typeof cut) => [...new Set(list.sort((a, b) => b.size - a.size).map((p) => p.name))];
	const { focalPoint } = doc;
	if (!focalPoint) return { cut: names(cut), outside: names(outside), focalKept: null };
	const [w, h] = [AROUND / doc.camera.ratio, AROUND];
	const [fx, fy] = focalPoint;
	const kept =
		(overlap(fx - w / 2, fx + w / 2, x0, x1) / overlap(fx - w / 2, fx + w / 2, 0, 1)) *
		(overlap(fy - h / 2, fy + h / 2, y0, y1) / overlap(fy - h / 2, fy + h / 2, 0, 1));
	return { cut: names(cut), outside: names(outside), focalKept: kept };
}
