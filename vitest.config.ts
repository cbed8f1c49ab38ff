import { fileURLToPath } from "node:url";
import { defineConfig } from "vitest/config";

/** Ends what hangs, however busy the machine is. */
const LONGEST_MS = 600_000;
const common = { testTimeout: LONGEST_MS, hookTimeout: LONGEST_MS, pool: "forks" as const, maxWorkers: 2 };
const alias = { "@": fileURLToPath(new URL("./src", import.meta.url)) };

export default defineConfig({
	test: {
		projects: [
			{
				resolve: { alias },
				test: {
					...common,
					name: "unit",
					include: ["src/**/*.test.ts", "demo/**/*.test.ts", "train/**/*.test.ts", "scripts/**/*.test.ts"],
					exclude: ["src/ui/**"],
					// What only computes leaves nothing behind: a process reads the house once, and not anew for each file.
					isolate: false,
				},
			},
			{
				resolve: { alias },
				// The page's stores are one of each for all of it.
				test: { ...common, name: "ui", include: ["src/ui/**/*.test.ts"] },
			},
			{
				resolve: { alias },
				test: { ...common, name: "database", include: ["tests/**/*.test.ts"], fileParallelism: false },
			},
		],
	},
});
