/** Tries the running application under faults: `npm run faults [-- --kills 100 --files 3000 --seed 1]`. */
import { rmSync } from "node:fs";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { parseArgs } from "node:util";
import { randomStream } from "../src/core/maths/hash.ts";
import { Application } from "./application.ts";
import { files } from "./files.ts";
import { kills } from "./kills.ts";
import { Report } from "./report.ts";

const number = { type: "string" } as const;
const { values } = parseArgs({ options: { kills: number, files: number, seed: number } });
const count = (value: string | undefined, usual: number) => (value === undefined ? usual : Number(value));

const root = fileURLToPath(new URL("..", import.meta.url));
const folder = join(root, `.data/faults-${process.pid}`);
const app = new Application(root, folder);
const report = new Report();
const random = randomStream(count(values.seed, 1));

async function run(): Promise<boolean> {
	await app.start();
	const began = Date.now();
	await files(app, count(values.files, 3000), random, report);
	report.say(`The files took ${Math.round((Date.now() - began) / 1000)} s.`);
	const then = Date.now();
	await kills(app, count(values.kills, 100), random, report);
	report.say(`The kills took ${Math.round((Date.now() - then) / 1000)} s.`);
	return report.end();
}

const well = await run().catch((error) => {
	report.say(error.stack ?? String(error));
	report.must("run", "broken off", 1, 0);
	return report.end();
});
await app.end();
rmSync(folder, { recursive: true, force: true });
process.exit(well ? 0 : 1);
