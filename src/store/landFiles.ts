/** Files of a square of the land: heights as EXR or PNG, masks as PNG, triangles as OBJ. */
import { appendFileSync, writeFileSync } from "node:fs";
import sharp from "sharp";
import { writeExr } from "../core/formats/exrWrite.ts";
import { type LandSquare, squareObj } from "../core/ground/landSquare.ts";

/** Shares as grey of 16 bits. */
async function greyFile(path: string, shares: ArrayLike<number>, size: number): Promise<void> {
	const grey = Uint16Array.from(shares, (v) => Math.round(65_535 * v));
	await sharp(grey, { raw: { width: size, height: size, channels: 1 }, limitInputPixels: false })
		.toColourspace("grey16")
		.png()
		.toFile(path);
}

/** Heights: EXR in metres as 32-bit floats; PNG of 16 bits between the least and the most of the square. */
export async function writeHeights(path: string, square: LandSquare): Promise<void> {
	const { heights, size, leastM, mostM, metresPerPixel } = square;
	if (path.endsWith(".png")) {
		const range = mostM - leastM || 1;
		return greyFile(
			path,
			heights.map((h) => (h - leastM) / range),
			size,
		);
	}
	const text = { unit: "metres", leastM: String(leastM), mostM: String(mostM), metresPerPixel: String(metresPerPixel) };
	writeFileSync(path, writeExr({ width: size, height: size, channels: [{ name: "Y", data: heights }], text }));
}

export const writeMask = (path: string, mask: Float32Array, { size }: LandSquare): Promise<void> =>
	greyFile(path, mask, size);

export function writeMesh(path: string, square: LandSquare): void {
	writeFileSync(path, "");
	for (const lines of squareObj(square)) appendFileSync(path, lines);
}
