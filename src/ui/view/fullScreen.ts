/** A pass over all pixels, or over those before which nothing stands. */
import * as THREE from "three";
import { SKY_VERTEX } from "./shaders.ts";

export class FullScreen {
	private scene = new THREE.Scene();
	private camera = new THREE.OrthographicCamera(-1, 1, 1, -1, 0, 1);
	private geometry = new THREE.BufferGeometry();
	private material: THREE.ShaderMaterial;

	constructor(
		fragmentShader: string,
		uniforms: Record<string, THREE.IUniform>,
		how: Pick<THREE.ShaderMaterialParameters, "depthTest" | "defines"> = {},
	) {
		const corners = new Float32Array([-1, -1, 0, 3, -1, 0, -1, 3, 0]);
		this.geometry.setAttribute("position", new THREE.BufferAttribute(corners, 3));
		this.material = new THREE.ShaderMaterial({
			glslVersion: THREE.GLSL3,
			vertexShader: SKY_VERTEX,
			fragmentShader,
			uniforms,
			depthTest: false,
			depthWrite: false,
			...how,
		});
		const mesh = new THREE.Mesh(this.geometry, this.material);
		mesh.frustumCulled = false;
		this.scene.add(mesh);
	}

	draw(gl: THREE.WebGLRenderer): void {
		gl.render(this.scene, this.camera);
	}

	dispose(): void {
		this.geometry.dispose();
		this.material.dispose();
	}
}
