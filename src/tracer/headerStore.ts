/** The header of a scene in the tracer's memory: camera, air, water, and where all else lies. */
import { levelLuxBy, SUN_RADIUS } from "../core/air/dome.ts";
import { luminance } from "../core/colour/linear.ts";
import { type FrameOfView, focusDistanceM, frameOfView } from "../core/lens/camera.ts";
import { cos } from "../core/maths/functions.ts";
import { sub, type Vec3 } from "../core/maths/vec.ts";
import type { Scene, ScenePicture } from "../core/scene/scene.ts";
import * as L from "./kernel/layout.ts";
import { writeMaterials } from "./materialStore.ts";
import type { Kernel, TracerMemory } from "./memory.ts";
import { turnBetween } from "./ways.ts";

/** Where a header lies and what it leads to. */
export interface Header {
	memory: TracerMemory;
	header: number;
	/** Tables of the albedo of rough surfaces; room for single rays, and behind it that of a walk through trees. */
	albedo: number;
	probe: number;
	/** Where the words of a part lie, 0 where they do not. */
	tableOf: (part: string) => number;
	/** Is told of what is to be released with the scene. */
	taken: (at: number) => void;
}

export interface PictureSize {
	width: number;
	height: number;
	seed: number;
	/** Extra flags, for tests of the sampling. */
	flags?: number;
	/** Number of lights to be summed by themselves, with fog and openness; none without. */
	layers?: number;
	/** Luminance of a uniform sky instead of the dome, for tests. */
	uniformSky?: Vec3;
}

/** Directions of the sky by which its light on level ground is told. */
const WHITE_LOOKS = [12, 24] as const;

const axesOf = ({ right, up, forward: f }: FrameOfView): [Vec3, Vec3, Vec3] => [right, up, [-f[0], -f[1], -f[2]]];

/** Writes what makes light a colour: one over the light of a white level ground under sun and sky. */
export function writeWhite({ memory, header, probe }: Header, kernel: Kernel, { root: { dome } }: Scene): void {
	kernel.takeScene(header, probe + 256);
	const lux = levelLuxBy(dome.sunLux, dome.sunDirection, WHITE_LOOKS, ([x, y, z]) => {
		kernel.skyAt(x, y, z, probe);
		return luminance(memory.f32, probe >> 2);
	});
	fieldsOf({ memory, header }).f(L.H_WHITE, lux > 0 ? Math.PI / lux : 0);
}

function writePicture(
	p: ScenePicture | null,
	tableOf: Header["tableOf"],
	f: (offset: number, ...values: number[]) => void,
	u: (offset: number, value: number) => void,
): void {
	u(L.H_PICTURE, p ? tableOf(p.texels) : 0);
	if (!p) return;
	u(L.H_PICTURE_W, p.width);
	u(L.H_PICTURE_H, p.height);
	u(L.H_NODES, tableOf(p.nodes));
	u(L.H_NODES_W, p.columns);
	u(L.H_NODES_H, p.rows);
	u(L.H_RING, tableOf(p.ring));
	f(L.H_PICTURE_TURN, p.turn, p.gain, p.saturation);
}

/** What of the header is the picture's: its size, its noise, what is summed of it. */
export function writePictureSize(to: Header, { root }: Scene, picture: PictureSize): void {
	const { camera, shutter, dome, fog, water } = root;
	const { f, u } = fieldsOf(to);
	const view = frameOfView(shutter?.opening ?? camera);
	const sunUp = dome.sunLux[0] + dome.sunLux[1] + dome.sunLux[2] > 0;
	u(
		L.H_FLAGS,
		(water && water.levelM !== null ? L.FLAG_WATER : 0) |
			(water?.meshed ? L.FLAG_WATER_MESHED : 0) |
			(fog.sigma0 > 0 ? L.FLAG_FOG : 0) |
			(fog.skyClear ? L.FLAG_SKY_CLEAR : 0) |
			(sunUp ? L.FLAG_SUN : 0) |
			(shutter || root.draws.some((d) => d.way) ? L.FLAG_MOVING : 0) |
			(picture.uniformSky ? L.FLAG_SKY_CONSTANT : 0) |
			(picture.flags ?? 0),
	);
	u(L.H_SEED, picture.seed);
	u(L.H_LAYERS, picture.layers ?? 0);
	u(L.H_WIDTH, picture.width);
	u(L.H_HEIGHT, picture.height);
	f(L.H_LENS_RADIUS, camera.focalMm / camera.fStop / 2000, focusDistanceM(camera), (2 * view.tanX) / picture.width);
	f(L.H_SKY_CONSTANT, ...(picture.uniformSky ?? [0, 0, 0]));
}

/** Writes floats and words of the header. */
function fieldsOf({ memory, header }: Pick<Header, "memory" | "header">) {
	return {
		f: (offset: number, ...values: number[]) => memory.f32.set(values, (header + offset) >> 2),
		u: (offset: number, value: number) => {
			memory.u32[(header + offset) >> 2] = value;
		},
	};
}

export function writeHeader(to: Header, scene: Scene): void {
	const { memory: m, header, albedo, tableOf, taken } = to;
	const { camera, origin, shutter, dome, fog, water } = scene.root;
	const view = frameOfView(shutter?.opening ?? camera);
	const { f, u } = fieldsOf(to);
	f(L.H_RIGHT, ...view.right.map((v) => v * view.tanX));
	f(L.H_UP, ...view.up.map((v) => v * view.tanY));
	f(L.H_FORWARD, ...view.forward);
	f(L.H_MIDDLE, ...view.middle);
	const eye = sub(view.position, origin);
	const there = frameOfView(shutter?.closing ?? camera);
	const turn = shutter ? turnBetween(axesOf(view), axesOf(there)) : { axis: [0, 1, 0], angle: 0 };
	f(L.H_EYE, ...eye);
	f(L.H_EYE_WAY, ...(shutter ? sub(there.position, view.position) : [0, 0, 0]), ...turn.axis, turn.angle);
	f(L.H_WIDENS, shutter ? there.tanX / view.tanX - 1 : 0);
	f(L.H_SUN_DIRECTION, ...dome.sunDirection);
	f(L.H_SKY_DIRECTION, ...dome.skyDirection);
	f(L.H_SUN_LUX, ...dome.sunLux);
	f(L.H_SUN_COS, cos(SUN_RADIUS));
	f(L.H_CLOUD_SUN, ...dome.cloudSun, ...dome.cloudAmbient, ...dome.airPerM);
	u(L.H_SKY, tableOf(dome.sky));
	u(L.H_CLOUD, tableOf(dome.cloud));
	u(L.H_GRID, tableOf(dome.grid));
	writePicture(dome.picture, tableOf, f, u);
	const materialsAt = writeMaterials(m, scene, tableOf, taken);
	u(L.H_MATERIALS, materialsAt);
	u(L.H_ALBEDO, albedo);
	const waves = water?.waves ?? [];
	const waveTable = new Float32Array(Math.max(1, waves.length) * (L.W_SIZE / 4));
	waves.forEach((w, i) => {
		// Phases are taken at the origin in float64, so that far places keep theirs.
		const turn = w.phase + w.kx * origin[0] + w.kz * origin[2];
		const phase = turn - Math.floor(turn / (2 * Math.PI)) * 2 * Math.PI;
		waveTable.set([w.kx, w.kz, phase, w.slope, w.lengthM], (i * L.W_SIZE) / 4);
	});
	const wavesAt = m.put(waveTable);
	taken(materialsAt);
	taken(wavesAt);
	f(L.H_WATER_TIME, water?.timeS ?? 0);
	u(L.H_FOAM, 0);
	if (water?.foam) {
		const { columns, rows, x, z, firstRad, stepRad, firstM, growth, shares } = water.foam;
		const fan = [columns, rows, x - origin[0], z - origin[2], firstRad, stepRad, firstM, growth];
		const at = m.allocate(L.FO_SIZE);
		m.f32.set(fan, at >> 2);
		m.u32[(at + L.FO_SHARES) >> 2] = tableOf(shares);
		taken(at);
		u(L.H_FOAM, at);
	}
	u(L.H_WAVES, wavesAt);
	u(L.H_WAVE_COUNT, waves.length);
	m.f64[(header + L.H_FOG_SIGMA) >> 3] = fog.sigma0;
	m.f64[(header + L.H_FOG_BASE) >> 3] = fog.y0 - origin[1];
	m.f64[(header + L.H_FOG_SCALE) >> 3] = Number.isFinite(fog.scaleM) ? fog.scaleM : 0;
	f(L.H_FOG_G, fog.g, ...fog.albedo);
	if (water) f(L.H_WATER_LEVEL, (water.levelM ?? 0) - origin[1], ...water.absorbPerM, 0.004);
	const { planet } = scene.root;
	m.f64.set(
		[planet?.radiusM ?? 0, (planet?.x ?? 0) - origin[0], -origin[1], (planet?.z ?? 0) - origin[2]],
		(header + L.H_PLANET) >> 3,
	);
	f(L.H_WORLD, origin[0], origin[2]);
}
