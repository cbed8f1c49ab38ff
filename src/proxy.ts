/** Before every page: the same guard as the routes have, and what the page may do. Routes guard themselves. */
import { randomBytes } from "node:crypto";
import { type NextRequest, NextResponse } from "next/server";
import { pagePolicy, refusalOf } from "./server/callers.ts";

/** To follow a link from another site to a page is no harm: it is the page that is opened, and nobody else reads it. */
const asOpened = (headers: Headers): Headers => {
	const own = new Headers(headers);
	if (headers.get("sec-fetch-dest") === "document") own.delete("sec-fetch-site");
	return own;
};

export function proxy(request: NextRequest): NextResponse {
	const refusal = refusalOf(asOpened(request.headers));
	if (refusal) return new NextResponse(refusal.message, { status: 403 });
	let path = "\0";
	try {
		path = decodeURIComponent(request.nextUrl.pathname);
	} catch {
		// A percent sign that begins no character.
	}
	if (path.includes("\0")) return new NextResponse("There is nothing of this name.", { status: 404 });
	const nonce = randomBytes(16).toString("base64");
	const policy = pagePolicy(nonce);
	const headers = new Headers(request.headers);
	headers.set("Content-Security-Policy", policy);
	headers.set("x-nonce", nonce);
	const response = NextResponse.next({ request: { headers } });
	response.headers.set("Content-Security-Policy", policy);
	return response;
}

/** Of the routes only addresses with percent signs: what passes here has its body copied, and files are large. */
export const config = { matcher: "/((?!_next/|api/(?!.*%)).*)" };
