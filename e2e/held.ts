/** Tests in a browser whose proofs are held: what is no matter of theirs has the machine to itself. */
import { test as free } from "@playwright/test";
import { HELD_PROOF } from "../src/ui/store/heldProof.ts";

export const test = free.extend({
	context: async ({ context }, use) => {
		await context.addInitScript((key) => {
			// Only at first: what a hand changes stays.
			if (sessionStorage.getItem(key)) return;
			sessionStorage.setItem(key, "seen");
			localStorage.setItem(key, "yes");
		}, HELD_PROOF);
		await use(context);
	},
});
