import { z } from "zod";
import { solvePerspective } from "../../core/lens/solvePerspective.ts";
import { type Command, checked, readJson } from "../command.ts";

const number = z.number().refine(Number.isFinite);
const pixel = z.tuple([number, number]);
const MatchFile = z.object({
	image: z.object({ width: number, height: number }),
	film: z.object({ widthMm: number }),
	focalMm: number.optional(),
	eyeHeightM: number.optional(),
	directions: z.array(
		z.object({ axis: z.enum(["x", "y", "z"]), segments: z.array(z.tuple([number, number, number, number])) }),
	),
	principal: z.enum(["centre", "solve"]).optional(),
	heights: z.array(z.object({ base: pixel, top: pixel, heightM: number })).optional(),
	lengths: z.array(z.object({ from: pixel, to: pixel, lengthM: number })).optional(),
	ellipses: z
		.array(z.object({ centre: pixel, axes: pixel, angleDeg: number, plane: z.enum(["ground", "x", "z"]) }))
		.optional(),
	horizon: z.object({ yLeft: number, yRight: number }).optional(),
	curves: z.array(z.array(pixel).min(3)).optional(),
	robust: z.boolean().optional(),
});

/** Solves a camera from lines told in a file. */
export const match: Command = {
	args: ["FILE"],
	alone: true,
	run: ({ args: [path] }) => {
		const input = checked(MatchFile, readJson(path), path);
		const { meeting: _, ...answer } = solvePerspective(input);
		return input.eyeHeightM === undefined ? answer : { eyeHeightM: input.eyeHeightM, eyeHeightMSd: 0, ...answer };
	},
};
