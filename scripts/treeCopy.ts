/** For tests that plant something in the tree: a copy of it beside the packages, so that nothing else sees what is planted. */
import { cpSync, mkdirSync, mkdtempSync, rmSync, symlinkSync, writeFileSync } from "node:fs";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";

const ROOT = fileURLToPath(new URL("..", import.meta.url));
const COPIED = ["src", "demo", "tests", "package.json", "tsconfig.json", "vitest.config.ts", ".dependency-cruiser.cjs"];

export class TreeCopy {
	readonly folder: string;

	constructor() {
		mkdirSync(join(ROOT, ".data"), { recursive: true });
		this.folder = mkdtempSync(join(ROOT, ".data/copy-"));
		for (const name of COPIED) cpSync(join(ROOT, name), join(this.folder, name), { recursive: true });
		// What has been built of kernels serves the copy, too.
		for (const name of ["node_modules", "build"]) symlinkSync(join(ROOT, name), join(this.folder, name), "dir");
	}

	write(path: string, text: string): void {
		const at = join(this.folder, path);
		mkdirSync(dirname(at), { recursive: true });
		writeFileSync(at, text);
	}

	remove(): void {
		rmSync(this.folder, { recursive: true, force: true });
	}
}
