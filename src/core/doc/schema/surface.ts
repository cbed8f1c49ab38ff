/** What a piece is made of. */
import { z } from "zod";
import { Colour, kelvin, number } from "./numbers.ts";

export const Glass = z.object({
	/** A pane lets light straight through; a body of glass bends it at both sides. */
	pane: z.boolean(),
	/** Index of refraction. */
	index: number(1.01, 2.6),
	/** Glass after which light has the surface's colour, metres; a pane has it after one passage. */
	depthM: number(0.001, 100),
});

export const Glow = z.object({ nits: number(0, 1e8), kelvin });

export const Surface = z.object({
	colour: Colour,
	roughness: number(0.02, 1),
	metal: number(0, 1),
	/** Share of a clear coat over it, and the coat's roughness. */
	coat: number(0, 1).optional(),
	coatRoughness: number(0.02, 1).optional(),
	/** Glass takes the surface's colour and roughness. */
	glass: Glass.nullable().optional(),
	/** Light that it sends out by itself, in cd/m². */
	glow: Glow.nullable().optional(),
});

export type Surface = z.infer<typeof Surface>;
