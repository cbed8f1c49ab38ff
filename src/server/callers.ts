/**
 * Who may call: this machine's own page alone. The Host is a loopback name, so that no foreign name that has been bound to
 * this machine reads anything; an Origin, when there is one, is the same host; and what a browser marks as coming from
 * another site is refused (Fetch Metadata, W3C).
 */
export interface Refusal {
	code: string;
	message: string;
}

const OWN_NAMES = ["127.0.0.1", "localhost", "[::1]"];

export function refusalOf(headers: Headers): Refusal | null {
	const host = headers.get("host") ?? "";
	if (!OWN_NAMES.includes(host.replace(/:\d+$/, "")))
		return { code: "wrong-host", message: `This server answers on this machine only, not as "${host.slice(0, 120)}".` };
	const origin = headers.get("origin");
	if (origin !== null && origin !== `http://${host}`)
		return { code: "wrong-origin", message: `A page of "${origin.slice(0, 120)}" may not use this server.` };
	if (headers.get("sec-fetch-site") === "cross-site")
		return { code: "wrong-origin", message: "Pages of other sites may not use this server." };
	return null;
}

/** What a page that is opened may do: no other site's scripts, frames or pictures, and none around it. */
export const pagePolicy = (nonce: string): string =>
	[
		"default-src 'self'",
		`script-src 'self' 'nonce-${nonce}' 'strict-dynamic' 'wasm-unsafe-eval'`,
		"style-src 'self' 'unsafe-inline'",
		"img-src 'self' blob: data:",
		"media-src 'self' blob:",
		"font-src 'self'",
		"connect-src 'self' blob: data:",
		"worker-src 'self' blob:",
		"object-src 'none'",
		"base-uri 'none'",
		"form-action 'self'",
		"frame-ancestors 'none'",
	].join("; ");
