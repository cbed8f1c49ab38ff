import { defineConfig } from "vitest/config";

export default defineConfig({
	test: {
		include: ["src/**/*.test.ts", "demo/**/*.test.ts", "scripts/**/*.test.ts"],
		testTimeout: 120_000,
		hookTimeout: 120_000,
		pool: "forks",
		maxWorkers: 2,
	},
});
