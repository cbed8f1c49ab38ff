import { describe, expect, it } from "vitest";

import { newLamp } from "./lamp.ts";
import { lightLayers } from "./layers.ts";

const lamp = (id: string, name: string, over = {}) => ({ ...newLamp(id, "point"), name, ...over });

describe("layers of light", () => {
	it("are sun, sky, glow, and one for each lamp that shines, by its name", () => {
		const { names, ofLamp } = lightLayers({
			lamps: [lamp("a", "Gate lamp, left"), lamp("b", "muted", { muted: true }), lamp("c", "灯"), lamp("d", "SUN")],
		});
		expect(names).toEqual(["sun", "sky", "glow", "Gate-lamp-left", "lamp", "SUN-2"]);
		expect([...ofLamp]).toEqual([
			["a", 3],
			["c", 4],
			["d", 5],
		]);
	});
	it("hold the lamps that are left over in the last", () => {
		const nine = Array.from({ length: 9 }, (_, i) => lamp(`l${i}`, `L ${i}`));
		expect(lightLayers({ lamps: nine }).names).toHaveLength(12);
		const many = Array.from({ length: 30 }, (_, i) => lamp(`l${i}`, `L ${i}`));
		const { names, ofLamp } = lightLayers({ lamps: many });
		expect(names).toHaveLength(12);
		expect(names[11]).toBe("other-lamps");
		expect(ofLamp.get("l7")).toBe(10);
		expect([...ofLamp.values()].filter((v) => v === 11)).toHaveLength(22);
	});
});
