/** What a piece does to another one. */
import { z } from "zod";
import { Id } from "./numbers.ts";

/** It is cut out of the other, joined to it, or leaves of it what both have in common. It is not seen by itself then. */
export const Act = z.object({
	kind: z.enum(["cut", "join", "meet"]),
	/** A piece, or a group: each piece of it. */
	on: Id,
});

export type Act = z.infer<typeof Act>;
export type ActKind = Act["kind"];
export const ACT_KINDS = Act.shape.kind.options;
