/** Small frames of the move, traced while nobody needs the threads, and again where an edit has changed them. */
import { areaWithRoom } from "../../core/lens/character.ts";
import { sharesOf, within } from "../../core/maths/area.ts";
import { emptyPicture, type Picture, placeTile, tilesOfPart } from "../../core/scene/picture.ts";
import type { Scene } from "../../core/scene/scene.ts";
import type { Probe } from "../../core/study/moveTable.ts";
import { SMALL, type SmallFrame, smallSize } from "../../core/study/smallFrame.ts";
import { seedOfFrame } from "../../core/time/frames.ts";
import type { Tracers } from "./refiner.ts";

const TILE = 64;

export interface SmallWork {
	/** The scene of a frame and what tells it from others; null when something newer is wanted. */
	compiled: (frame: number) => Promise<{ scene: Scene; sign: string } | null>;
	/** Looks at what lies in a frame; it has been loaded. */
	probe: (scene: Scene, frame: number) => Probe;
	load: (scene: Scene, size: { width: number; height: number; seed: number }) => void;
	tracers: Pick<Tracers, "threads" | "trace" | "clean">;
	tell: (small: SmallFrame) => void;
}

export class SmallFrames {
	private work: SmallWork;
	private have = new Map<number, string>();
	frames: readonly number[] = [];

	constructor(work: SmallWork) {
		this.work = work;
	}

	/** Takes those that are wanted from now on; of others nothing is known any more. */
	want(frames: readonly number[], known: readonly [number, string][] = []): void {
		for (const [frame, sign] of known) this.have.set(frame, sign);
		const wanted = new Set(frames);
		for (const frame of this.have.keys()) if (!wanted.has(frame)) this.have.delete(frame);
		this.frames = frames;
	}

	/** Traces all that are not as they should be, one after the other, until something newer is wanted. */
	async trace(wanted: () => boolean): Promise<void> {
		for (const frame of this.frames) {
			if (!wanted()) return;
			const made = await this.work.compiled(frame);
			if (!made || !wanted()) return;
			if (this.have.get(frame) === made.sign) continue;
			const small = await this.picture(frame, made.scene, wanted);
			if (!small) return;
			this.have.set(frame, made.sign);
			this.work.tell({ ...small, frame, sign: made.sign, ev100: made.scene.root.camera.ev100 });
		}
	}

	private async picture(
		frame: number,
		scene: Scene,
		wanted: () => boolean,
	): Promise<Pick<SmallFrame, "width" | "height" | "part" | "rgb" | "probe"> | null> {
		const { tracers, load } = this.work;
		const size = smallSize(scene);
		load(scene, { ...size, seed: seedOfFrame(SMALL.seed, frame, false) });
		const probe = this.work.probe(scene, frame);
		const area = areaWithRoom(size, scene.root.room);
		const { width, height } = area;
		const picture: Picture = emptyPicture(width, height);
		const tiles = tilesOfPart(area, TILE);
		let next = 0;
		await Promise.all(
			Array.from({ length: tracers.threads }, async (_, thread) => {
				while (next < tiles.length && wanted()) {
					const tile = tiles[next++];
					const sums = await tracers.trace(thread, { tile, begin: 0, end: SMALL.samples });
					if (!sums) return;
					placeTile(picture, within(area, tile), sums);
				}
			}),
		);
		if (!wanted()) return null;
		const clean = await tracers.clean(picture, wanted);
		return clean
			? { width, height, part: sharesOf(area, size), probe, rgb: clean as unknown as SmallFrame["rgb"] }
			: null;
	}
}
