/** Builds what is stale: the kernels, the bundles of the server's programs, the web application. */
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

/** Kernels in AssemblyScript: where they stand, what they are called, and what they are built with besides. */
const KERNELS = [
	{
		source: "src/tracer/kernel",
		name: "kernel",
		flags: ["--enable", "threads", "--importMemory", "--sharedMemory", "--initialMemory", "64", ...most(3072)],
	},
	{ source: "src/makers/wear/kernel", name: "wear", flags: most(1024) },
	{ source: "src/makers/sheets/kernel", name: "sheets", flags: most(1024) },
];

/** Numbers that a kernel has in common with core. */
const READ_BY_ALL = "src/core/surface/reading.ts";

/** The most memory that a kernel may take, MiB. */
function most(mib) {
	return ["--maximumMemory", String((mib * 1024 * 1024) / 65536)];
}

/** Weights of the learned filter, where the press and the page read them. */
const WEIGHTS = "train/weights/clean.bin";

function copyWeights() {
	for (const to of ["build/clean.bin", "public/clean.bin"]) copyFileSync(join(ROOT, WEIGHTS), join(ROOT, to));
}

export async function buildKernels() {
	mkdirSync(join(ROOT, "build"), { recursive: true });
	mkdirSync(join(ROOT, "public"), { recursive: true });
	copyWeights();
	for (const { source, name, flags } of KERNELS) {
		const [built, served] = [`build/${name}.wasm`, `public/${name}.wasm`];
		await whenStale(name, [source, READ_BY_ALL, "scripts/lib/build.mjs"], [built, served], async () => {
			const asc = ["node_modules/assemblyscript/bin/asc.js", join(source, "index.ts"), "-o", built];
			const how = ["-O3", "--noAssert", "--runtime", "stub", "--enable", "simd", "--disableWarning"];
			await run(process.execPath, [...asc, ...how, ...flags]);
			copyFileSync(join(ROOT, built), join(ROOT, served));
		});
	}
}

/** The library of solids, as the page loads it. */
async function copySolids() {
	const files = ["manifold.js", "manifold.wasm"];
	await whenStale(
		"solids",
		files.map((f) => `node_modules/manifold-3d/${f}`),
		files.map((f) => `public/${f}`),
		() => {
			for (const f of files) copyFileSync(join(ROOT, "node_modules/manifold-3d", f), join(ROOT, "public", f));
		},
	);
}

export async function buildPrograms() {
	await buildKernels();
	await copySolids();
	const entries = {
		press: "src/press/main.ts",
		tileWorker: "src/tracer/node/tileWorker.ts",
		cli: "src/cli/main.ts",
		skyWorker: "src/server/skyWorker.ts",
		landPictureWorker: "src/server/landPictureWorker.ts",
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

/** What is served, of kernels that have been built. */
export async function buildWeb() {
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

export async function buildAll() {
	await buildPrograms();
	await buildWeb();
}
