/**
 * Surfaces baked into sheets of 1,024 texels a side with all their halvings: the median of all and the slowest, goal 0.3 s
 * a thread; all of the demo shot's, goal 3 s; what they take, and what a path costs with them beside constant colours, goal 1.35; a search
 * by a patch, goal 0.2 s; a place more of a stroke of the brush, goal 50 ms; how long relief takes to shape the demo shot, and its triangles.
 *
 * Relief, tried on the wall of a yard that fills the frame: a stack of numbers in an array and triangles taken apart as lists took twice as
 * long as one typed stack; half of the time is now reading heights, half halving edges.
 */
import { saltWorksDocument } from "../demo/saltWorks.ts";
import type { MaskStroke, ShotDocument } from "../src/core/doc/schema.ts";
import { compile } from "../src/core/scene/compile.ts";
import { type Makers, NO_BLOBS, NO_MAKERS } from "../src/core/scene/inputs.ts";
import { PartCache } from "../src/core/scene/partCache.ts";
import type { Scene } from "../src/core/scene/scene.ts";
import { foundBy } from "../src/core/surface/finding.ts";
import { laidAsMade, laidOver } from "../src/core/surface/laying.ts";
import { likest, looksOf } from "../src/core/surface/likeness.ts";
import { sheetBytes } from "../src/core/surface/sheet.ts";
import { SURFACE_KINDS, SURFACES } from "../src/core/surface/surfaces.ts";
import { STILL } from "../src/core/time/frames.ts";
import { bakeSheet } from "../src/makers/sheets/bake.ts";
import { sheetKernelOf } from "../src/makers/sheets/maker.ts";
import { sheetModule } from "../src/makers/sheets/node.ts";
import { traceAtOnce } from "../src/tracer/testing.ts";
import { drafted } from "./drafted.ts";
import { median } from "./median.ts";

type Say = (name: string, value: number, unit: string, reference?: number) => void;

const SIZE = 1024;
const GOAL_MS = 300;
const PICTURE = { width: 240, height: 130, seed: 1 };
const ROUNDS = 5;

export async function surfaces(say: Say): Promise<void> {
	const kernel = sheetKernelOf(await sheetModule());
	// Once before, so that none is baked by what has not been compiled well yet.
	bakeSheet(kernel, SURFACES.brick, 1, SIZE);
	let bytes = 0;
	const times = SURFACE_KINDS.map((kind) => {
		const at = performance.now();
		bytes = sheetBytes(bakeSheet(kernel, SURFACES[kind], 1, SIZE));
		return performance.now() - at;
	});
	say(
		`a surface baked, ${SIZE.toLocaleString("en")} texels a side, median of ${times.length}, goal beside it`,
		median(times),
		"ms",
		GOAL_MS,
	);
	say("the slowest of them, goal beside it", Math.max(...times), "ms", GOAL_MS);
	say("a sheet with its halvings", bytes / 2 ** 20, "MiB");

	let baked = 0;
	const sheet = (_: string, { of, seed, texels }: { of: keyof typeof SURFACES; seed: number; texels: number }) => {
		const at = performance.now();
		const made = bakeSheet(kernel, SURFACES[of], seed, texels);
		baked += performance.now() - at;
		return made;
	};
	const doc = saltWorksDocument();
	const cache = new PartCache();
	const makers = { ...NO_MAKERS, sheet };
	const level = drafted(doc, makers, cache);
	const shaping = performance.now();
	const laid = compile(doc, STILL, NO_BLOBS, makers, cache);
	const shaped = performance.now() - shaping;
	const sheets = [...laid.parts.values()].filter((part) => part.kind === "sheet");
	say(`the ${sheets.length} surfaces of the demo shot baked, goal beside it`, baked, "ms", 3000);
	say("what they take, limit beside it", sheets.reduce((n, s) => n + sheetBytes(s.sheet), 0) / 2 ** 20, "MiB", 1024);

	const triangles = ({ root, parts }: Scene) =>
		root.draws.reduce((sum, { mesh }) => {
			const part = parts.get(mesh);
			return sum + (part?.kind === "mesh" ? part.mesh.indices.length / 3 : 0);
		}, 0);
	say("the demo shot's surfaces shaped by their relief, after a compile that leaves them level", shaped, "ms");
	say("triangles of its draws, those of level surfaces beside them", triangles(laid), "", triangles(level));

	const bare: Scene = {
		...laid,
		root: { ...laid.root, materials: laid.root.materials.map(({ layers: _, ...m }) => m) },
	};
	const traced = (scene: Scene) => {
		const at = performance.now();
		traceAtOnce(scene, PICTURE, 8);
		return performance.now() - at;
	};
	traced(bare);
	const [plain, covered]: [number[], number[]] = [[], []];
	for (let i = 0; i < ROUNDS; i++) {
		plain.push(traced(bare));
		covered.push(traced(laid));
	}
	say(
		"paths of the demo shot with surfaces, those with constant colours beside them, goal 1.35",
		median(covered),
		"ms",
		median(plain),
	);

	const at = performance.now();
	for (let i = 0; i < 100; i++) foundBy("white wall");
	say("a search among all by words", (performance.now() - at) / 100, "ms");
	const patch = Array.from({ length: 64 * 64 }, (_, i): [number, number, number] => {
		const v = 0.2 + 0.1 * Math.sin(i) * Math.sin(i / 64);
		return [v, 0.9 * v, 0.7 * v];
	});
	const began = performance.now();
	likest(SURFACE_KINDS, looksOf(patch, 64));
	say("a search among all by a patch, goal beside it", performance.now() - began, "ms", 200);
	strokes(say, doc, { ...NO_MAKERS, sheet });
}

/** A long stroke of the brush over a piece of the demo shot that moss lies on, place by place, on top of a hundred strokes. */
function strokes(say: Say, doc: ShotDocument, makers: Makers): void {
	const [{ id }] = doc.pieces;
	const over = { ...laidOver("moss"), where: [{ kind: "painted" as const, mask: "bench" }] };
	const pieces = doc.pieces.map((p) =>
		p.id === id ? { ...p, surface: { ...p.surface, laid: { ...laidAsMade("granite"), over: [over] } } } : p,
	);
	const stroke = (n: number, points: number): MaskStroke => ({
		points: Array.from({ length: points }, (_, i) => [0.1 * i, 0.05 * n, 0.02 * Math.sin(i)]),
		...{ radiusM: 0.4, strength: 0.8, soft: 0.6, away: false },
	});
	const before = Array.from({ length: 100 }, (_, n) => stroke(n, 20));
	const cache = new PartCache();
	const shown = (points: number) => {
		const masks = [{ id: "bench", on: id, strokes: [...before, stroke(101, points)] }];
		const at = performance.now();
		drafted({ ...doc, pieces, masks }, makers, cache, true);
		return performance.now() - at;
	};
	shown(1);
	const times = Array.from({ length: 60 }, (_, n) => shown(n + 2));
	say("a place more of a stroke, on top of a hundred strokes, goal beside it", median(times), "ms", 50);
	say("the slowest of sixty", Math.max(...times), "ms", 50);
}
