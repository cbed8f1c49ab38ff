import { z } from "zod";
import { entry } from "../../../doc/schema/land.ts";
import { metres, number } from "../../../doc/schema/numbers.ts";

/** What paths are laid with. */
export const PathLaid = z.enum(["earth", "gravel", "stone", "ash"]);

export const MOST_PATH_POINTS = 60;

export const path = entry("path", {
	/** Where it goes, right and towards; a smooth curve through them. */
	points: z
		.array(z.tuple([metres, metres]))
		.min(2)
		.max(MOST_PATH_POINTS),
	widthM: number(0.3, 60),
	/** How much its middle stands over its edges, as a share of half its width. */
	crown: number(0, 0.3),
	/** Beside it on both sides, and how deep a ditch runs in that. */
	vergeM: number(0, 30),
	ditchM: number(0, 5),
	/** How deep wheels have worn it, or feet where it is too narrow for wheels. */
	rutM: number(0, 0.6).optional(),
	/** What it is laid with; trodden earth without. */
	laid: PathLaid.optional(),
	/** Sleepers of a track lie across it so far apart; none at 0 and without. */
	sleepersM: number(0, 3).optional(),
	/** How steep the banks are by which it cuts into the land and lies on it. */
	bankDeg: number(5, 80),
	/** The steepest that it climbs, rise over run. */
	grade: number(0.005, 1),
});
