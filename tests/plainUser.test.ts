import { spawnSync } from "node:child_process";
import { chmodSync, chownSync, cpSync, mkdirSync, mkdtempSync, rmSync, statSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { root } from "./support.ts";

const NOBODY = 65_534;

describe("the private database", () => {
	it.skipIf(process.getuid?.() !== 0)("is made, started and stopped by a plain user, who then owns all of it", () => {
		const folder = mkdtempSync(join(tmpdir(), "inquadra plain "));
		try {
			cpSync(join(root, "scripts/lib"), join(folder, "lib"), { recursive: true });
			mkdirSync(join(folder, "data"), { mode: 0o700 });
			chmodSync(folder, 0o755);
			chownSync(join(folder, "data"), NOBODY, NOBODY);
			const script = `
				const { startPostgres } = await import(${JSON.stringify(join(folder, "lib/postgres.mjs"))});
				const first = await startPostgres("data", { durable: false });
				const again = await startPostgres("data");
				first.stop();
				process.stdout.write(JSON.stringify({ url: first.url, same: again.url === first.url, adopted: again.adopted }));`;
			const run = spawnSync(process.execPath, ["--input-type=module", "-e", script], {
				cwd: folder,
				uid: NOBODY,
				gid: NOBODY,
				encoding: "utf8",
				env: { PATH: process.env.PATH, HOME: folder, NODE_ENV: "test" },
			});
			expect(run.stderr).not.toMatch(/rror/);
			const answer = JSON.parse(run.stdout);
			expect(answer).toEqual({
				url: expect.stringMatching(/^postgres:\/\/app:[^@]+@127\.0\.0\.1:\d+\/postgres$/),
				same: true,
				adopted: true,
			});
			expect(statSync(join(folder, "data/pg/PG_VERSION")).uid).toBe(NOBODY);
			expect(statSync(join(folder, "data/postgres.json")).mode & 0o077).toBe(0);
		} finally {
			rmSync(folder, { recursive: true, force: true });
		}
	});
});
