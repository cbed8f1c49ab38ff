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
	/** Its width of the largest area of its ratio in the frame. */
	share: number(0.05, 1),
	/** Its middle in the frame, as shares from the top-left corner. */
	middle: z.tuple([number(0, 1), number(0, 1)]),
});
export type Delivery = z.infer<typeof Delivery>;

export const MOST_DELIVERIES = 12;
