/** The light of a scene as the shaders of the working view take it: sun, sky, cloud, fog, air, lamps. */
import * as THREE from "three";
import { RING } from "../../core/air/skyPicture.ts";
import type { LightShape } from "../../core/light/lamp.ts";
import { meshBounds } from "../../core/maths/mesh.ts";
import { boundsOf, type Vec3 } from "../../core/maths/vec.ts";
import type { MeshPart, ScenePart, ScenePicture, SceneRoot } from "../../core/scene/scene.ts";
import { aroundTexture, halfTexture } from "./buffers.ts";
import { skyHarmonics, skyWithoutSun } from "./harmonics.ts";
import { LAMPS } from "./lightShaders.ts";

const uniformsOf = <T extends Record<string, THREE.IUniform>>(u: T): T => u;

/** How the shader takes a lamp: to all sides, with the cosine, or in a cone that fades; radius and area of one of half measures. */
interface Shone {
	kind: 0 | 1 | 2;
	radius: (w: number, h: number) => number;
	area: (w: number, h: number) => number;
}
const POINT: Shone = { kind: 0, radius: () => 0.02, area: () => 1 };
const round = (w: number) => Math.PI * w * w;
const even = (w: number, h: number) => Math.sqrt(w * h);
const SHONE: Record<LightShape, Shone> = {
	point: POINT,
	spot: { ...POINT, kind: 2 },
	sphere: { kind: 0, radius: even, area: round },
	disc: { kind: 1, radius: even, area: round },
	rectangle: { kind: 1, radius: even, area: (w, h) => 4 * w * h },
	body: { kind: 0, radius: (w) => w, area: round },
};

export class LightUniforms {
	/** Key of the sky picture that is in the graphics memory. */
	private around = "";

	readonly uniforms = uniformsOf({
		uSunDir: { value: new THREE.Vector3(0, 1, 0) },
		uSkyDir: { value: new THREE.Vector3(0, 1, 0) },
		uSunLux: { value: new THREE.Vector3() },
		uCloudSun: { value: new THREE.Vector3() },
		uCloudAmbient: { value: new THREE.Vector3() },
		uAir: { value: new THREE.Vector3() },
		uFog: { value: new THREE.Vector4() },
		uFogAlbedo: { value: new THREE.Vector3(1, 1, 1) },
		uPlanet: { value: 0 },
		uUp: { value: new THREE.Vector3(0, 1, 0) },
		uSunk: { value: 0 },
		uSea: { value: new THREE.Vector4() },
		uMurk: { value: new THREE.Vector3() },
		uSkyClear: { value: 1 },
		uSky: { value: null as THREE.Texture | null },
		uCloud: { value: null as THREE.Texture | null },
		uAroundOn: { value: 0 },
		uAround: { value: null as THREE.Texture | null },
		uRing: { value: null as THREE.Texture | null },
		uAroundIs: { value: new THREE.Vector3(0, 1, 1) },
		uSh: { value: Array.from({ length: 9 }, () => new THREE.Vector3()) },
		uEye: { value: new THREE.Vector3() },
		uClip: { value: -1e9 },
		uShadowMatrix: { value: new THREE.Matrix4() },
		uShadow: { value: null as THREE.Texture | null },
		uShadowOn: { value: 1 },
		uLook: { value: 0 },
		/** Radians of one pixel. */
		uPixelAngle: { value: 0 },
		uRake: { value: new THREE.Vector3(0, 1, 0) },
		uLamps: { value: 0 },
		uLampAt: { value: Array.from({ length: LAMPS }, () => new THREE.Vector4()) },
		uLampRgb: { value: Array.from({ length: LAMPS }, () => new THREE.Vector4()) },
		uLampAxis: { value: Array.from({ length: LAMPS }, () => new THREE.Vector4()) },
		uLampInner: { value: new Array<number>(LAMPS).fill(1) },
	});

	/** Takes the light of a scene. */
	take(root: SceneRoot, parts: Map<string, ScenePart>): void {
		const { dome, fog, camera, origin, planet, water } = root;
		const k = 2 ** -camera.ev100;
		const table = (key: string) => (parts.get(key) as Extract<ScenePart, { kind: "table" }>).data;
		const u = this.uniforms;
		u.uSunDir.value.set(...dome.sunDirection);
		u.uSkyDir.value.set(...dome.skyDirection);
		u.uSunLux.value.set(...dome.sunLux).multiplyScalar(k);
		u.uCloudSun.value.set(...dome.cloudSun).multiplyScalar(k);
		u.uCloudAmbient.value.set(...dome.cloudAmbient).multiplyScalar(k);
		u.uAir.value.set(...dome.airPerM);
		u.uFog.value.set(fog.sigma0, fog.y0 - origin[1], Number.isFinite(fog.scaleM) ? fog.scaleM : 0, fog.g);
		u.uFogAlbedo.value.set(...fog.albedo);
		u.uPlanet.value = planet ? 0.5 / planet.radiusM : 0;
		const level = water?.levelM ?? null;
		const { x, z } = planet ?? { x: 0, z: 0 };
		u.uSea.value.set(x - origin[0], z - origin[2], (level ?? 0) - origin[1], level === null ? 0 : 1);
		u.uMurk.value.set(...(water?.absorbPerM ?? [0, 0, 0]));
		u.uSkyClear.value = fog.skyClear ? 1 : 0;
		this.takeTable(u.uSky, `${dome.sky}|${k}`, () => halfTexture(table(dome.sky), 64, 96, 3, k, false));
		this.takeTable(u.uCloud, dome.cloud, () => halfTexture(table(dome.cloud), 512, 512, 1, 1, true));
		this.takeLamps(root, parts, k);
		this.takeAround(dome.picture, parts, k);
		const harmonics = skyHarmonics(skyWithoutSun(dome, parts), dome, root.water);
		harmonics.forEach((h, i) => u.uSh.value[i].set(h[0] * k, h[1] * k, h[2] * k));
	}

	/** Takes where the eye stands over the planet: what is up there, and how far that place has sunk. */
	takeEye({ planet }: SceneRoot, [x, y, z]: Vec3): void {
		const { uUp, uSunk } = this.uniforms;
		const [dx, dz] = planet ? [x - planet.x, z - planet.z] : [0, 0];
		const away = Math.hypot(dx, dz);
		uSunk.value = planet ? Math.hypot(away, planet.radiusM + y) - planet.radiusM - y : 0;
		if (planet) uUp.value.set(dx, planet.radiusM + y, dz).normalize();
		else uUp.value.set(0, 1, 0);
	}

	/** A table as a texture, made again only when it is another. */
	private takeTable(uniform: THREE.IUniform<THREE.Texture | null>, key: string, make: () => THREE.Texture): void {
		if (uniform.value?.name === key) return;
		uniform.value?.dispose();
		uniform.value = make();
		uniform.value.name = key;
	}

	/** A sky picture, at most 2048 texels wide. It stays in the graphics memory until another hangs. */
	private takeAround(p: ScenePicture | null, parts: Map<string, ScenePart>, k: number): void {
		const u = this.uniforms;
		u.uAroundOn.value = p ? 1 : 0;
		if (p) u.uAroundIs.value.set(p.turn, p.gain * k, p.saturation);
		if ((p?.texels ?? "") === this.around) return;
		u.uAround.value?.dispose();
		u.uRing.value?.dispose();
		u.uAround.value = u.uRing.value = null;
		this.around = p?.texels ?? "";
		if (!p) return;
		const { data } = parts.get(p.texels) as Extract<ScenePart, { kind: "texels" }>;
		const ring = (parts.get(p.ring) as Extract<ScenePart, { kind: "table" }>).data;
		u.uAround.value = aroundTexture({ width: p.width, height: p.height, texels: data });
		u.uRing.value = halfTexture(ring, RING, 1, 3, 1, true);
	}

	/** The lamps that count most at the lens, as points with a shape. */
	private takeLamps(root: SceneRoot, parts: Map<string, ScenePart>, k: number): void {
		const u = this.uniforms;
		const [ox, oy, oz] = root.origin;
		const lens = root.camera.position;
		// Many small ones all over a body light nothing from its middle.
		const lamps = root.lights
			.filter((l) => !l.scattered)
			.map((light) => {
				const shone = SHONE[light.shape];
				// A glowing piece as a ball about its middle.
				const ball = light.shape === "body" ? ballOf(root.draws[light.draw], parts) : null;
				const [w, h] = ball ? [ball.radius, ball.radius] : light.half;
				const [x, y, z] = ball?.middle ?? light.position;
				const at = [x - ox, y - oy, z - oz];
				const [fx, fy, fz] = [x - lens[0], y - lens[1], z - lens[2]];
				const area = shone.area(w, h);
				const strength = (light.rgb[1] * area) / (fx * fx + fy * fy + fz * fz + 4);
				return { light, at, radius: shone.radius(w, h), area, kind: shone.kind, strength };
			});
		lamps.sort((a, b) => b.strength - a.strength);
		u.uLamps.value = Math.min(LAMPS, lamps.length);
		lamps.slice(0, LAMPS).forEach(({ light, at, radius, area, kind }, i) => {
			u.uLampAt.value[i].set(at[0], at[1], at[2], radius);
			u.uLampRgb.value[i].set(light.rgb[0] * area * k, light.rgb[1] * area * k, light.rgb[2] * area * k, kind);
			u.uLampAxis.value[i].set(...light.axis, light.cosOuter);
			u.uLampInner.value[i] = light.cosInner;
		});
	}

	dispose(): void {
		const u = this.uniforms;
		for (const uniform of [u.uSky, u.uCloud, u.uAround, u.uRing]) {
			uniform.value?.dispose();
			uniform.value = null;
		}
		this.around = "";
	}
}

/** The ball about a body's middle that is as large as its box. */
function ballOf(draw: SceneRoot["draws"][number], parts: Map<string, ScenePart>): { middle: number[]; radius: number } {
	const { transform: t } = draw;
	const own = meshBounds((parts.get(draw.mesh) as MeshPart).mesh);
	const box = boundsOf(t, own);
	const sides = [0, 1, 2].map((c) => (own[c + 3] - own[c]) * Math.hypot(t[c], t[4 + c], t[8 + c]));
	return {
		middle: [0, 1, 2].map((c) => (box[c] + box[c + 3]) / 2),
		radius: Math.cbrt(sides[0] * sides[1] * sides[2]) / 2,
	};
}
