import type { NextConfig } from "next";

const isolation = [
	{ key: "Cross-Origin-Opener-Policy", value: "same-origin" },
	{ key: "Cross-Origin-Embedder-Policy", value: "require-corp" },
	{ key: "Cross-Origin-Resource-Policy", value: "same-origin" },
	// Whatever is answered: nobody shows it in a frame, and nobody guesses another kind of it.
	{ key: "X-Frame-Options", value: "DENY" },
	{ key: "X-Content-Type-Options", value: "nosniff" },
	{ key: "Referrer-Policy", value: "no-referrer" },
];

const config: NextConfig = {
	reactStrictMode: true,
	poweredByHeader: false,
	// `npm test` checks the types of all there is: a build would check the same ones again, as long as all else of it takes.
	typescript: { ignoreBuildErrors: true },
	headers: async () => [{ source: "/:path*", headers: isolation }],
};

export default config;
