/** Lamps. */
import { z } from "zod";
import { Colour, degrees, Id, kelvin, Name, number, Position } from "./numbers.ts";

/** Kinds of lamps, one line each; what they are stands in `core/light/kinds`. */
export const LampKind = z.enum([
	"point", //
	"spot",
	"sphere",
	"disc",
	"rectangle",
]);

export const LampStrength = z.object({
	value: number(0, 1e8),
	/** Lumen count all of its light, candela and lux hold on its axis. */
	unit: z.enum(["lumen", "candela", "lux"]),
	/** Distance at which the lux are met, metres. */
	atM: number(0.1, 1000),
});

export const Lamp = z.object({
	id: Id,
	name: Name,
	kind: LampKind,
	/** Its middle: right, up, towards. `up` counts from the ground below it, or from level zero. */
	position: Position,
	stands: z.enum(["ground", "level"]),
	/** Piece that carries it: then the position counts from that piece's foot in its own directions, and each copy has one. */
	carriedBy: Id.nullable(),
	/** Where a spot, disc or rectangle shines; upwards is positive. */
	headingDeg: degrees,
	pitchDeg: number(-90, 90),
	/** Width and height of a rectangle in metres; the diameter of a sphere or disc is the width. */
	sizeM: z.tuple([number(0.001, 1000), number(0.001, 1000)]),
	/** Full angle of a spot's cone, and the share of it in which it fades. */
	coneDeg: number(1, 178),
	softness: number(0, 1),
	strength: LampStrength,
	/** Warmth, and a filter before it. */
	kelvin,
	filter: Colour,
	/** Whether the lamp itself is seen, in the frame and in mirrors. Points and spots have no body to be seen. */
	seen: z.boolean(),
	muted: z.boolean(),
	solo: z.boolean(),
});

export type Lamp = z.infer<typeof Lamp>;
export type LampKind = z.infer<typeof LampKind>;
export type LampStrength = z.infer<typeof LampStrength>;
