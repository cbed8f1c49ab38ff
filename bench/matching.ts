/** Solver, edges and palette: what a match costs while a hand draws. Goals stand beside the figures. */
import { paletteOf, valueSteps } from "../src/core/brief/palette.ts";
import { MADE_UP_FILM as film, MADE_UP_IMAGE as image, MadeUp } from "../src/core/lens/madeUp.ts";
import { PerspectiveError, type PerspectiveInput, solvePerspective } from "../src/core/lens/solvePerspective.ts";
import { findEdges, greyOf } from "../src/core/match/edges.ts";
import { findFamilies } from "../src/core/match/families.ts";

const CASES = 200;
const median = (v: number[]) => v.sort((a, b) => a - b)[Math.floor(v.length / 2)];

/** A picture of twelve megapixels: boxes in a haze, with grain. */
function twelveMegapixels(): { pixels: Uint8ClampedArray; width: number; height: number } {
	const [width, height] = [4000, 3000];
	const pixels = new Uint8ClampedArray(width * height * 4);
	let grain = 1;
	for (let y = 0; y < height; y++)
		for (let x = 0; x < width; x++) {
			grain = (Math.imul(grain, 1664525) + 1013904223) | 0;
			const wall = (Math.floor((x + 0.3 * y) / 310) + Math.floor((y - 0.12 * x) / 270)) & 1;
			const g = 120 + 60 * wall + (40 * y) / height + ((grain >>> 24) - 128) / 20;
			pixels.set([g + 20, g, g - 25, 255], 4 * (y * width + x));
		}
	return { pixels, width, height };
}

export function matching(say: (name: string, value: number, unit: string, reference?: number) => void): void {
	const kinds: Record<string, (m: MadeUp) => PerspectiveInput> = {
		"two directions": (m) => ({ image, film, directions: m.directions(["z", "x"], m.camera(), 0.5, 3) }),
		"three directions": (m) => ({ image, film, directions: m.directions(["z", "x", "y"], m.camera(), 0.5, 3) }),
		"twelve lines and a wrong one": (m) => {
			const directions = m.directions(["z", "x", "y"], m.camera(), 0.5, 4);
			directions[0].segments[1] = m.wrong(directions[0].segments[1]);
			return { image, film, directions, robust: true };
		},
		"centre free": (m) => ({
			image,
			film,
			principal: "solve",
			directions: m.directions(["z", "x", "y"], m.camera(0.2), 0.5, 4),
		}),
	};
	for (const [kind, make] of Object.entries(kinds)) {
		const made = new MadeUp(1);
		const times: number[] = [];
		for (let i = 0; i < CASES; i++) {
			const input = make(made);
			const at = performance.now();
			try {
				solvePerspective(input);
			} catch (error) {
				if (!(error instanceof PerspectiveError)) throw error;
			}
			times.push(performance.now() - at);
		}
		say(`solver, ${kind}, time a case`, median(times), "ms, goal beside it", 20);
	}
	const { pixels, width, height } = twelveMegapixels();
	const at = performance.now();
	const edges = findEdges(greyOf(pixels, width, height));
	findFamilies(edges, { width, height });
	say("edges and families of 12 megapixels", performance.now() - at, "ms, goal beside it", 3000);
	const then = performance.now();
	paletteOf(pixels);
	valueSteps(pixels, 5);
	say("palette and values of 12 megapixels", performance.now() - then, "ms, goal beside it", 1000);
}
