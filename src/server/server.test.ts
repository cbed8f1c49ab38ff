import sharp from "sharp";
import { describe, expect, it } from "vitest";
import { z } from "zod";
import { EditError } from "../core/doc/edits.ts";
import { checkPicture, checkPictureHead } from "./pictures.ts";
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
		// A browser marks what another site's page asks for, also where it sends no Origin.
		expect((await call(ok, { headers: { "sec-fetch-site": "cross-site" } })).status).toBe(403);
		for (const site of ["same-origin", "none"])
			expect((await call(ok, { headers: { "sec-fetch-site": site } })).status).toBe(200);
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

	it("says what no database keeps: zeros and halves of characters, and nesting without end", async () => {
		const read = (text: string) =>
			call(async (r) => Response.json(await readBody(r, z.object({ n: z.unknown() }))), { method: "POST", body: text });
		const deep = (n: number) => `{"n":${"[".repeat(n)}${"]".repeat(n)}}`;
		for (const bad of ['{"n":"a\\u0000b"}', '{"n":"\\ud800"}', '{"a\\u0000":1,"n":2}', deep(100_000), deep(64)])
			expect((await read(bad)).status).toBe(400);
		// Brackets in words are words, and a pair of halves is a character.
		for (const good of [deep(60), `{"n":"${"[".repeat(1000)}\\"${"{".repeat(1000)}"}`, '{"n":"\\ud83c\\udf05"}'])
			expect((await read(good)).status).toBe(200);
	});

	it("knows no names with a zero in them", async () => {
		const named = (id: string) =>
			route<{ id: string }>(ok)(new Request("http://127.0.0.1:3100/x", { headers: { host: "localhost" } }), {
				params: Promise.resolve({ id }),
			});
		for (const id of ["a\0b", "%00", "\ud800"]) expect((await named(id)).status).toBe(404);
		expect((await named("saltworks")).status).toBe(200);
	});

	it("looks at how a file begins before it takes the rest in", async () => {
		let sent = 0;
		const body = new ReadableStream<Uint8Array>({
			pull(controller) {
				sent++;
				controller.enqueue(new Uint8Array(65_536));
			},
		});
		const r = await call(async (request) => Response.json((await readBytes(request, 1e9, checkPictureHead)).length), {
			method: "POST",
			body,
			duplex: "half",
		} as RequestInit);
		expect(r.status).toBe(415);
		expect(sent).toBeLessThan(5);
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
		// Damage in the middle of a JPEG, which a small copy of it does not meet.
		const noisy = sharp(Buffer.from(Uint8Array.from({ length: 900 * 600 * 3 }, (_, i) => (i * 7919) % 251)), {
			raw: { width: 900, height: 600, channels: 3 },
		});
		const jpeg = await noisy.jpeg({ quality: 80 }).toBuffer();
		expect(await refused(jpeg)).toBe("taken");
		for (const [from, to] of [
			[0.5, 0.6],
			[0.9, 0.91],
		])
			expect(
				await refused(Buffer.from(jpeg).fill(0xff, Math.floor(from * jpeg.length), Math.floor(to * jpeg.length))),
			).toBe("damaged-picture");
		expect(await refused(jpeg.subarray(0, 0.7 * jpeg.length))).toBe("damaged-picture");
		// A header that claims 40,000 × 40,000 pixels.
		const huge = Buffer.from(png);
		huge.writeUInt32BE(40_000, 16);
		huge.writeUInt32BE(40_000, 20);
		expect(["too-many-pixels", "not-a-picture", "damaged-picture"]).toContain(await refused(huge));
	});
});
