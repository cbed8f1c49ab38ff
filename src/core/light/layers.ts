/** Which light is summed by itself in a print with layers of light, and what the layers are called. */
import type { ShotDocument } from "../doc/schema.ts";
import { shining } from "./lamps.ts";

/** Layers before the lamps: sun and moon, sky with the light of the air, glowing pieces. */
const OTHERS = ["sun", "sky", "glow"];
/** As the tracer's kernel has them. */
export const GLOW_LAYER = 2;
const MOST_LAYERS = 12;

export interface LightLayers {
	/** Names that may stand in a channel's name. */
	names: string[];
	/** Layer of each lamp that shines, by its id. */
	ofLamp: Map<string, number>;
}

/** Each lamp has a layer; when there are too many, the last layer takes all that are left. */
export function lightLayers({ lamps }: Pick<ShotDocument, "lamps">): LightLayers {
	const lit = shining(lamps);
	const names = [...OTHERS];
	const ofLamp = new Map<string, number>();
	const room = MOST_LAYERS - OTHERS.length;
	for (const [i, lamp] of lit.entries()) {
		const crowded = lit.length > room && i >= room - 1;
		if (!crowded) names.push(unused(lamp.name.replace(/[^A-Za-z0-9]+/g, "-").replace(/^-+|-+$/g, "") || "lamp", names));
		else if (i === room - 1) names.push(unused("other-lamps", names));
		ofLamp.set(lamp.id, names.length - 1);
	}
	return { names, ofLamp };
}

function unused(name: string, taken: string[]): string {
	const is = (n: string) => taken.some((t) => t.toLowerCase() === n.toLowerCase());
	if (!is(name)) return name;
	for (let k = 2; ; k++) if (!is(`${name}-${k}`)) return `${name}-${k}`;
}
