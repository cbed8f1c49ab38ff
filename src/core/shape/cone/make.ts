import type { Shape } from "../../doc/schema/piece.ts";
import type { ShapeMaker } from "../geometry.ts";
import { roundBody } from "../round.ts";

export const cone: ShapeMaker<Extract<Shape, { kind: "cone" }>> = {
	evaluate: ({ top }) => roundBody(0.5, (top ?? 0) / 2),
};
