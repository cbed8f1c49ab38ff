/** Groups: pieces that are taken together. They may stand in other groups. */
import { z } from "zod";
import { Id, Name, Position } from "./numbers.ts";

/** Groups in a shot at most. */
export const MOST_GROUPS = 2000;

export const Group = z.object({
	id: Id,
	name: Name,
	/** The group that it is in. */
	group: Id.optional(),
	/**
	 * About which it is turned and sized: right, up, towards; `up` counts from the ground below. Without one it is the middle
	 * of its feet.
	 */
	pivot: Position.optional(),
});

export type Group = z.infer<typeof Group>;
