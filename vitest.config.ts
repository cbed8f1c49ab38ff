import { fileURLToPath } from "node:url";
import { defineConfig } from "vitest/config";

const common = { testTimeout: 180_000, hookTimeout: 180_000, pool: "forks" as const, maxWorkers: 2 };
const alias = { "@": fileURLToPath(new URL("./src", import.meta.url)) };

export default defineConfig({
	test: {
		projects: [
			{
				resolve: { alias },
				test: { ...common, name: "unit", include: ["src/**/*.test.ts", "demo/**/*.test.ts", "scripts/**/*.test.ts"] },
			},
			{
				resolve: { alias },
				test: { ...common, name: "database", include: ["tests/**/*.test.ts"], fileParallelism: false },
			},
		],
	},
});
