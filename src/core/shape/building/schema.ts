import { z } from "zod";
import { choice, count, length, lengthIfAny, seed, share } from "../../doc/schema/measure.ts";

/** A house: storeys of bays with windows, doors below, a roof on top. */
export const building = z.object({
	kind: z.literal("building"),
	storeys: count("Storeys", 1, 80, 3),
	bays: count("Bays", 1, 80, 4),
	roof: choice("Roof", ["gabled", "hipped", "shed", "barrel", "flat"], "gabled"),
	roofM: length("Roof's height", 0, 100, 2.5),
	eavesM: length("Eaves", 0, 5, 0.3),
	ledgeM: lengthIfAny("Ledges", 2),
	doors: count("Doors", 0, 20, 1),
	/** Part of a bay that its window takes across; of a storey, upwards. */
	across: share("Windows across", 0.45, 0.9),
	tall: share("Windows upwards", 0.55, 0.9),
	/** Part of the windows in which there is light. */
	lit: share("Lit windows", 0),
	seed: seed(),
});
