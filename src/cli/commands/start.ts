import { collectBlobs } from "../../store/blobs.ts";
import type { Command } from "../command.ts";
import { keepDemo } from "../demo.ts";

/** The start command calls one of these two; the start is when files that nothing refers to are dropped. */
export const migrate: Command = {
	args: [],
	hidden: true,
	run: async ({ pool }) => {
		await collectBlobs(pool);
		return { migrated: true };
	},
};

export const demo: Command = {
	args: [],
	hidden: true,
	run: async ({ pool }) => {
		await collectBlobs(pool);
		return keepDemo(pool);
	},
};
