/** The sun's shadows in the working view: one map before the lens. */
import * as THREE from "three";
import { frameOfView } from "../../core/lens/camera.ts";
import { sub } from "../../core/maths/vec.ts";
import type { SceneRoot } from "../../core/scene/scene.ts";
import { CUT_LAYER, PANE_LAYER } from "./bodies.ts";

const SIZE = 1024;
const REACH_M = 75;

export class SunShadow {
	private target = new THREE.WebGLRenderTarget(SIZE, SIZE, {
		depthTexture: new THREE.DepthTexture(SIZE, SIZE, THREE.UnsignedIntType),
	});
	private camera = new THREE.OrthographicCamera(-1, 1, 1, -1, 0.1, 1);
	private material = new THREE.MeshBasicMaterial({ side: THREE.DoubleSide, colorWrite: false });
	/** Another scene has been taken since it was drawn. */
	stale = true;
	/** Share of the plants that it was drawn with. */
	share = 0;

	get map(): THREE.Texture {
		return this.target.depthTexture as THREE.Texture;
	}

	/**
	 * Draws the map of a world for a sun's direction; `matrix` comes to lead into it. Bodies that are cut out are drawn by what tells where
	 * they are.
	 */
	draw(
		gl: THREE.WebGLRenderer,
		world: THREE.Scene,
		shot: SceneRoot["camera"],
		origin: SceneRoot["origin"],
		sun: THREE.Vector3,
		matrix: THREE.Matrix4,
		cut: THREE.Material | null,
	): void {
		const view = frameOfView(shot);
		const middle = new THREE.Vector3(view.forward[0], 0, view.forward[2]).normalize().multiplyScalar(REACH_M * 0.62);
		middle.add(new THREE.Vector3(...sub(view.position, origin)));
		const c = this.camera;
		Object.assign(c, { left: -REACH_M, right: REACH_M, top: REACH_M * 0.5, bottom: -REACH_M * 0.5, near: 1, far: 700 });
		c.updateProjectionMatrix();
		c.position.copy(middle).addScaledVector(sun, 350);
		c.lookAt(middle);
		c.updateMatrixWorld();
		matrix.multiplyMatrices(c.projectionMatrix, c.matrixWorldInverse);
		world.overrideMaterial = this.material;
		gl.setRenderTarget(this.target);
		gl.autoClear = false;
		gl.clear();
		c.layers.set(0);
		c.layers.enable(PANE_LAYER);
		gl.render(world, c);
		if (cut) {
			world.overrideMaterial = cut;
			c.layers.set(CUT_LAYER);
			gl.render(world, c);
		}
		world.overrideMaterial = null;
	}

	dispose(): void {
		this.target.depthTexture?.dispose();
		this.target.dispose();
		this.material.dispose();
	}
}
