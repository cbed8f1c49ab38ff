/**
 * The shot document: what a person intends, never what follows from it. This schema is the one place of limits and of
 * defaults. Units: metres, degrees, millimetres for film and lens, EV at ISO 100 for exposure; +Y up, heading in
 * degrees clockwise seen from above with 0 along −Z.
 */
import { z } from "zod";

export const DOCUMENT_VERSION = 1;

const number = (min: number, max: number) => z.number().min(min).max(max);
const metres = number(-1e5, 1e5);
const degrees = number(-360, 360);
export const Id = z.string().regex(/^[A-Za-z0-9_-]{1,40}$/);
export const BlobHash = z.string().regex(/^[0-9a-f]{64}$/);
const Name = z.string().trim().min(1).max(80);
export const Colour = z.tuple([number(0, 1), number(0, 1), number(0, 1)]);
const Position = z.tuple([metres, metres, metres]);

/** A part of something, as shares of it from its top-left corner. */
const share = z.object({ x: number(0, 1), y: number(0, 1), width: number(0.001, 1), height: number(0.001, 1) });
const inside = (p: z.infer<typeof share>) => p.x + p.width <= 1.0005 && p.y + p.height <= 1.0005;

/** How a reference is looked at. Its file is never touched. */
export const Look = z.object({
	/** Part that is shown, of the picture once turned and mirrored; null shows all of it. */
	crop: share.refine(inside, "The crop goes beyond the picture.").nullable(),
	/** Quarter turns clockwise, before it is mirrored. */
	turns: z.int().min(0).max(3),
	mirrored: z.boolean(),
	/** Brightness in stops. */
	brightness: number(-3, 3),
	contrast: number(0, 3),
	hueDeg: number(-180, 180),
	saturation: number(0, 3),
	/** Warmer above 0. */
	warmth: number(-1, 1),
	/** Bend that is taken out of the file about its middle, of the division model; none shows it as it came. */
	bend: number(-0.8, 0.45).optional(),
});

/** A stroke or words on a reference, in shares of the picture as shown. */
export const Note = z.discriminatedUnion("kind", [
	z.object({
		id: Id,
		kind: z.literal("stroke"),
		points: z
			.array(z.tuple([number(-1, 2), number(-1, 2)]))
			.min(2)
			.max(600),
	}),
	z.object({
		id: Id,
		kind: z.literal("words"),
		at: z.tuple([number(-1, 2), number(-1, 2)]),
		words: z.string().trim().min(1).max(200),
	}),
]);

export const Reference = z.object({
	id: Id,
	name: Name,
	blob: BlobHash,
	widthPx: z.int().min(1).max(100_000),
	heightPx: z.int().min(1).max(100_000),
	caption: z.string().max(300).optional(),
	/** Heading of the pin-up sheet under which it hangs. */
	purpose: z.string().trim().min(1).max(40).optional(),
	look: Look.optional(),
	notes: z.array(Note).max(200).optional(),
	/** Clip that it was pulled from, and the second of it. */
	clip: z.object({ blob: BlobHash, atS: number(0, 1e5) }).optional(),
});

/** A moving picture that stills are pulled from. */
export const Clip = z.object({
	id: Id,
	name: Name,
	blob: BlobHash,
	widthPx: z.int().min(1).max(16_384),
	heightPx: z.int().min(1).max(16_384),
	seconds: number(0, 1e5),
});

export const ReferenceMode = z.enum(["off", "over", "beside", "wipe"]);

/** Colours and values of a reference that the frame is held against. */
export const Target = z.object({
	reference: Id,
	colours: z
		.array(z.object({ colour: z.tuple([number(0, 1), number(0, 1), number(0, 1)]), share: number(0, 1) }))
		.min(1)
		.max(8),
	/** Steps of value from dark to light: L* and share of the picture. */
	values: z
		.array(z.object({ lightness: number(0, 100), share: number(0, 1) }))
		.min(1)
		.max(7),
});

export const MatchAxis = z.enum(["along", "across", "upright"]);

const pixel = number(-1e6, 1e6);
/** A segment over the reference, in its pixels from the top-left corner. */
export const MatchLine = z
	.object({
		id: Id,
		axis: MatchAxis,
		x1: pixel,
		y1: pixel,
		x2: pixel,
		y2: pixel,
		/** Left out of the match. */ out: z.boolean().optional(),
	})
	.refine((l) => Math.hypot(l.x2 - l.x1, l.y2 - l.y1) >= 1, "A line needs a length of at least one pixel.");

/** Something of known size over the reference: upright from its foot (1) to its top (2), or level between two places. */
export const MatchMeasure = z.object({
	id: Id,
	kind: z.enum(["height", "length"]),
	x1: pixel,
	y1: pixel,
	x2: pixel,
	y2: pixel,
	metres: number(0.01, 10_000),
});

/** A circle of the place, seen as an ellipse: half axes, and the angle of the first from right towards down. */
export const MatchCircle = z.object({
	id: Id,
	x: pixel,
	y: pixel,
	a: number(2, 1e6),
	b: number(2, 1e6),
	angleDeg: degrees,
	plane: z.enum(["ground", "along", "across"]),
});

/** Places along an edge that is straight in the place and bent in the picture. */
export const MatchCurve = z.object({
	id: Id,
	points: z
		.array(z.tuple([pixel, pixel]))
		.min(3)
		.max(12),
});

export const Match = z.object({
	/** Reference that it is drawn over; nothing takes the one that is shown. */
	reference: Id.optional(),
	lines: z.array(MatchLine).max(200),
	focalGivenMm: number(4, 1200).nullable(),
	eyeHeightM: number(0.01, 10_000),
	measures: z.array(MatchMeasure).max(40).optional(),
	circles: z.array(MatchCircle).max(20).optional(),
	curves: z.array(MatchCurve).max(40).optional(),
	/** The horizon as it was dragged: pixels from the top at the left and right edge. */
	horizon: z.object({ yLeft: pixel, yRight: pixel }).nullable().optional(),
	/** Whether the lens's axis meets the picture's middle, or that is solved too. */
	centre: z.enum(["middle", "solved"]).optional(),
	/** Whether a line that does not belong with the rest counts all the same. */
	allCount: z.boolean().optional(),
});

export const FilmBack = z.object({ widthMm: number(4, 100), heightMm: number(3, 100) });

export const Camera = z.object({
	locked: z.boolean(),
	position: Position,
	headingDeg: degrees,
	pitchDeg: number(-89, 89),
	rollDeg: number(-180, 180),
	film: FilmBack,
	/** Width over height of the frame; a ratio other than the film's crops it and never changes the lens. */
	ratio: number(0.2, 5),
	focalMm: number(4, 1200),
	/** The film's middle off the lens's axis, in millimetres of the picture's right and up: what a shift lens does, or a crop. */
	shiftMm: z.tuple([number(-200, 200), number(-200, 200)]).optional(),
	fStop: number(0.7, 64),
	/** Distance of focus; null focuses at the hyperfocal distance. */
	focusM: number(0.05, 1e5).nullable(),
	ev100: number(-10, 22),
});

/** A camera that is kept to be compared with others. */
export const Candidate = z.object({
	id: Id,
	name: Name,
	thumbnail: BlobHash.nullable(),
	camera: Camera.pick({
		position: true,
		headingDeg: true,
		pitchDeg: true,
		rollDeg: true,
		film: true,
		ratio: true,
		focalMm: true,
		shiftMm: true,
	}),
});

export const Guide = z.enum(["thirds", "golden ratio", "diagonals", "centre", "safe areas", "horizon"]);

export const PieceKind = z.enum(["box", "cylinder", "cone", "sphere", "wedge"]);

const kelvin = number(1000, 20_000);

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

export const Repeat = z.object({
	count: z.int().min(1).max(2000),
	/** Step from one copy to the next in the piece's own directions: right, away (metres). */
	step: z.tuple([metres, metres]),
});

export const Piece = z.object({
	id: Id,
	name: Name,
	kind: PieceKind,
	/** Foot of the piece: right, up, towards. `up` counts from the ground below it, or from level zero. */
	position: Position,
	stands: z.enum(["ground", "level"]),
	headingDeg: degrees,
	/** Lean about the piece's own width, degrees away from upright, positive towards its away side. */
	leanDeg: number(-180, 180),
	/** Width, height, depth in metres. */
	size: z.tuple([number(0.001, 1e5), number(0.001, 1e5), number(0.001, 1e5)]),
	surface: Surface,
	hidden: z.boolean(),
	repeat: Repeat.nullable(),
});

export const GroundPreset = z.enum(["salt flat", "plain", "ridges"]);

export const Ground = z.object({
	preset: GroundPreset,
	seed: z.int().min(0).max(99999),
	heightM: number(0, 4000),
});

export const Water = z.object({
	on: z.boolean(),
	levelM: number(-1000, 4000),
	/** Height of the ripples from trough to crest, millimetres. */
	rippleMm: number(0, 500),
	/** Distance in water after which 2 % of the bed's contrast is left, metres. */
	clarityM: number(0.05, 200),
});

export const Rule = z.discriminatedUnion("kind", [
	z.object({ kind: z.literal("in view"), out: z.boolean(), marginPercent: number(0, 100) }),
	z.object({
		kind: z.literal("near the lens"),
		out: z.boolean(),
		distanceM: number(0.5, 3000),
		featherM: number(0, 3000),
	}),
	z.object({ kind: z.literal("away from pieces"), out: z.boolean(), widthM: number(0, 200), featherM: number(0, 200) }),
	z.object({ kind: z.literal("slope"), out: z.boolean(), maxDeg: number(0, 90), featherDeg: number(0, 90) }),
	z.object({ kind: z.literal("above water"), out: z.boolean(), marginM: number(-10, 1000), featherM: number(0, 1000) }),
	z.object({
		kind: z.literal("patches"),
		out: z.boolean(),
		sizeM: number(0.2, 1000),
		share: number(0.02, 1),
		featherM: number(0, 1),
	}),
]);

export const Species = z.enum(["tussock", "shrub"]);

export const Cover = z.object({
	id: Id,
	name: Name,
	species: Species,
	densityPerM2: number(0, 60),
	sizeM: z.tuple([number(0.02, 30), number(0.02, 30)]),
	seed: z.int().min(0).max(99999),
	colour: Colour,
	hidden: z.boolean(),
	rules: z.array(Rule).max(12),
});

export const LampKind = z.enum(["point", "spot", "sphere", "disc", "rectangle"]);

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

export const Sun = z.object({ headingDeg: degrees, elevationDeg: number(-18, 90) });

export const Moon = z.object({
	on: z.boolean(),
	headingDeg: degrees,
	elevationDeg: number(-18, 90),
	/** Share of its disc that is lit. */
	lit: number(0.02, 1),
});

/** A picture of all directions around that stands for the sky. */
export const SkyPicture = z.object({
	/** The file as it came: HDR, EXR, or a picture of 8 or 16 bits. */
	file: BlobHash,
	name: Name,
	widthPx: z.int().min(1).max(100_000),
	heightPx: z.int().min(1).max(100_000),
	/** Heading of the picture's middle. */
	turnDeg: degrees,
	/** Light of its upper half on level ground, lux. */
	lux: number(0, 200_000),
	saturation: number(0, 2),
	/** Whether sun or moon stand in it, in place of the picture's own sun. */
	sun: z.boolean(),
});

export const Air = z.object({
	sun: Sun,
	/** It shows and gives light once the sun is down. */
	moon: Moon.optional(),
	/** It takes the place of the computed sky and of the cloud. */
	picture: SkyPicture.nullable().optional(),
	/** Haze of the atmosphere as a multiple of a clear day's aerosol. */
	haze: number(0, 20),
	cloud: z.object({ cover: number(0, 1), seed: z.int().min(0).max(99999) }),
	fog: z.object({
		on: z.boolean(),
		visibilityM: number(5, 500_000),
		/** Height above level zero below which the fog lies (5 % of its density is left there); null fills the air evenly. */
		belowM: number(0.5, 20_000).nullable(),
		/** Mean cosine of scattering: towards 0.95 glows about the sun. */
		forward: number(-0.9, 0.95),
		colour: Colour,
		skyClear: z.boolean(),
	}),
});

export const ToneCurve = z.enum(["print", "straight"]);

export const Finish = z.object({
	exposureEv: number(-8, 8),
	curve: ToneCurve,
	contrast: number(0.5, 2),
	vignette: number(0, 1),
});

/** Part of the frame, as shares of it from the top-left corner. */
export const FramePart = share.refine(inside, "The part of the frame goes beyond it.");

export const PrintSettings = z.object({
	widthPx: z.int().min(16).max(16_384),
	samples: z.int().min(16).max(65_536).multipleOf(16),
	seed: z.int().min(0).max(99999),
	/** Relative standard error in percent at which a tile takes no more samples; null or nothing takes all of them. */
	noisePercent: z.number().min(0.1).max(50).nullable().optional(),
	/** Each light, fog and openness as layers of their own. */
	layers: z.boolean().optional(),
	/** Null or nothing prints all of the frame. */
	part: FramePart.nullable().optional(),
});

export const ShotDocument = z.object({
	version: z.literal(DOCUMENT_VERSION),
	title: z.string().trim().min(1).max(120),
	idea: z.string().max(400),
	references: z.array(Reference).max(60),
	clips: z.array(Clip).max(20).optional(),
	shown: z.object({
		reference: Id.nullable(),
		mode: ReferenceMode,
		opacity: number(0, 1),
		/** Share of the frame, from its left edge, in which a wipe shows the reference. */
		wipe: number(0, 1).optional(),
	}),
	match: Match,
	camera: Camera,
	candidates: z.array(Candidate).max(24).optional(),
	/** What carries the picture, and its mood, in words. */
	carries: z.array(z.string().trim().min(1).max(120)).max(3).optional(),
	mood: z.array(z.string().trim().min(1).max(40)).max(12).optional(),
	/** Headings of the pin-up sheet in their order. */
	purposes: z.array(z.string().trim().min(1).max(40)).max(12).optional(),
	target: Target.nullable().optional(),
	guides: z.array(Guide).max(6).optional(),
	/** Where the eye should rest, as shares of the frame from its top-left corner. */
	focalPoint: z
		.tuple([number(0, 1), number(0, 1)])
		.nullable()
		.optional(),
	pieces: z.array(Piece).max(5000),
	ground: Ground,
	water: Water,
	covers: z.array(Cover).max(40),
	lamps: z.array(Lamp).max(2000).default([]),
	air: Air,
	finish: Finish,
	print: PrintSettings,
});

export type ShotDocument = z.infer<typeof ShotDocument>;
export type Camera = z.infer<typeof Camera>;
export type Piece = z.infer<typeof Piece>;
export type PieceKind = z.infer<typeof PieceKind>;
export type Surface = z.infer<typeof Surface>;
export type Ground = z.infer<typeof Ground>;
export type Water = z.infer<typeof Water>;
export type Cover = z.infer<typeof Cover>;
export type Rule = z.infer<typeof Rule>;
export type Species = z.infer<typeof Species>;
export type Lamp = z.infer<typeof Lamp>;
export type LampKind = z.infer<typeof LampKind>;
export type SkyPicture = z.infer<typeof SkyPicture>;
export type Air = z.infer<typeof Air>;
export type Finish = z.infer<typeof Finish>;
export type MatchAxis = z.infer<typeof MatchAxis>;
export type MatchLine = z.infer<typeof MatchLine>;
export type MatchMeasure = z.infer<typeof MatchMeasure>;
export type MatchCurve = z.infer<typeof MatchCurve>;
export type MatchCircle = z.infer<typeof MatchCircle>;
export type Reference = z.infer<typeof Reference>;
export type Clip = z.infer<typeof Clip>;
export type Look = z.infer<typeof Look>;
export type Note = z.infer<typeof Note>;
export type Target = z.infer<typeof Target>;
export type Candidate = z.infer<typeof Candidate>;
export type Guide = z.infer<typeof Guide>;
export type FramePart = z.infer<typeof FramePart>;
export type PrintSettings = z.infer<typeof PrintSettings>;
