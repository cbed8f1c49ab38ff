import { afterEach, describe, expect, it, vi } from "vitest";
import { joined, packSmall, type SmallFrame, unpackSmall } from "../../core/study/smallFrame.ts";
import { keepFrame, keptFrames } from "./keptFrames.ts";

const plane = () => new Float32Array(6).fill(2);
const small = (frame: number): SmallFrame => ({
	frame,
	sign: `s${frame}`,
	width: 3,
	height: 2,
	part: { x: 0, y: 0, width: 1, height: 1 },
	rgb: [plane(), plane(), plane()],
	ev100: 9,
	probe: { frame, across: 1, down: 1, ids: new Uint32Array(1), distancesM: new Float64Array([4]) },
});

afterEach(() => vi.unstubAllGlobals());

describe("small frames that the server keeps", () => {
	it("come back as they were handed in", async () => {
		vi.stubGlobal("fetch", async (address: string) => {
			expect(address).toBe("/api/shots/abc/small");
			return new Response(new Uint8Array(joined([packSmall(small(1)), packSmall(small(5))])));
		});
		expect((await keptFrames("abc")).map((k) => [k.frame, k.sign])).toEqual([
			[1, "s1"],
			[5, "s5"],
		]);
	});

	it("are none while the server is away, says no, or sends something else", async () => {
		for (const answer of [
			async () => Promise.reject(new TypeError("away")),
			async () => new Response("no", { status: 503 }),
			async () => new Response(new Uint8Array([9, 0, 0, 0, 1, 2])),
		]) {
			vi.stubGlobal("fetch", answer);
			expect(await keptFrames("abc")).toEqual([]);
		}
	});

	it("are handed in one after the other, whatever becomes of one of them", async () => {
		const sent: number[] = [];
		let under = 0;
		vi.stubGlobal("fetch", async (_: string, { method, body }: { method: string; body: Uint8Array }) => {
			expect(method).toBe("PUT");
			expect(++under).toBe(1);
			await new Promise((r) => setTimeout(r, 5));
			under--;
			sent.push(unpackSmall(body).frame);
			if (sent.length === 2) throw new TypeError("away");
			return new Response("{}");
		});
		for (const frame of [2, 3, 4]) keepFrame("abc", small(frame));
		await vi.waitFor(() => expect(sent).toEqual([2, 3, 4]));
	});
});
