/** Parts of scenes by key, kept while one of the last compiles has used them. */
import { type AtmosphereTables, atmosphereTables } from "../air/atmosphere.ts";
import type { ScenePart } from "./scene.ts";

/** Compiles for which a part that is not used is kept. */
const KEPT = 6;
const MOST_ATMOSPHERES = 4;

type PartOf<K extends ScenePart["kind"]> = Extract<ScenePart, { kind: K }>;

export class PartCache {
	private parts = new Map<string, ScenePart>();
	private onTheWay = new Map<string, unknown>();
	private lastUse = new Map<string, number>();
	private generation = 0;
	private atmospheres = new Map<number, AtmosphereTables>();
	/** Keys of the parts made anew since the list was last emptied. */
	made: string[] = [];

	begin(): void {
		this.generation++;
	}

	take<K extends ScenePart["kind"]>(kind: K, key: string, make: () => Omit<PartOf<K>, "kind" | "key">): PartOf<K> {
		let part = this.parts.get(key);
		if (!part) {
			part = { kind, key, ...make() } as unknown as ScenePart;
			this.parts.set(key, part);
			this.made.push(key);
		}
		this.lastUse.set(key, this.generation);
		return part as PartOf<K>;
	}

	/** Something on the way to parts, kept as they are. */
	along<T>(key: string, make: () => T): T {
		let thing = this.onTheWay.get(key);
		if (thing === undefined) {
			thing = make();
			this.onTheWay.set(key, thing);
		}
		this.lastUse.set(key, this.generation);
		return thing as T;
	}

	/** Whether something on the way to parts is kept. */
	knows(key: string): boolean {
		return this.onTheWay.has(key);
	}

	has(key: string): boolean {
		return this.parts.has(key);
	}

	atmosphere(haze: number): AtmosphereTables {
		let tables = this.atmospheres.get(haze);
		if (!tables) {
			if (this.atmospheres.size > MOST_ATMOSPHERES) this.atmospheres.clear();
			tables = atmosphereTables(haze);
			this.atmospheres.set(haze, tables);
		}
		return tables;
	}

	/** Drops parts that the last compiles have not used. */
	end(): void {
		for (const [key, use] of this.lastUse) {
			if (use > this.generation - KEPT) continue;
			this.parts.delete(key);
			this.onTheWay.delete(key);
			this.lastUse.delete(key);
		}
	}
}
