/** The maker of solids that hosts bring to a compile: the library is loaded when the first one is asked for. */
import type { ManifoldToplevel } from "manifold-3d";
import { heldMaker, type Makers } from "../../core/scene/inputs.ts";
import { Combiner } from "./combine.ts";

/** Bodies that are held. */
const HELD = 64;

export function solidsMaker(load: () => Promise<ManifoldToplevel>): Makers["solids"] {
	let combiner: Promise<Combiner> | null = null;
	let ready: Combiner | null = null;
	const begun = async (): Promise<Combiner> => {
		const wasm = await load();
		wasm.setup();
		ready = new Combiner(wasm);
		return ready;
	};
	const held = heldMaker(async (_key: string, of: Parameters<Makers["solids"]>[1]) => {
		combiner ??= begun().catch((error) => {
			// It is tried again by who asks next.
			combiner = null;
			throw error;
		});
		return (ready ?? (await combiner)).combine(of());
	}, HELD);
	return held;
}
