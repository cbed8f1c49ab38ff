import { defineConfig } from "@playwright/test";

export default defineConfig({
	testDir: "e2e",
	timeout: 600_000,
	workers: 1,
	expect: { timeout: 120_000 },
	globalSetup: "./e2e/server.ts",
	outputDir: ".data/test-results",
	use: {
		viewport: { width: 1280, height: 800 },
		acceptDownloads: true,
		actionTimeout: 45_000,
		trace: "off",
		screenshot: "only-on-failure",
		launchOptions: {
			executablePath: "/usr/bin/chromium",
			args: [
				"--no-sandbox",
				"--use-angle=swiftshader",
				"--enable-unsafe-swiftshader",
				"--disable-quic",
				"--disable-background-networking",
				"--disable-component-update",
				"--disable-sync",
				"--no-first-run",
			],
		},
	},
});
