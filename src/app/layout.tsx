import type { Metadata } from "next";
import { headers } from "next/headers";
import type { ReactNode } from "react";
import "./globals.css";

export const metadata: Metadata = { title: "Inquadra", description: "One place, one lens, one picture" };

/** No page makes programs out of words: schemas are read without, so that none is refused and reported. */
const JITLESS = "globalThis.__zod_globalConfig={jitless:true}";

export default async function Layout({ children }: { children: ReactNode }) {
	const nonce = (await headers()).get("x-nonce") ?? undefined;
	return (
		<html lang="en-GB">
			<body>
				{/* biome-ignore lint/security/noDangerouslySetInnerHtml: words of ours, before any other script */}
				<script nonce={nonce} suppressHydrationWarning dangerouslySetInnerHTML={{ __html: JITLESS }} />
				{children}
			</body>
		</html>
	);
}
