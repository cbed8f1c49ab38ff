/** What a piece is made of. */
import { z } from "zod";
import { Colour, degrees, kelvin, number } from "./numbers.ts";

export const Glass = z.object({
	/** A pane lets light straight through; a body of glass bends it at both sides. */
	pane: z.boolean(),
	/** Index of refraction. */
	index: number(1.01, 2.6),
	/** Glass after which light has the surface's colour, metres; a pane has it after one passage. */
	depthM: number(0.001, 100),
});

export const Glow = z.object({ nits: number(0, 1e8), kelvin });

/** A surface of a recipe as it is laid on something. */
export const Laid = z.object({
	/** Its word; see `core/surface/makers.ts`. One that is not known any more stays, and nothing lies there. */
	of: z.string().min(1).max(40),
	seed: z.int().min(0).max(99999),
	/** Clockwise as it is looked at. */
	turnDeg: degrees,
	/** Side of the square after which it repeats, metres. */
	acrossM: number(0.02, 200),
	/** From its lowest to its highest, millimetres. */
	reliefMm: number(0, 2000),
	/** Share in which its mean colour is that of what it lies on. */
	tint: number(0, 1),
	/** Up to a half it grows damp, from there on water fills its hollows. */
	wet: number(0, 1),
});

export type Laid = z.infer<typeof Laid>;

export const Surface = z.object({
	colour: Colour,
	roughness: number(0.02, 1),
	metal: number(0, 1),
	/** Share of a clear coat over it, and the coat's roughness. */
	coat: number(0, 1).optional(),
	coatRoughness: number(0.02, 1).optional(),
	/** What lies on it; its colour then stands for the mean, in which the surface is tinted. */
	laid: Laid.nullable().optional(),
	/** Glass takes the surface's colour and roughness. */
	glass: Glass.nullable().optional(),
	/** Light that it sends out by itself, in cd/m². */
	glow: Glow.nullable().optional(),
});

export type Surface = z.infer<typeof Surface>;
