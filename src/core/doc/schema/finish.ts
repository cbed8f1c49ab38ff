/** What is done to a picture after it is traced. */
import { z } from "zod";
import { number } from "./numbers.ts";

export const ToneCurve = z.enum(["print", "straight"]);

export const Finish = z.object({
	exposureEv: number(-8, 8),
	curve: ToneCurve,
	contrast: number(0.5, 2),
	vignette: number(0, 1),
});

export type Finish = z.infer<typeof Finish>;
