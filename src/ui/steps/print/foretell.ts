/** When prints will be done. */
import type { PrintLine } from "../../../core/doc/records.ts";

/** When a waiting print will be done at the latest: after all that were ordered before it, of any shot, and its own samples. */
export const readyBy = (print: Pick<PrintLine, "samplesLeft" | "samplesAhead">, rate: number, now = Date.now()): Date =>
	new Date(now + ((print.samplesAhead + print.samplesLeft) / rate) * 1000);
