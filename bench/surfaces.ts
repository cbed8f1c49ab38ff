/**
 * Surfaces baked into sheets of 1,024 texels a side with all their halvings: the median of all and the slowest, goal 0.3 s
 * a thread, and what a sheet takes.
 */
import { sheetBytes } from "../src/core/surface/sheet.ts";
import { SURFACE_KINDS, SURFACES } from "../src/core/surface/surfaces.ts";
import { bakeSheet } from "../src/makers/sheets/bake.ts";
import { sheetKernelOf } from "../src/makers/sheets/maker.ts";
import { sheetModule } from "../src/makers/sheets/node.ts";
import { median } from "./median.ts";

type Say = (name: string, value: number, unit: string, reference?: number) => void;

const SIZE = 1024;
const GOAL_MS = 300;

export async function surfaces(say: Say): Promise<void> {
	const kernel = sheetKernelOf(await sheetModule());
	// Once before, so that none is baked by what has not been compiled well yet.
	bakeSheet(kernel, SURFACES.brick, 1, SIZE);
	let bytes = 0;
	const times = SURFACE_KINDS.map((kind) => {
		const at = performance.now();
		bytes = sheetBytes(bakeSheet(kernel, SURFACES[kind], 1, SIZE));
		return performance.now() - at;
	});
	say(
		`a surface baked, ${SIZE.toLocaleString("en")} texels a side, median of ${times.length}, goal beside it`,
		median(times),
		"ms",
		GOAL_MS,
	);
	say("the slowest of them, goal beside it", Math.max(...times), "ms", GOAL_MS);
	say("a sheet with its halvings", bytes / 2 ** 20, "MiB");
}
