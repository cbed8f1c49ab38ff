import { z } from "zod";
import { number } from "../../../doc/schema/numbers.ts";

export const rain = z.object({
	kind: z.literal("rain"),
	/** Square metres of land from which water comes by. */
	fromM2: number(1, 1e6),
	/** Over so many times less it goes over to nothing. */
	times: number(1, 100),
});
