/** Hashes for seeded choices and for the keys of scene parts. None of them is cryptographic. */

/** Mixes a 32-bit whole number (Wang and Jenkins finishers as in murmur3). */
export function hash32(x: number): number {
	let h = x | 0;
	h = Math.imul(h ^ (h >>> 16), 0x7feb352d);
	h = Math.imul(h ^ (h >>> 15), 0x846ca68b);
	return (h ^ (h >>> 16)) >>> 0;
}

/** A number in [0, 1) from up to four whole numbers. */
export function hash01(a: number, b = 0, c = 0, d = 0): number {
	return hash32(a ^ hash32(b ^ hash32(c ^ hash32(d + 0x9e3779b9)))) / 4294967296;
}

/** A seeded stream of numbers in [0, 1). */
export function randomStream(seed: number): () => number {
	let state = hash32(seed ^ 0x68bc21eb);
	return () => {
		state = (state + 0x9e3779b9) | 0;
		return hash32(state) / 4294967296;
	};
}

/** JSON with the keys of objects sorted, so that equal values give equal text. */
export function stableJson(value: unknown): string {
	if (Array.isArray(value)) return `[${value.map(stableJson).join(",")}]`;
	if (value && typeof value === "object") {
		const entries = Object.entries(value as Record<string, unknown>).filter(([, v]) => v !== undefined);
		entries.sort(([a], [b]) => (a < b ? -1 : a > b ? 1 : 0));
		return `{${entries.map(([k, v]) => `${JSON.stringify(k)}:${stableJson(v)}`).join(",")}}`;
	}
	return JSON.stringify(value) ?? "null";
}

/**
 * The key of a scene part: its kind and a 128-bit digest of everything that it is made from.
 * @example keyOf("cover", species, seed, ground) // "cover:" and the digest; the same for equal values, whatever their identity
 */
export function keyOf(kind: string, ...madeFrom: unknown[]): string {
	const text = stableJson(madeFrom);
	let a = 0x243f6a88;
	let b = 0x85a308d3;
	let c = 0x13198a2e;
	let d = 0x03707344;
	for (let i = 0; i < text.length; i++) {
		const code = text.charCodeAt(i);
		a = b ^ Math.imul(a ^ code, 0x9e3779b1);
		b = c ^ Math.imul(b ^ code, 0x85ebca77);
		c = d ^ Math.imul(c ^ code, 0xc2b2ae3d);
		d = a ^ Math.imul(d ^ code, 0x27d4eb2f);
		a = (a << 13) | (a >>> 19);
	}
	const hex = (x: number) => hash32(x).toString(16).padStart(8, "0");
	return `${kind}:${hex(a ^ text.length)}${hex(b)}${hex(c)}${hex(d)}`;
}
