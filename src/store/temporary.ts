/** Folders for files that are being made. They carry the process in their name: what a killed one has left is cleared by others. */
import { mkdtemp, readdir, rm, stat } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";

const NAME = /^inquadra-work-(\d+)-/;

/** Makes a folder; the caller removes it. */
export const temporaryFolder = (): Promise<string> => mkdtemp(join(tmpdir(), `inquadra-work-${process.pid}-`));

/** When a process began, or null when there is none of this number. */
async function begun(pid: number): Promise<number | null> {
	try {
		process.kill(pid, 0);
	} catch (error) {
		if ((error as NodeJS.ErrnoException).code === "ESRCH") return null;
	}
	return stat(`/proc/${pid}`).then(
		(s) => s.ctimeMs,
		() => 0,
	);
}

/** Removes the folders of processes that are no more. Returns how many. */
export async function clearTemporary(): Promise<number> {
	let cleared = 0;
	for (const name of await readdir(tmpdir())) {
		const pid = Number(NAME.exec(name)?.[1]);
		if (!pid || pid === process.pid) continue;
		const path = join(tmpdir(), name);
		const at = await begun(pid);
		const made = await stat(path).catch(() => null);
		// A number may have gone to a younger process.
		if (!made || (at !== null && made.birthtimeMs >= at - 1000)) continue;
		await rm(path, { recursive: true, force: true });
		cleared++;
	}
	return cleared;
}
