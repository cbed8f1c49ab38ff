/** Measures how long drawings take where they are done, without waiting for them. */
import type * as THREE from "three";

const LOOK_MS = 4;

export class DrawClock {
	/** How long a frame of all its pixels takes, milliseconds; 0 before it is measured. */
	frameMs = 0;
	/** Told how long a drawing took, and of which share of the pixels' sides it was. */
	onClock: (ms: number, scale: number) => void = () => {};
	/** Told that the first drawing, which made the programs too, is to be drawn once more. */
	onFirst: () => void = () => {};
	/** Told when the first drawing is done, and all programs are made. */
	onWarm: () => void = () => {};
	private timing = false;
	private warm = false;
	private ended = false;

	/** Begins to time what has just been asked of the graphics. */
	start(gl: THREE.WebGLRenderer, scale: number): void {
		if (this.timing) return;
		const c = gl.getContext() as WebGL2RenderingContext;
		const fence = c.fenceSync(c.SYNC_GPU_COMMANDS_COMPLETE, 0);
		// Graphics that cannot tell when they are done keep nobody waiting.
		if (!fence) {
			this.onWarm();
			return;
		}
		c.flush();
		this.timing = true;
		const at = performance.now();
		const look = () => {
			if (this.ended) return c.deleteSync(fence);
			if (c.clientWaitSync(fence, 0, 0) === c.TIMEOUT_EXPIRED) return void setTimeout(look, LOOK_MS);
			c.deleteSync(fence);
			this.timing = false;
			// The first drawing makes the programs, too: it is drawn once more to be measured.
			if (!this.warm) {
				this.warm = true;
				this.onFirst();
				return this.onWarm();
			}
			const ms = performance.now() - at;
			// Of a frame with few pixels more goes into its vertices: it grows with the sides rather than the pixels.
			this.frameMs = ms / scale;
			this.onClock(ms, scale);
		};
		look();
	}

	end(): void {
		this.ended = true;
	}
}
