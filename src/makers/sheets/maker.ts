/** The maker of sheets that hosts bring to a compile. */
import { heldMaker, type Makers, type PackWork, type SheetWork } from "../../core/scene/inputs.ts";
import type { Sheet } from "../../core/surface/sheet.ts";
import { SURFACES } from "../../core/surface/surfaces.ts";
import { bakeSteps, packPictures, type SheetKernel } from "./bake.ts";

/** Sheets that are held here; compiles hold them, too. */
const HELD = 12;

/** How a host goes along: it may breathe between strips, and throw when something newer is wanted. */
export interface Along {
	between?: () => Promise<void>;
	/** A sheet that is kept elsewhere; null where it is not, or cannot be had now. */
	kept?: (work: SheetWork) => Promise<Sheet | null>;
}

/** One kernel for all sheets, one after the other: its memory is large, and costs time when it is new. */
export function sheetMaker(
	load: () => Promise<WebAssembly.Module>,
	{ between, kept }: Along = {},
): Pick<Makers, "sheet" | "packed"> {
	let kernel: Promise<SheetKernel> | null = null;
	let last: Promise<unknown> = Promise.resolve();
	const kernelOnce = () => {
		kernel ??= load()
			.then(sheetKernelOf)
			.catch((error) => {
				// It is tried again by who asks next.
				kernel = null;
				throw error;
			});
		return kernel;
	};
	const bake = async (work: SheetWork): Promise<Sheet> => {
		const known = await kept?.(work);
		if (known && known.size === work.texels) return known;
		const { of, seed, texels } = work;
		const steps = bakeSteps(await kernelOnce(), SURFACES[of], seed, texels);
		for (;;) {
			const step = steps.next();
			if (step.done) return step.value;
			await between?.();
		}
	};
	const inTurn = <W>(make: (work: W) => Promise<Sheet>) =>
		heldMaker((_key: string, work: W) => {
			const coming = last.then(() => make(work));
			last = coming.catch(() => {});
			return coming;
		}, HELD);
	return {
		sheet: inTurn(bake),
		packed: inTurn(async ({ planes, sideM, highM, texels }: PackWork) =>
			packPictures(await kernelOnce(), planes(), sideM, texels, highM),
		),
	};
}

export function sheetKernelOf(module: WebAssembly.Module): SheetKernel {
	const abort = () => {
		throw new Error("The kernel that bakes surfaces stopped.");
	};
	return new WebAssembly.Instance(module, { env: { abort } }).exports as unknown as SheetKernel;
}
