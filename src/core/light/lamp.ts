/** A kind of lamp: what the tracer takes it for, its body, its strength, and what of it a person sets. */
import type { Lamp, LampKind, LampStrength } from "../doc/schema.ts";
import type { Mesh } from "../maths/mesh.ts";
import * as makers from "./kinds/makers.ts";

/** Lights as the tracer knows them; a body is a glowing piece. */
export type LightShape = "point" | "spot" | "sphere" | "disc" | "rectangle" | "body";

export interface LampMaker {
	shape: Exclude<LightShape, "body">;
	/** It shines one way, and is aimed. */
	aims: boolean;
	/** Its light is held in a cone. */
	cone: boolean;
	/** Measures that it has: none, a diameter, or a width and a height. */
	measures: 0 | 1 | 2;
	/** Area in m² that a lamp of a size shines from; 0 of a place without one. */
	areaM2: (sizeM: Lamp["sizeM"]) => number;
	/**
	 * Its strength by the unit in which it is told: candela on its axis of a lamp without an area, cd/m² of the others.
	 * Lumen count all of its light, lux are met on its axis at the stated distance from its middle.
	 */
	strength: Record<LampStrength["unit"], (value: number, lamp: Measured) => number>;
	/** What rays meet: a unit mesh about the origin that is stretched by half its measures; flat ones look towards −Z. */
	body: (() => Mesh) | null;
	/** What a new one has of its own. */
	usual: Pick<Lamp, "pitchDeg" | "sizeM">;
	/** Height over the ground at which a click hangs it, metres. */
	hangsM: number;
}

/** What of a lamp its strength depends on. */
export type Measured = Pick<Lamp, "sizeM" | "coneDeg" | "softness" | "strength">;

export const LAMPS: Record<LampKind, LampMaker> = makers;

/** A warm lamp of 800 lm, two metres above the ground. `over` replaces what is given. */
export const newLamp = (id: string, kind: LampKind, over: Partial<Lamp> = {}): Lamp => ({
	id,
	name: `${kind[0].toUpperCase()}${kind.slice(1)} lamp`,
	kind,
	position: [0, 2, -5],
	stands: "ground",
	carriedBy: null,
	headingDeg: 0,
	...LAMPS[kind].usual,
	coneDeg: 50,
	softness: 0.4,
	strength: { value: 800, unit: "lumen", atM: 1 },
	kelvin: 2700,
	filter: [1, 1, 1],
	seen: true,
	muted: false,
	solo: false,
	...over,
});
