/** The data folder of a running application: made, locked, and told in words when it cannot be. */
import { createHash } from "node:crypto";
import { mkdirSync, realpathSync } from "node:fs";
import { createServer } from "node:net";

/** Makes a folder. Throws in words. */
export function makeFolder(path) {
	try {
		mkdirSync(path, { recursive: true });
	} catch (error) {
		if (["EEXIST", "ENOTDIR"].includes(error.code))
			throw new Error(`${path} is no folder, but a file is in its place. Set INQUADRA_DATA to a folder.`);
		throw new Error(`The folder ${path} cannot be made (${error.code}). Set INQUADRA_DATA to another one.`);
	}
}

/**
 * Holds a name for the life of this process; false when another holds it. The system itself takes it back when a process
 * ends, however it ends.
 */
export function holdName(name) {
	return new Promise((resolve, reject) => {
		const held = createServer();
		held.on("error", (error) => (error.code === "EADDRINUSE" ? resolve(false) : reject(error)));
		held.listen(`\0inquadra-${name}`, () => {
			held.unref();
			resolve(true);
		});
	});
}

/** Locks a folder for the life of this process; false when another holds it. */
export const lockFolder = (path) =>
	holdName(createHash("sha256").update(realpathSync(path)).digest("hex").slice(0, 32));
