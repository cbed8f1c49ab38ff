/** A picture of the working view: what is seen in each of its pixels, and the light of that. Both have the same depths. */
import * as THREE from "three";

const EXACT = {
	minFilter: THREE.NearestFilter,
	magFilter: THREE.NearestFilter,
	generateMipmaps: false,
} satisfies Partial<THREE.RenderTargetOptions>;

export class DrawnPicture {
	/** What is seen, as `solidShaders.ts` writes it down; and how far away. */
	readonly seen: THREE.WebGLRenderTarget;
	/** Its light, in half floats. */
	readonly light: THREE.WebGLRenderTarget;
	private depths = new THREE.DepthTexture(2, 2, THREE.UnsignedIntType);

	constructor() {
		this.seen = new THREE.WebGLRenderTarget(2, 2, { ...EXACT, count: 2, depthTexture: this.depths });
		const [what, away] = this.seen.textures;
		// Whole numbers both: any graphics can draw into them.
		Object.assign(what, { format: THREE.RGBAIntegerFormat, type: THREE.UnsignedIntType, internalFormat: "RGBA32UI" });
		Object.assign(away, { format: THREE.RedIntegerFormat, type: THREE.UnsignedIntType, internalFormat: "R32UI" });
		this.light = new THREE.WebGLRenderTarget(2, 2, { type: THREE.HalfFloatType, depthTexture: this.depths });
	}

	get width(): number {
		return this.light.width;
	}

	setSize(width: number, height: number): void {
		if (this.light.width === width && this.light.height === height) return;
		this.seen.setSize(width, height);
		this.light.setSize(width, height);
	}

	dispose(): void {
		this.depths.dispose();
		this.seen.dispose();
		this.light.dispose();
	}
}
