/** Builds what is stale: the tracing kernel, the bundles of the server's programs, the web application. */
import { createHash } from "node:crypto";
import { copyFileSync, existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { ROOT, runProgram, say } from "./install.mjs";

function digest(...paths) {
	const hash = createHash("sha256");
	const walk = (path) => {
		if (!existsSync(path)) return;
		if (statSync(path).isDirectory()) for (const name of readdirSync(path).sort()) walk(join(path, name));
		else if (!/\.test\.tsx?$/.test(path)) hash.update(path.slice(ROOT.length)).update(readFileSync(path));
	};
	for (const p of paths) walk(join(ROOT, p));
	return hash.digest("hex");
}

async function whenStale(name, inputs, outputs, make) {
	const stamp = join(ROOT, `build/${name}.stamp`);
	const now = digest(...inputs);
	if (existsSync(stamp) && readFileSync(stamp, "utf8") === now && outputs.every((o) => existsSync(join(ROOT, o))))
		return;
	const started = Date.now();
	await make();
	writeFileSync(stamp, now);
	say(`Built ${name} in ${((Date.now() - started) / 1000).toFixed(1)} s.`);
}

const run = async (command, args, env = {}) => {
	if (!(await runProgram(command, args, { env: { ...process.env, ...env } }))) throw new Error(`${args[0]} failed`);
};

export async function buildKernel() {
	mkdirSync(join(ROOT, "build"), { recursive: true });
	await whenStale(
		"kernel",
		["src/tracer/kernel", "scripts/lib/build.mjs"],
		["build/kernel.wasm", "public/kernel.wasm"],
		async () => {
			await run(process.execPath, [
				"node_modules/assemblyscript/bin/asc.js",
				"src/tracer/kernel/index.ts",
				"-o",
				"build/kernel.wasm",
				"-O3",
				"--noAssert",
				"--runtime",
				"stub",
				"--enable",
				"simd",
				"--enable",
				"threads",
				"--importMemory",
				"--sharedMemory",
				"--initialMemory",
				"64",
				"--maximumMemory",
				String((3072 * 1024 * 1024) / 65536),
				"--disableWarning",
			]);
			mkdirSync(join(ROOT, "public"), { recursive: true });
			copyFileSync(join(ROOT, "build/kernel.wasm"), join(ROOT, "public/kernel.wasm"));
		},
	);
}

/** The library of solids, as the page loads it. */
async function copySolids() {
	const files = ["manifold.js", "manifold.wasm"];
	await whenStale(
		"solids",
		files.map((f) => `node_modules/manifold-3d/${f}`),
		files.map((f) => `public/${f}`),
		() => {
			mkdirSync(join(ROOT, "public"), { recursive: true });
			for (const f of files) copyFileSync(join(ROOT, "node_modules/manifold-3d", f), join(ROOT, "public", f));
		},
	);
}

export async function buildPrograms() {
	await buildKernel();
	await copySolids();
	const entries = {
		press: "src/press/main.ts",
		tileWorker: "src/tracer/node/tileWorker.ts",
		cli: "src/cli/main.ts",
		skyWorker: "src/server/skyWorker.ts",
		pixelsWorker: "src/server/pixelsWorker.ts",
	};
	await bundle(entries);
}

/** Bundles programs for Node into the build folder; packages stay outside. */
export async function bundle(entryPoints) {
	const { build } = await import("esbuild");
	await build({
		absWorkingDir: ROOT,
		entryPoints,
		outdir: "build",
		outExtension: { ".js": ".mjs" },
		bundle: true,
		platform: "node",
		format: "esm",
		target: "node20",
		packages: "external",
		logLevel: "warning",
		sourcemap: "inline",
	});
}

export async function buildAll() {
	await buildPrograms();
	await whenStale(
		"web",
		["src", "public", "next.config.ts", "package-lock.json", "tsconfig.json", "postcss.config.mjs"],
		[".next/BUILD_ID"],
		async () => {
			await run(process.execPath, ["node_modules/next/dist/bin/next", "build"], {
				NEXT_TELEMETRY_DISABLED: "1",
				NODE_ENV: "production",
			});
		},
	);
}
