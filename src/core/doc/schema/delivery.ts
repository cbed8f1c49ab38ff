/** Deliveries: the formats in which one shot is handed out, each a crop of its frame. */
import { z } from "zod";
import { Id, Name, number } from "./numbers.ts";

export const Delivery = z.object({
	id: Id,
	name: Name,
	/** Width over height. */
	ratio: number(0.2, 5),
	/** How wide its picture is. */
	widthPx: z.int().min(16).max(16_384),
	/** Its width of the largest area of its ratio in the frame; above 1 it reaches beyond the frame. */
	share: number(0.05, 2),
	/** Its middle in the frame, as shares from the top-left corner. */
	middle: z.tuple([number(0, 1), number(0, 1)]),
	/** By how much of the frame it is moved to the right and up from there, beyond the frame if need be, as a shift lens does. */
	shift: z.tuple([number(-1, 1), number(-1, 1)]).optional(),
	/** By how much the lens is turned for it: heading and tilt, degrees. */
	aim: z.tuple([number(-90, 90), number(-60, 60)]).optional(),
});
export type Delivery = z.infer<typeof Delivery>;

export const MOST_DELIVERIES = 12;
