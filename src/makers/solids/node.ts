/** The library on this machine. */
import { solidsMaker } from "./maker.ts";

export const nodeSolids = () =>
	solidsMaker(async () => {
		const { default: load } = await import("manifold-3d");
		return load();
	});
