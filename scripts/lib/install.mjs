/** Brings what a fresh machine lacks. Plain Node, no packages; everything is said on standard error. */

import { spawn } from "node:child_process";
import { createHash } from "node:crypto";
import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from "node:fs";
import { setPriority } from "node:os";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";

export const ROOT = join(dirname(fileURLToPath(import.meta.url)), "../..");

export const say = (text) => process.stderr.write(`${text}\n`);

const running = new Set();

/** Runs a program to its end without standing still meanwhile; what it says goes to standard error. Returns whether it went well. */
export function runProgram(command, args, { nice = 0, ...options } = {}) {
	return new Promise((done) => {
		const child = spawn(command, args, { cwd: ROOT, stdio: ["ignore", 2, 2], ...options });
		if (nice && child.pid) setPriority(child.pid, nice);
		running.add(child);
		const ended = (ok) => {
			running.delete(child);
			done(ok);
		};
		child.on("error", () => ended(false));
		child.on("exit", (code) => ended(code === 0));
	});
}

/** Ends the programs that are run now. */
export function endPrograms(signal = "SIGTERM") {
	for (const child of running) child.kill(signal);
}

/** Folder of PostgreSQL's programs, or null. */
export function postgresBin() {
	const base = "/usr/lib/postgresql";
	if (!existsSync(base)) return null;
	const versions = readdirSync(base)
		.filter((v) => existsSync(join(base, v, "bin/initdb")))
		.sort((a, b) => Number(b) - Number(a));
	return versions.length ? join(base, versions[0], "bin") : null;
}

const have = {
	postgresql: () => postgresBin() !== null,
	chromium: () => existsSync("/usr/bin/chromium"),
	ffmpeg: () => existsSync("/usr/bin/ffmpeg"),
	openexr: () => existsSync("/usr/bin/exrheader"),
	"openimageio-tools": () => existsSync("/usr/bin/oiiotool"),
};

/** Installs Debian packages that are missing; as a user through sudo. */
export async function needDebian(names) {
	const missing = names.filter((n) => !have[n]());
	if (missing.length === 0) return;
	say(`Installing ${missing.join(", ")} with apt-get …`);
	const root = process.getuid?.() === 0;
	const apt = (...args) =>
		runProgram(root ? "apt-get" : "sudo", [...(root ? [] : ["-n", "apt-get"]), ...args], {
			env: { ...process.env, DEBIAN_FRONTEND: "noninteractive" },
		});
	const install = () => apt("install", "-y", "--no-install-recommends", ...missing);
	if (!(await install())) {
		await apt("update");
		if (!(await install()))
			throw new Error(`apt-get could not install ${missing.join(", ")}. Install them by hand and start again.`);
	}
}

/** Runs npm ci when node_modules is missing or older than the lock file. */
export async function needPackages() {
	const lock = createHash("sha256")
		.update(readFileSync(join(ROOT, "package-lock.json")))
		.digest("hex");
	const stamp = join(ROOT, "node_modules/.inquadra-lock");
	if (existsSync(stamp) && readFileSync(stamp, "utf8") === lock) return;
	say("Installing packages …");
	const { npm_config_node_options: _ignored, ...env } = process.env;
	const installed = await runProgram("npm", ["ci", "--no-audit", "--no-fund", "--include=dev"], {
		env: { ...env, NODE_ENV: "development" },
	});
	if (!installed) throw new Error("npm could not install the packages; what it said stands above.");
	mkdirSync(dirname(stamp), { recursive: true });
	writeFileSync(stamp, lock);
}
