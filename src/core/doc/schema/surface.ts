/** What a piece is made of. */
import { z } from "zod";
import * as wheres from "../../surface/where/schemas.ts";
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

type AnyWhere = (typeof wheres)[keyof typeof wheres];

/** Where a surface lies over another. Kinds are listed in `core/surface/where/schemas.ts`. */
export const LaidWhere = z.discriminatedUnion("kind", Object.values(wheres) as [AnyWhere, ...AnyWhere[]]);
export type LaidWhere = z.infer<typeof LaidWhere>;

/** A surface of a recipe as it lies by itself. */
const LaidAlone = z.object({
	/** Its word; see `core/surface/makers.ts`. One that is not known any more stays, and nothing lies there. */
	of: z.string().min(1).max(40),
	seed: z.int().min(0).max(99999),
	/** Clockwise as it is looked at. */
	turnDeg: degrees,
	/** Side of the square after which it repeats, metres. */
	acrossM: number(0.02, 200),
	/** From its lowest to its highest, millimetres. */
	reliefMm: number(0, 2000),
	/** How thick it is besides where it lies over another, millimetres: moss, snow. */
	thickMm: number(0, 2000).optional(),
	/** Share in which its mean colour is that of what it lies on. */
	tint: number(0, 1),
	/** Up to a half it grows damp, from there on water fills its hollows. */
	wet: number(0, 1),
	/** Times its colour, channel by channel; and by how much it is rougher, or smoother. As the recipe has it where nothing is said. */
	shade: z.tuple([number(0.01, 50), number(0.01, 50), number(0.01, 50)]).optional(),
	rougher: number(-1, 1).optional(),
	/** How far its heights are worn away from the top, and how far dirt fills them from the bottom. */
	worn: number(0, 1).optional(),
	dirt: number(0, 1).optional(),
});

/** Wheres of a surface that lies over another, and surfaces that may lie over the first. */
export const MOST_LAID_WHERES = 3;
export const MOST_OVER = 7;

/** A surface over others, where all of its sentences hold; their heights decide at its edge. */
export const LaidOver = LaidAlone.extend({
	share: number(0, 1),
	where: z.array(LaidWhere).max(MOST_LAID_WHERES),
});
export type LaidOver = z.infer<typeof LaidOver>;

export const Laid = LaidAlone.extend({
	/** The lowest first. */
	over: z.array(LaidOver).max(MOST_OVER).optional(),
});

export type Laid = z.infer<typeof Laid>;

/** Faces of a piece that have surfaces of their own, at most. */
export const MOST_FACES = 60;

/** What lies on one face of a piece, by the name that it keeps through all that is done to the shape; null where it is bare. */
export const FaceLaid = z.object({ face: z.string().min(1).max(120), laid: Laid.nullable() });
export type FaceLaid = z.infer<typeof FaceLaid>;

export const Surface = z.object({
	colour: Colour,
	roughness: number(0.02, 1),
	metal: number(0, 1),
	/** Share of a clear coat over it, and the coat's roughness. */
	coat: number(0, 1).optional(),
	coatRoughness: number(0.02, 1).optional(),
	/** What lies on it; its colour then stands for the mean, in which the surface is tinted. */
	laid: Laid.nullable().optional(),
	/** Faces on which something else lies. */
	faces: z.array(FaceLaid).max(MOST_FACES).optional(),
	/** Glass takes the surface's colour and roughness. */
	glass: Glass.nullable().optional(),
	/** Light that it sends out by itself, in cd/m². */
	glow: Glow.nullable().optional(),
});

export type Surface = z.infer<typeof Surface>;
