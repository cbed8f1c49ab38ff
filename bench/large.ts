/**
 * A print 16,000 pixels wide: memory and time to put it together from its units, and to make a PNG of it. Its units are
 * copies of one traced tile, for the tracing itself would take hours here and needs no more memory than that of any print.
 */

import { spawn } from "node:child_process";
import { readFileSync } from "node:fs";
import { saltWorksDocument } from "../demo/saltWorks.ts";
import { TILE, tilesOf } from "../src/core/scene/picture.ts";
import { blobInfo, blobRange } from "../src/store/blobs.ts";
import { inTransaction, migrate, openPool } from "../src/store/database.ts";
import { openPrintFile, printPng } from "../src/store/printFiles.ts";
import { readPrint } from "../src/store/prints.ts";
import { createShot } from "../src/store/shots.ts";
import { TracePool } from "../src/tracer/node/pool.ts";
import { compiled } from "./compiled.ts";

type Say = (name: string, value: number, unit: string, reference?: number) => void;

const WIDTH = 16_000;
const LEAST_ROWS = 512;
const GOAL_MIB = 2048;
const BLOCKS = 1;

export async function large(
	build: URL,
	say: Say,
	rows = Number(process.env.INQUADRA_BENCH_ROWS) || 1024,
): Promise<void> {
	const pool = openPool(process.env.DATABASE_URL ?? "", 4);
	await migrate(pool, new URL("../src/store/migrations", build).pathname);
	const document = saltWorksDocument();
	const shot = await createShot(pool, document);
	const tracer = new TracePool(build, 2);
	tracer.load(compiled(document), { width: 640, height: 344, seed: 1 });
	const { sums } = await tracer.trace({ x: 256, y: 128, width: TILE, height: TILE }, 0, 16 * BLOCKS);
	await tracer.close();
	if (!sums) throw new Error("the tile was not traced");
	const bytes = [sums.sums.buffer, sums.firsts].map((b) => Buffer.from(b as ArrayBuffer));

	async function measure(id: string, height: number): Promise<number> {
		await inTransaction(pool, async (client) => {
			await client.query(
				"insert into prints (id, shot_id, revision, document, width, height, samples, seed, state, started_at) values ($1, $2, 0, $3, $4, $5, $6, 1, 'tracing', now())",
				[id, shot.id, JSON.stringify(document), WIDTH, height, 16 * BLOCKS],
			);
			await client.query("insert into frames (print_id, frame, turn, state) values ($1, 0, 0, 'tracing')", [id]);
			for (const [tile, t] of tilesOf(WIDTH, height).entries())
				await client.query(
					"insert into units (print_id, tile, x, y, width, height, done, samples, sums, firsts) values ($1, $2, $3, $4, $5, $6, $7, $7, $8, $9)",
					[id, tile, ...[t.x, t.y, t.width, t.height], 16 * BLOCKS, ...bytes],
				);
		});
		const at = performance.now();
		const press = spawn(process.execPath, [new URL("press.mjs", build).pathname], {
			env: { ...process.env, INQUADRA_THREADS: "2" },
			stdio: ["ignore", "ignore", "inherit"],
		});
		let peak = 0;
		for (;;) {
			await new Promise((r) => setTimeout(r, 200));
			peak = Math.max(
				peak,
				Number(/VmHWM:\s*(\d+)/.exec(readFileSync(`/proc/${press.pid}/status`, "utf8"))?.[1] ?? 0) / 1024,
			);
			const line = await readPrint(pool, id);
			if (line?.state === "failed") throw new Error(line.message ?? "failed");
			if (line?.state === "done") break;
		}
		press.kill();
		say(
			`${WIDTH.toLocaleString("en")} × ${height.toLocaleString("en")} px put together, without its noise`,
			(performance.now() - at) / 1000,
			"s",
		);
		say(`most memory of the worker for it, goal beside it`, peak, "MiB", GOAL_MIB);
		return peak;
	}
	const low = await measure("low", LEAST_ROWS);
	const high = await measure("high", rows);
	say(`the same for ${rows / LEAST_ROWS} times the rows, beside it`, high, "MiB", low);
	const print = await readPrint(pool, "high");
	const info = await blobInfo(pool, print?.exr ?? "");
	if (!info) throw new Error("the file is gone");
	const at = performance.now();
	await printPng(
		await openPrintFile((from, to) => blobRange(pool, info.hash, from, to), info.size),
		true,
		document.camera,
		document.finish,
	);
	say(`PNG of ${WIDTH.toLocaleString("en")} × ${rows.toLocaleString("en")} px`, (performance.now() - at) / 1000, "s");
	say("most memory of this process, goal beside it", process.resourceUsage().maxRSS / 1024, "MiB", GOAL_MIB);
	await pool.end();
}
