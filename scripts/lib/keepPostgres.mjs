/**
 * Keeps the database of a folder running: starts it again on its port when it has been killed, and ends it when the process
 * that started this one ends or asks for it.
 */
import { say } from "./install.mjs";
import { isAlive, restartPostgres, stopPostgres } from "./postgres.mjs";

const LOOK_MS = 250;
/** Seconds in which it ends what is under way; then it is broken off. */
const STOP_SECONDS = 2;

const [folder] = process.argv.slice(2);
const parent = process.ppid;

function end() {
	stopPostgres(folder, STOP_SECONDS);
	process.exit(0);
}
for (const signal of ["SIGINT", "SIGTERM", "SIGHUP"]) process.on(signal, end);

for (;;) {
	if (process.ppid !== parent) end();
	if (!isAlive(folder)) {
		say("The database has ended; it starts again.");
		if (!(await restartPostgres(folder))) say("The database does not start yet; it is tried again.");
	}
	await new Promise((r) => setTimeout(r, LOOK_MS));
}
