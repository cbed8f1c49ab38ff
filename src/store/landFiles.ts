/** Files of a square of the land: heights as EXR or PNG, masks as PNG, triangles as OBJ. */
import { appendFileSync, writeFileSync } from "node:fs";
import { packedPng } from "../core/formats/greyPng.ts";
import { type LandSquare, type Mask, shareOfHeight, squareObj } from "../core/ground/landSquare.ts";
import { heightsExr, heightsText } from "../core/out/landFiles.ts";
import { greyPng, withText } from "./greyPng.ts";

/** Heights: EXR in metres as 32-bit floats; PNG of 16 bits between the least and the most of the square. */
export async function writeHeights(path: string, square: LandSquare): Promise<void> {
	const { size } = square;
	if (path.endsWith(".png"))
		writeFileSync(path, withText(await greyPng(shareOfHeight(square), size, size), heightsText(square)));
	else writeFileSync(path, heightsExr(square));
}

export async function writeMask(path: string, mask: Mask, { size }: LandSquare): Promise<void> {
	writeFileSync(path, await greyPng(mask, size, size));
}

/** Two to four masks as the channels of one picture: red, green, blue, alpha. */
export function writePacked(path: string, masks: readonly Mask[], { size }: LandSquare): void {
	writeFileSync(path, packedPng(masks, size, size));
}

export function writeMesh(path: string, square: LandSquare): void {
	writeFileSync(path, "");
	for (const lines of squareObj(square)) appendFileSync(path, lines);
}
