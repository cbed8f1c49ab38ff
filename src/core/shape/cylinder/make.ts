import type { ShapeMaker } from "../geometry.ts";
import { roundBody } from "../round.ts";

export const cylinder: ShapeMaker = { evaluate: () => roundBody(0.5, 0.5) };
