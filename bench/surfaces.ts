/**
 * Surfaces baked into sheets of 1,024 texels a side with all their halvings: the median of all and the slowest, goal 0.3 s
 * a thread, and what a sheet takes.
 */
import { bakeSheet, sheetBytes } from "../src/core/surface/sheet.ts";
import { SURFACE_KINDS, SURFACES } from "../src/core/surface/surfaces.ts";
import { median } from "./median.ts";

type Say = (name: string, value: number, unit: string, reference?: number) => void;

const SIZE = 1024;
const GOAL_MS = 300;

export function surfaces(say: Say): void {
	// Once small, so that none is baked by what has not been compiled yet.
	for (const kind of SURFACE_KINDS) bakeSheet(SURFACES[kind], 1, 64);
	let bytes = 0;
	const times = SURFACE_KINDS.map((kind) => {
		const at = performance.now();
		bytes = sheetBytes(bakeSheet(SURFACES[kind], 1, SIZE));
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
