/** Sums of tiles in a file, for those of a large picture do not fit in memory. It is gone when it is closed, or when the process ends. */
import { closeSync, mkdtempSync, openSync, readSync, rmSync, writeSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { Tile, TileSums } from "../../core/scene/picture.ts";

interface Place {
	at: number;
	sums: number;
	firsts: number;
	samples: number;
}

export class SumsFile {
	private readonly file: number;
	private readonly places = new Map<string, Place>();
	private end = 0;

	constructor() {
		const folder = mkdtempSync(join(tmpdir(), "inquadra-sums-"));
		this.file = openSync(join(folder, "sums"), "w+");
		// What is open stays readable; nothing is left when the process is killed.
		rmSync(folder, { recursive: true });
	}

	/** Keeps the sums of a tile by where it lies. They end a block of samples. */
	put({ x, y }: Tile, { sums, firsts, samples, partial }: TileSums): void {
		if (partial) throw new Error("a tile is kept within a block of its samples");
		const bytes = [
			new Uint8Array(sums.buffer as ArrayBuffer, sums.byteOffset, sums.byteLength),
			new Uint8Array(firsts),
		];
		this.places.set(`${x} ${y}`, { at: this.end, sums: bytes[0].length, firsts: bytes[1].length, samples });
		for (const part of bytes)
			for (let from = 0; from < part.length; ) {
				const wrote = writeSync(this.file, part, from, part.length - from, this.end);
				from += wrote;
				this.end += wrote;
			}
	}

	take({ x, y }: Tile): TileSums {
		const place = this.places.get(`${x} ${y}`);
		if (!place) throw new Error(`the tile at ${x}, ${y} is not kept`);
		const bytes = new Uint8Array(place.sums + place.firsts);
		for (let from = 0; from < bytes.length; ) {
			const read = readSync(this.file, bytes, from, bytes.length - from, place.at + from);
			if (read === 0) throw new Error("the file of sums is shorter than it was");
			from += read;
		}
		return {
			sums: new Float64Array(bytes.buffer, 0, place.sums / 8),
			firsts: bytes.slice(place.sums).buffer,
			samples: place.samples,
		};
	}

	close(): void {
		closeSync(this.file);
	}
}
