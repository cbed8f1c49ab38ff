/** `npm run -s inquadra -- …`: brings what is missing, finds or starts the database, runs the command line. */
import { spawn } from "node:child_process";
import { join } from "node:path";
import { buildPrograms } from "./lib/build.mjs";
import { needDebian, needPackages, ROOT } from "./lib/install.mjs";
import { runningPostgres, startPostgres } from "./lib/postgres.mjs";

const args = process.argv.slice(2);
const folder = process.env.INQUADRA_DATA || join(ROOT, ".data/demo");

async function main() {
	await needPackages();
	await buildPrograms();
	let stop = () => {};
	const env = { ...process.env };
	if (!["match", "schema"].includes(args[0]) && !env.DATABASE_URL) {
		await needDebian(args.includes("--video") ? ["postgresql", "ffmpeg"] : ["postgresql"]);
		const running = await runningPostgres(folder);
		if (running) env.DATABASE_URL = running;
		else {
			const started = await startPostgres(folder);
			env.DATABASE_URL = started.url;
			stop = started.stop;
		}
	}
	const child = spawn(process.execPath, [join(ROOT, "build/cli.mjs"), ...args], {
		stdio: ["ignore", "inherit", "inherit"],
		env,
	});
	for (const s of ["SIGINT", "SIGTERM"]) process.on(s, () => child.kill(s));
	const code = await new Promise((done) => child.on("exit", (c) => done(c ?? 1)));
	stop();
	process.exit(code);
}

main().catch((error) => {
	process.stdout.write(`${JSON.stringify({ error: { code: "failed", message: error.message } })}\n`);
	process.exit(1);
});
