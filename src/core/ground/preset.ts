/** A preset of the ground: its height and its colour, as pure functions that give the same bits on every engine. */
import type { GroundPreset } from "../doc/schema.ts";
import * as makers from "./presets/makers.ts";

export type Rgb = [number, number, number];

export interface Preset {
	/** Height at a place in metres; `heightM` is the height of its crests, swells or tablelands. */
	height: (x: number, z: number, seed: number, heightM: number) => number;
	/** Base colour (linear) of the dry ground at a place and height; `steep` is the sine of its slope. */
	colour: (x: number, y: number, z: number, seed: number, steep: number) => Rgb;
	/** Height that the ticket offers at most, in steps of; and what the height means. */
	mostM: number;
	stepM: number;
	says: string;
	/** Half of the width of land that its small picture shows, metres. */
	shownM: number;
}

export const PRESETS: Record<GroundPreset, Preset> = makers;
