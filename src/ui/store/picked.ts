/** The named values of an object. */
export function picked<T, K extends keyof T>(of: T, keys: readonly K[]): Pick<T, K> {
	const out = {} as Pick<T, K>;
	for (const key of keys) out[key] = of[key];
	return out;
}
