/** Small scenes with known answers, for the tests of the tracer. */

import { skyGrid } from "../core/air/dome.ts";
import { blankShot, newPiece } from "../core/doc/defaults.ts";
import type { ShapeKind } from "../core/doc/schema.ts";
import { LAMPS } from "../core/light/lamp.ts";
import type { SceneLight } from "../core/light/lamps.ts";
import type { Mesh } from "../core/maths/mesh.ts";
import type { Vec3 } from "../core/maths/vec.ts";
import { placement } from "../core/maths/vec.ts";
import type { Draw, Material, Scene, ScenePart } from "../core/scene/scene.ts";
import { geometryOf } from "../core/shape/shapes.ts";

/** A lamp of the test scenes; what is not given is that of a point of one candela. */
export type TestLamp = Partial<SceneLight> & Pick<SceneLight, "shape" | "position">;

const LAMP: Omit<SceneLight, "shape" | "position"> = {
	layer: 3,
	axis: [0, -1, 0],
	right: [1, 0, 0],
	up: [0, 0, -1],
	half: [0.1, 0.1],
	cosInner: 0.95,
	cosOuter: 0.9,
	rgb: [1, 1, 1],
	id: 0,
	draw: -1,
};

export interface Body {
	kind: ShapeKind;
	position: Vec3;
	size: Vec3;
	material?: Partial<Material>;
	/** cd/m² that it sends out. */
	glow?: Vec3;
}

/** A scene of bodies under a sun, no sky tables (pair it with a uniform sky), no air. The lens looks along −Z from the origin. */
export function testScene(
	bodies: Body[],
	over: {
		sunLux?: Vec3;
		sunDirection?: Vec3;
		fog?: Partial<Scene["root"]["fog"]>;
		water?: Scene["root"]["water"];
		camera?: Partial<Scene["root"]["camera"]>;
		lamps?: TestLamp[];
	} = {},
): Scene {
	const doc = blankShot();
	const parts = new Map<string, ScenePart>();
	const table = (key: string, data: Float32Array) => parts.set(key, { kind: "table", key, data });
	table("sky", new Float32Array(64 * 96 * 3));
	table("cloud", new Float32Array(512 * 512));
	table(
		"grid",
		skyGrid(() => [1, 1, 1]),
	);
	for (const { kind } of bodies) {
		const { mesh, faces } = geometryOf(newPiece("", kind));
		parts.set(kind, { kind: "mesh", key: kind, mesh, faces });
	}
	const zero: Vec3 = [0, 0, 0];
	const draws: Draw[] = bodies.map((b, i) => ({
		mesh: b.kind,
		transform: placement(b.position, 0, b.size),
		material: i,
		id: 3 + i,
	}));
	const lights: SceneLight[] = [];
	bodies.forEach((b, i) => {
		if (!b.glow) return;
		draws[i].light = lights.length;
		lights.push({ ...LAMP, layer: 2, shape: "body", position: b.position, rgb: b.glow, draw: i });
	});
	for (const lamp of over.lamps ?? []) {
		const light = { ...LAMP, ...lamp };
		const { shape } = light;
		if (shape === "sphere" || shape === "disc" || shape === "rectangle") {
			const key = `lamp ${shape}`;
			parts.set(key, { kind: "mesh", key, mesh: (LAMPS[shape].body as () => Mesh)() });
			const [w, h] = light.half;
			const { right: r, up: u, axis: a, position: p } = light;
			const d = shape === "sphere" ? w : 1;
			light.draw = draws.length;
			draws.push({
				mesh: key,
				transform: [0, 1, 2].flatMap((c) => [r[c] * w, u[c] * h, -a[c] * d, p[c]]),
				material: bodies.length,
				id: 0,
				light: lights.length,
			});
		}
		lights.push(light);
	}
	return {
		root: {
			shutter: null,
			planet: null,
			room: 1,
			origin: over.camera?.position ?? [0, 0, 0],
			camera: {
				...doc.camera,
				position: [0, 0, 0],
				focusM: null,
				fStop: 64,
				ratio: 1,
				film: { widthMm: 24, heightMm: 24 },
				focalMm: 24,
				...over.camera,
			},
			finish: doc.finish,
			dome: {
				skyDirection: over.sunDirection ?? [0, 1, 0],
				sunDirection: over.sunDirection ?? [0, 1, 0],
				sunLux: over.sunLux ?? zero,
				cloudSun: zero,
				cloudAmbient: zero,
				airPerM: zero,
				sky: "sky",
				cloud: "cloud",
				grid: "grid",
				picture: null,
			},
			fog: {
				sigma0: 0,
				y0: 0,
				scaleM: Number.POSITIVE_INFINITY,
				g: 0,
				albedo: [1, 1, 1],
				skyClear: false,
				...over.fog,
			},
			water: over.water ?? null,
			materials: [...bodies.map((b) => b.material ?? {}), { colour: zero, metal: 1 }].map((m) => ({
				colour: [1, 1, 1],
				roughness: 0.5,
				metal: 0,
				translucency: 0,
				...m,
			})),
			draws,
			lights,
			covers: [],
			ids: [],
		},
		parts,
	};
}

export { newPiece };
