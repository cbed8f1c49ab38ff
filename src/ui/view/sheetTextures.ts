/** Sheets of a scene as textures: their words as they are, all in one, and the records of how they lie. */
import * as THREE from "three";
import { layerRecord, layersOf, volumesOf } from "../../core/scene/layerTable.ts";
import type { ScenePart, SceneRoot } from "../../core/scene/scene.ts";
import { firstTexel, type Sheet, TEXEL_WORDS, texelsOf } from "../../core/surface/sheet.ts";
import { LAYER_TEXELS, SHEET_ROW, VOLUME_ROW } from "./sheetShaders.ts";

type SheetPart = Extract<ScenePart, { kind: "sheet" }>;
type VolumePart = Extract<ScenePart, { kind: "volume" }>;

/** Texels of a side at most: the working view leaves out what is finer. */
const FINEST = 512;

/** A sheet without the levels that are finer than the working view has them. */
function coarser(sheet: Sheet): Sheet {
	let skipped = 0;
	while (sheet.size >> skipped > FINEST) skipped++;
	if (skipped === 0) return sheet;
	const words = sheet.words.subarray(TEXEL_WORDS * firstTexel(sheet.size, skipped));
	return { ...sheet, size: sheet.size >> skipped, words };
}

export class SheetTextures {
	readonly uniforms = {
		uSheets: { value: null as THREE.DataArrayTexture | null },
		uLayers: { value: null as THREE.DataTexture | null },
		uVolumes: { value: null as THREE.DataTexture | null },
	};
	/** Keys of the sheets in the texture, in their order. */
	private held: string[] = [];
	private coarse = new Map<string, SheetPart>();
	/** Texels at which the words of volumes in the texture begin. */
	private volumes = new Map<string, number>();

	take({ materials, origin }: SceneRoot, parts: ReadonlyMap<string, ScenePart>): void {
		const layers = layersOf(materials);
		const keys = [...new Set(layers.map((l) => l.sheet))];
		// What is not laid any more stays until something new comes: an undo finds it there.
		if (!this.uniforms.uSheets.value || keys.some((key) => !this.held.includes(key))) this.hold(keys, parts);
		const volumes = volumesOf(layers);
		if ([...volumes].some((key) => !this.volumes.has(key)) || !this.uniforms.uVolumes.value)
			this.holdVolumes(volumes, parts);
		const known = new Map([...parts, ...this.coarse]);
		const records = new Float32Array(4 * LAYER_TEXELS * Math.max(1, layers.length));
		for (const [i, layer] of layers.entries())
			records.set(
				layerRecord(layer, known, origin, this.held.indexOf(layer.sheet), (key) => this.volumes.get(key) ?? 0),
				4 * LAYER_TEXELS * i,
			);
		this.uniforms.uLayers.value?.dispose();
		const table = new THREE.DataTexture(
			records,
			LAYER_TEXELS,
			Math.max(1, layers.length),
			THREE.RGBAFormat,
			THREE.FloatType,
		);
		table.needsUpdate = true;
		this.uniforms.uLayers.value = table;
	}

	private hold(keys: string[], parts: ReadonlyMap<string, ScenePart>): void {
		this.held = keys;
		this.coarse = new Map(
			keys.map((key) => {
				const part = parts.get(key) as SheetPart;
				return [key, { ...part, sheet: coarser(part.sheet) }];
			}),
		);
		const sheets = [...this.coarse.values()].map((part) => part.sheet);
		const rows = Math.max(1, ...sheets.map(({ size }) => Math.ceil(texelsOf(size) / SHEET_ROW)));
		// The graphics have no texels of three words: the fourth is left empty.
		const words = new Uint32Array(4 * SHEET_ROW * rows * Math.max(1, sheets.length));
		for (const [i, { words: own, size }] of sheets.entries())
			for (let n = 0, at = 4 * SHEET_ROW * rows * i; n < texelsOf(size); n++, at += 4) {
				words[at] = own[TEXEL_WORDS * n];
				words[at + 1] = own[TEXEL_WORDS * n + 1];
				words[at + 2] = own[TEXEL_WORDS * n + 2];
			}
		this.uniforms.uSheets.value?.dispose();
		const texture = new THREE.DataArrayTexture(words, SHEET_ROW, rows, Math.max(1, sheets.length));
		texture.format = THREE.RGBAIntegerFormat;
		texture.internalFormat = "RGBA32UI";
		texture.type = THREE.UnsignedIntType;
		texture.magFilter = texture.minFilter = THREE.NearestFilter;
		texture.unpackAlignment = 4;
		texture.needsUpdate = true;
		this.uniforms.uSheets.value = texture;
	}

	/** All volumes one after the other, four words a texel. */
	private holdVolumes(keys: ReadonlySet<string>, parts: ReadonlyMap<string, ScenePart>): void {
		const parted = [...keys].map((key) => parts.get(key) as VolumePart);
		const all = parted.reduce((n, { volume }) => n + volume.words.length, 0);
		const rows = Math.max(1, Math.ceil(all / (4 * VOLUME_ROW)));
		const words = new Uint32Array(4 * VOLUME_ROW * rows);
		this.volumes.clear();
		let at = 0;
		for (const { key, volume } of parted) {
			words.set(volume.words, at);
			this.volumes.set(key, at / 4);
			at += volume.words.length;
		}
		this.uniforms.uVolumes.value?.dispose();
		const texture = new THREE.DataTexture(words, VOLUME_ROW, rows, THREE.RGBAIntegerFormat, THREE.UnsignedIntType);
		texture.internalFormat = "RGBA32UI";
		texture.needsUpdate = true;
		this.uniforms.uVolumes.value = texture;
	}

	dispose(): void {
		for (const uniform of Object.values(this.uniforms)) {
			uniform.value?.dispose();
			uniform.value = null;
		}
		this.volumes.clear();
		this.held = [];
	}
}
