/**
 * What of a shot can be keyed: one line each. A line says what holds the value, what it is, how it goes from one key to the
 * next (`core/time/ways.ts`), and how it is read from its holder and put there. Everything else reads this table.
 */
import { z } from "zod";
import { Air } from "./air.ts";
import { Camera } from "./camera.ts";
import { Finish } from "./finish.ts";
import { Water } from "./ground.ts";
import { Lamp } from "./lamp.ts";
import { Colour, Id } from "./numbers.ts";
import { Piece } from "./piece.ts";

/** How a value goes from one key to the next; what they compute stands in `core/time/ways.ts`. */
export type Way = "straight" | "logarithm" | "angles" | "direction" | "focus" | "step";

/** What holds values: one of a shot, or one of many that are called by their id. */
export interface Holders {
	camera: Camera;
	piece: Piece;
	lamp: Lamp;
	sun: Air["sun"];
	moon: NonNullable<Air["moon"]>;
	fog: Air["fog"];
	water: Water;
	finish: Finish;
}
export type HolderKind = keyof Holders;

interface Line<H extends HolderKind, T extends z.ZodType> {
	holder: H;
	/** What the value is called beside its holder. */
	label: string;
	schema: T;
	way: Way;
	read: (holder: Holders[H]) => z.infer<T>;
	/** The fields of the holder that say it. */
	fields: (value: z.infer<T>) => Partial<Holders[H]>;
}

const line = <H extends HolderKind, T extends z.ZodType>(
	holder: H,
	label: string,
	way: Way,
	schema: T,
	read: (holder: Holders[H]) => z.infer<T>,
	fields: (value: z.infer<T>) => Partial<Holders[H]>,
): Line<H, T> => ({ holder, label, way, schema, read, fields });

/** A value that is one field of its holder. */
const field = <H extends HolderKind, K extends keyof Holders[H] & string, T extends z.ZodType<Holders[H][K]>>(
	holder: H,
	label: string,
	way: Way,
	name: K,
	schema: T,
) =>
	line(
		holder,
		label,
		way,
		schema,
		(h) => h[name] as z.infer<T>,
		(value) => ({ [name]: value }) as unknown as Partial<Holders[H]>,
	);

const Direction = z.object({
	headingDeg: Air.shape.sun.shape.headingDeg,
	elevationDeg: Air.shape.sun.shape.elevationDeg,
});
const Turned = Piece.pick({ headingDeg: true, pitchDeg: true, rollDeg: true });
const Looking = Camera.pick({ headingDeg: true, pitchDeg: true, rollDeg: true });
const Aimed = Lamp.pick({ headingDeg: true, pitchDeg: true });
const turnOf = <T extends z.infer<typeof Turned>>({ headingDeg, pitchDeg, rollDeg }: T) => ({
	headingDeg,
	pitchDeg,
	rollDeg,
});
const standing = ({ headingDeg, elevationDeg }: z.infer<typeof Direction>) => ({ headingDeg, elevationDeg });

export const KEYED = {
	"camera.place": field("camera", "place", "straight", "position", Camera.shape.position),
	"camera.direction": line("camera", "direction", "angles", Looking, turnOf, turnOf),
	"camera.focal": field("camera", "focal length", "logarithm", "focalMm", Camera.shape.focalMm),
	"camera.focus": line(
		"camera",
		"focus",
		"focus",
		z.object({ focusM: Camera.shape.focusM, focusOn: Id.nullable() }),
		({ focusM, focusOn }) => ({ focusM, focusOn: focusOn ?? null }),
		({ focusM, focusOn }) => ({ focusM, focusOn: focusOn ?? undefined }),
	),
	"camera.fStop": field("camera", "f-stop", "logarithm", "fStop", Camera.shape.fStop),
	"camera.exposure": field("camera", "exposure", "straight", "ev100", Camera.shape.ev100),
	"piece.place": field("piece", "place", "straight", "position", Piece.shape.position),
	"piece.turn": line("piece", "turn", "angles", Turned, turnOf, turnOf),
	"piece.size": field("piece", "size", "straight", "size", Piece.shape.size),
	"piece.shown": line(
		"piece",
		"shown",
		"step",
		z.boolean(),
		(p) => !p.hidden,
		(shown) => ({ hidden: !shown }),
	),
	"lamp.place": field("lamp", "place", "straight", "position", Lamp.shape.position),
	"lamp.aim": line(
		"lamp",
		"aim",
		"direction",
		Aimed,
		({ headingDeg, pitchDeg }) => ({ headingDeg, pitchDeg }),
		(aim) => aim,
	),
	"lamp.strength": field("lamp", "strength", "straight", "strength", Lamp.shape.strength),
	"lamp.warmth": field("lamp", "warmth", "logarithm", "kelvin", Lamp.shape.kelvin),
	sun: line("sun", "place", "direction", Direction, standing, standing),
	moon: line("moon", "place", "direction", Direction, standing, standing),
	"fog.visibility": field("fog", "visibility", "logarithm", "visibilityM", Air.shape.fog.shape.visibilityM),
	"fog.height": field("fog", "height", "logarithm", "belowM", Air.shape.fog.shape.belowM),
	"fog.colour": field("fog", "colour", "straight", "colour", Colour),
	"water.ripples": field("water", "ripples", "straight", "rippleMm", Water.shape.rippleMm),
	"finish.exposure": field("finish", "exposure", "straight", "exposureEv", Finish.shape.exposureEv),
	"finish.contrast": field("finish", "contrast", "straight", "contrast", Finish.shape.contrast),
	"finish.vignette": field("finish", "vignette", "straight", "vignette", Finish.shape.vignette),
};

export type KeyedName = keyof typeof KEYED;
export const KEYED_NAMES = Object.keys(KEYED) as KeyedName[];

/** A line of the table without its types, for what handles them all alike. */
export interface AnyKeyed {
	holder: HolderKind;
	label: string;
	way: Way;
	schema: z.ZodType;
	read: (holder: unknown) => unknown;
	fields: (value: unknown) => Record<string, unknown>;
}
export const keyed = (name: KeyedName): AnyKeyed => KEYED[name] as unknown as AnyKeyed;
