/** Still water of the working view: a level plane with ripples that mirrors the world above it. */
import * as THREE from "three";
import { seaDisc } from "../../core/ground/seaDisc.ts";
import type { SceneRoot } from "../../core/scene/scene.ts";
import { DrawnPicture } from "./drawnPicture.ts";
import * as S from "./shaders.ts";

/** The sea of a scene, as it lies on its planet. */
function disc({ planet, water }: SceneRoot): THREE.BufferGeometry {
	const { positions, indices } = seaDisc(planet, water?.levelM ?? 0);
	const geometry = new THREE.BufferGeometry();
	geometry.setAttribute("position", new THREE.Float32BufferAttribute(positions, 3));
	geometry.setIndex(new THREE.Uint32BufferAttribute(indices, 1));
	return geometry;
}

/** Waves that are longer stand up. */
const OPEN_M = 1.2;

export class StillWater {
	/** Picture of the world mirrored in it. */
	readonly mirrored = new DrawnPicture();
	/** The eye below the level that sees what is mirrored. */
	readonly eye = new THREE.PerspectiveCamera();
	/** It is in the present scene. */
	on = false;
	/** What its triangles were made for. */
	private lies = "";
	readonly mesh: THREE.Mesh<THREE.BufferGeometry, THREE.ShaderMaterial>;
	private waves = {
		uWorld: { value: new THREE.Vector2() },
		uMirror: { value: this.mirrored.light.texture },
		uWave: { value: Array.from({ length: S.WAVES }, () => new THREE.Vector4()) },
		uLength: { value: new Array<number>(S.WAVES).fill(1) },
		uWaves: { value: 0 },
		uPixel: { value: 0.001 },
		uOpen: { value: 0 },
	};

	constructor(light: Record<string, THREE.IUniform>) {
		this.eye.matrixWorldAutoUpdate = false;
		this.mesh = new THREE.Mesh(
			new THREE.BufferGeometry(),
			new THREE.ShaderMaterial({
				glslVersion: THREE.GLSL3,
				vertexShader: S.WATER_VERTEX,
				fragmentShader: S.WATER_FRAGMENT,
				side: THREE.DoubleSide,
				transparent: true,
				depthWrite: false,
				blending: THREE.CustomBlending,
				blendSrc: THREE.OneFactor,
				blendDst: THREE.OneMinusSrcAlphaFactor,
				uniforms: { ...light, ...this.waves },
			}),
		);
		this.mesh.frustumCulled = false;
		this.mesh.visible = false;
	}

	/** Level beside the lens, metres. */
	get level(): number {
		return this.mesh.position.y;
	}

	take(root: SceneRoot): void {
		const { water, origin, planet } = root;
		this.on = this.mesh.visible = water !== null && water.levelM !== null;
		if (!water || water.levelM === null) return;
		const lies = JSON.stringify([planet?.radiusM, water.levelM]);
		if (lies !== this.lies) {
			this.lies = lies;
			this.mesh.geometry.dispose();
			this.mesh.geometry = disc(root);
		}
		const { x, z } = planet ?? { x: origin[0], z: origin[2] };
		this.mesh.position.set(x - origin[0], water.levelM - origin[1], z - origin[2]);
		this.waves.uWorld.value.set(origin[0], origin[2]);
		this.waves.uOpen.value = water.waves.some((w) => w.lengthM > OPEN_M) ? 1 : 0;
		this.waves.uWaves.value = Math.min(S.WAVES, water.waves.length);
		water.waves.slice(0, S.WAVES).forEach((w, i) => {
			const turn = w.phase + w.kx * origin[0] + w.kz * origin[2];
			this.waves.uWave.value[i].set(w.kx, w.kz, turn - Math.floor(turn / (2 * Math.PI)) * 2 * Math.PI, w.slope);
			this.waves.uLength.value[i] = w.lengthM;
		});
	}

	/** Pixels of the picture that it is drawn in, and radians of one of them. */
	setSize(width: number, height: number, pixel: number): void {
		this.mirrored.setSize(Math.ceil(width / 2), Math.ceil(height / 2));
		this.waves.uPixel.value = pixel;
	}

	/** Puts the mirrored eye below the level, opposite to another. */
	aim(camera: THREE.PerspectiveCamera): void {
		const flip = new THREE.Matrix4().set(1, 0, 0, 0, 0, -1, 0, 2 * this.level, 0, 0, 1, 0, 0, 0, 0, 1);
		this.eye.near = camera.near;
		this.eye.far = camera.far;
		this.eye.projectionMatrix.copy(camera.projectionMatrix);
		this.eye.projectionMatrixInverse.copy(camera.projectionMatrixInverse);
		this.eye.matrixWorld.multiplyMatrices(flip, camera.matrixWorld);
		this.eye.matrixWorldInverse.copy(this.eye.matrixWorld).invert();
	}

	dispose(): void {
		this.mirrored.dispose();
		this.mesh.geometry.dispose();
		this.mesh.material.dispose();
	}
}
