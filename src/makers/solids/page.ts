/** The library in the page: its own files, as they are served beside the application. */
import type { ManifoldToplevel } from "manifold-3d";
import { solidsMaker } from "./maker.ts";

export const pageSolids = () =>
	solidsMaker(async () => {
		const address = "/manifold.js";
		const { default: load } = (await import(/* turbopackIgnore: true */ address)) as {
			default: () => Promise<ManifoldToplevel>;
		};
		return load();
	});
