/** For tests and the bench: surfaces baked at once on this thread, in Node, smaller than shots have them where that is asked for. */
import { readFileSync } from "node:fs";
import { join } from "node:path";
import type { Makers, SheetWork } from "../../core/scene/inputs.ts";
import type { Sheet } from "../../core/surface/sheet.ts";
import { SURFACES } from "../../core/surface/surfaces.ts";
import { bakeSheet, packPictures, type SheetKernel } from "./bake.ts";
import { sheetKernelOf } from "./maker.ts";

let kernel: SheetKernel | null = null;

const kernelAtOnce = (): SheetKernel => {
	kernel ??= sheetKernelOf(new WebAssembly.Module(readFileSync(join(process.cwd(), "build/sheets.wasm"))));
	return kernel;
};

export const packedAtOnce: Makers["packed"] = (_, { planes, sideM, highM, texels }) =>
	packPictures(kernelAtOnce(), planes(), sideM, texels, highM);

export function sheetsAtOnce(texels?: number): Makers["sheet"] {
	const held = new Map<string, Sheet>();
	return (key: string, { of, seed, texels: asked }: SheetWork): Sheet => {
		const sheet = held.get(key) ?? bakeSheet(kernelAtOnce(), SURFACES[of], seed, texels ?? asked);
		held.set(key, sheet);
		return sheet;
	};
}
