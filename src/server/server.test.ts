import sharp from "sharp";
import { describe, expect, it } from "vitest";
import { z } from "zod";
import { EditError } from "../core/doc/edits.ts";
import { checkPicture } from "./pictures.ts";
import { HttpError, readBody, readBytes, route } from "./route.ts";

const call = (handler: Parameters<typeof route>[0], init: RequestInit & { host?: string } = {}) => {
	const headers = new Headers(init.headers);
	headers.set("host", init.host ?? "127.0.0.1:3100");
	return route(handler)(new Request("http://127.0.0.1:3100/x", { ...init, headers }), { params: Promise.resolve({}) });
};
const ok = async () => Response.json({ fine: true });

describe("a route", () => {
	it("answers its own page and nobody else", async () => {
		expect((await call(ok)).status).toBe(200);
		expect((await call(ok, { host: "localhost:3100" })).status).toBe(200);
		expect((await call(ok, { host: "[::1]:3100" })).status).toBe(200);
		expect((await call(ok, { host: "evil.example" })).status).toBe(403);
		expect((await call(ok, { headers: { origin: "http://127.0.0.1:3100" } })).status).toBe(200);
		expect((await call(ok, { headers: { origin: "http://127.0.0.1:9999" } })).status).toBe(403);
		expect((await call(ok, { headers: { origin: "null" } })).status).toBe(403);
	});

	it("turns errors into a status, a code and a sentence", async () => {
		const failing = (error: Error) => async () => {
			throw error;
		};
		const body = async (error: Error) => {
			const r = await call(failing(error));
			return { status: r.status, ...((await r.json()) as { error: { code: string; message: string } }).error };
		};
		expect(await body(new HttpError(507, "disk-full", "No room."))).toEqual({
			status: 507,
			code: "disk-full",
			message: "No room.",
		});
		expect((await body(new EditError("locked", "The camera is locked."))).status).toBe(400);
		expect((await body(Object.assign(new Error("x"), { code: "ECONNREFUSED" }))).status).toBe(503);
	});

	it("reads bodies that fit and says what does not", async () => {
		const read = (text: string) =>
			call(async (r) => Response.json(await readBody(r, z.object({ n: z.number().max(5) }))), {
				method: "POST",
				body: text,
			});
		expect(await (await read('{"n":3}')).json()).toEqual({ n: 3 });
		expect((await read("{")).status).toBe(400);
		expect(((await (await read('{"n":7}')).json()) as { error: { message: string } }).error.message).toMatch(/^n: /);
		const long = await call(async (r) => Response.json((await readBytes(r, 10)).length), {
			method: "POST",
			body: "x".repeat(11),
		});
		expect(long.status).toBe(413);
	});
});

describe("a picture brought in", () => {
	const make = (width = 40, height = 20) =>
		sharp({ create: { width, height, channels: 3, background: { r: 90, g: 120, b: 40 } } });
	it("may be PNG, JPEG or WebP", async () => {
		for (const [data, type] of [
			[await make().png().toBuffer(), "image/png"],
			[await make().jpeg().toBuffer(), "image/jpeg"],
			[await make().webp().toBuffer(), "image/webp"],
		] as const) {
			expect(await checkPicture(data)).toMatchObject({ mediaType: type, widthPx: 40, heightPx: 20 });
		}
	});
	it("is turned upright as its camera meant it", async () => {
		const turned = await make().jpeg().withMetadata({ orientation: 6 }).toBuffer();
		const kept = await checkPicture(turned);
		expect([kept.widthPx, kept.heightPx]).toEqual([20, 40]);
		const meta = await sharp(kept.data).metadata();
		expect([meta.width, meta.height, meta.orientation ?? 1]).toEqual([20, 40, 1]);
	});
	it("is refused when it is empty, no picture, of another kind, damaged or far too large", async () => {
		const refused = async (data: Uint8Array) =>
			checkPicture(data).then(
				() => "taken",
				(e: HttpError) => e.code,
			);
		expect(await refused(new Uint8Array())).toBe("empty-picture");
		expect(await refused(new TextEncoder().encode("hello"))).toBe("not-a-picture");
		expect(await refused(await make().gif().toBuffer())).toBe("not-a-picture");
		const png = await make(300, 300).png().toBuffer();
		expect(await refused(png.subarray(0, png.length - 60))).toBe("damaged-picture");
		// A header that claims 40,000 × 40,000 pixels.
		const huge = Buffer.from(png);
		huge.writeUInt32BE(40_000, 16);
		huge.writeUInt32BE(40_000, 20);
		expect(["too-many-pixels", "not-a-picture", "damaged-picture"]).toContain(await refused(huge));
	});
});
