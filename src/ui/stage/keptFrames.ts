/** Small frames of a move that the server keeps: fetched when the move is opened, and handed in as they are traced. */
import { packSmall, parted, type SmallFrame, unpackSmall } from "../../core/study/smallFrame.ts";

const address = (shotId: string) => `/api/shots/${shotId}/small`;

/** Those that are kept; none while the server is away. */
export async function keptFrames(shotId: string): Promise<SmallFrame[]> {
	try {
		const response = await fetch(address(shotId));
		return response.ok ? [...parted(new Uint8Array(await response.arrayBuffer()))].map(unpackSmall) : [];
	} catch {
		return [];
	}
}

let last: Promise<unknown> = Promise.resolve();

/** Hands one in, after those before. What cannot be kept is traced again some day. */
export function keepFrame(shotId: string, small: SmallFrame): void {
	last = last
		.then(() => fetch(address(shotId), { method: "PUT", body: new Uint8Array(packSmall(small)) }))
		.catch(() => {});
}
