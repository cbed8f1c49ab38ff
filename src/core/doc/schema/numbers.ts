/** Numbers and names that many schemas are made of. Units stand in their names. */
import { z } from "zod";

export const number = (min: number, max: number) => z.number().min(min).max(max);

export const metres = number(-1e6, 1e6);

export const degrees = number(-360, 360);

export const Id = z.string().regex(/^[A-Za-z0-9_-]{1,40}$/);

export const BlobHash = z.string().regex(/^[0-9a-f]{64}$/);

export const Name = z.string().trim().min(1).max(80);

export const Colour = z.tuple([number(0, 1), number(0, 1), number(0, 1)]);

export const Position = z.tuple([metres, metres, metres]);

/** A part of something, as shares of it from its top-left corner. */
export const share = z.object({ x: number(0, 1), y: number(0, 1), width: number(0.001, 1), height: number(0.001, 1) });

export const inside = (p: z.infer<typeof share>) => p.x + p.width <= 1.0005 && p.y + p.height <= 1.0005;

export const kelvin = number(1000, 20_000);
