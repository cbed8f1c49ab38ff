/** Tables as textures. */
import * as THREE from "three";
import { type SkyTable, unpackTexel } from "../../core/air/skyPicture.ts";

/** A sky picture as a texture, reduced by whole numbers. */
export function aroundTexture(t: SkyTable): THREE.DataTexture {
	const step = Math.ceil(t.width / 2048);
	const width = Math.floor(t.width / step);
	const height = Math.max(1, Math.floor(t.height / step));
	const rgb = new Float32Array(width * height * 3);
	for (let y = 0; y < height * step; y++) {
		for (let x = 0; x < width * step; x++) {
			const texel = unpackTexel(t.texels[y * t.width + x]);
			const to = (Math.floor(y / step) * width + Math.floor(x / step)) * 3;
			for (let c = 0; c < 3; c++) rgb[to + c] += texel[c] / (step * step);
		}
	}
	const texture = halfTexture(rgb, width, height, 3, 1, true);
	texture.wrapT = THREE.ClampToEdgeWrapping;
	return texture;
}

export function halfTexture(
	data: Float32Array,
	width: number,
	height: number,
	channels: number,
	scale: number,
	repeat: boolean,
): THREE.DataTexture {
	const out = new Uint16Array(width * height * 4);
	for (let i = 0; i < width * height; i++)
		for (let c = 0; c < channels; c++)
			out[i * 4 + c] = THREE.DataUtils.toHalfFloat(Math.min(60_000, data[i * channels + c] * scale));
	const texture = new THREE.DataTexture(out, width, height, THREE.RGBAFormat, THREE.HalfFloatType);
	texture.minFilter = texture.magFilter = THREE.LinearFilter;
	texture.wrapS = texture.wrapT = repeat ? THREE.RepeatWrapping : THREE.ClampToEdgeWrapping;
	texture.needsUpdate = true;
	return texture;
}
