/** Files of a square of the land: heights as EXR or PNG, masks as PNG, triangles as OBJ. */
import { appendFileSync, writeFileSync } from "node:fs";
import { greyPng } from "../core/formats/greyPng.ts";
import { type LandSquare, type Mask, shareOfHeight, squareObj } from "../core/ground/landSquare.ts";
import { heightsExr } from "../core/out/landFiles.ts";

/** Heights: EXR in metres as 32-bit floats; PNG of 16 bits between the least and the most of the square. */
export function writeHeights(path: string, square: LandSquare): void {
	if (path.endsWith(".png")) writeMask(path, shareOfHeight(square), square);
	else writeFileSync(path, heightsExr(square));
}

export function writeMask(path: string, mask: Mask, { size }: LandSquare): void {
	writeFileSync(path, greyPng(mask, size, size));
}

export function writeMesh(path: string, square: LandSquare): void {
	writeFileSync(path, "");
	for (const lines of squareObj(square)) appendFileSync(path, lines);
}
