/** The kinds of shapes that a document may hold, in the order in which they are offered. Each has defaults for all of its own measures. */
import { arch } from "./arch/schema.ts";
import { blob } from "./blob/schema.ts";
import { box } from "./box/schema.ts";
import { building } from "./building/schema.ts";
import { card } from "./card/schema.ts";
import { cone } from "./cone/schema.ts";
import { cylinder } from "./cylinder/schema.ts";
import { disc } from "./disc/schema.ts";
import { dome } from "./dome/schema.ts";
import { plane } from "./plane/schema.ts";
import { rail } from "./rail/schema.ts";
import { raised } from "./raised/schema.ts";
import { sphere } from "./sphere/schema.ts";
import { stair } from "./stair/schema.ts";
import { town } from "./town/schema.ts";
import { tube } from "./tube/schema.ts";
import { turned } from "./turned/schema.ts";
import { wall } from "./wall/schema.ts";
import { wedge } from "./wedge/schema.ts";

export const SCHEMAS = {
	box,
	sphere,
	cylinder,
	cone,
	wedge,
	plane,
	disc,
	card,
	tube,
	arch,
	stair,
	dome,
	blob,
	raised,
	turned,
	rail,
	wall,
	building,
	town,
};
