/** The maker of worn land that hosts bring to a compile. */
import { heldMaker, type Makers } from "../../core/scene/inputs.ts";
import { type Along, type WearKernel, wearLand } from "./wear.ts";

/** Fields that are held here; compiles hold them, too. */
const HELD = 2;

/** Each square has a kernel of its own, whose memory goes with it. */
export function landMaker(load: () => Promise<WebAssembly.Module>, along: Along = {}): Makers["land"] {
	let module: Promise<WebAssembly.Module> | null = null;
	return heldMaker(async (_key: string, work: Parameters<Makers["land"]>[1]) => {
		module ??= load().catch((error) => {
			// It is tried again by who asks next.
			module = null;
			throw error;
		});
		return (await wearLand(kernelOf(await module), work, along)).field;
	}, HELD);
}

export function kernelOf(module: WebAssembly.Module): WearKernel {
	const abort = () => {
		throw new Error("The kernel that wears land stopped.");
	};
	return new WebAssembly.Instance(module, { env: { abort } }).exports as unknown as WearKernel;
}
