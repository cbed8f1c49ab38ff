import type { ShapeMaker } from "../geometry.ts";
import { roundBody } from "../round.ts";

export const cone: ShapeMaker = { evaluate: () => roundBody(0.5, 0) };
