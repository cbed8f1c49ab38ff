/** Bundles a program of ours, runs it with this one's arguments, and ends as it ends. */
import { spawnSync } from "node:child_process";
import { join } from "node:path";
import { bundle } from "./build.mjs";
import { ROOT } from "./install.mjs";

export async function runBundled(name, entry) {
	await bundle({ [name]: entry });
	const r = spawnSync(process.execPath, [join(ROOT, `build/${name}.mjs`), ...process.argv.slice(2)], {
		cwd: ROOT,
		stdio: ["ignore", "inherit", "inherit"],
	});
	process.exit(r.status ?? 1);
}
