/** Damaged files as references, skies and clips: each is refused in words or taken, none stops the server or fills it. */
import sharp from "sharp";
import { writeExr } from "../src/core/formats/exrWrite.ts";
import { writeHdr } from "../src/core/formats/hdr.ts";
import { type Application, patiently } from "./application.ts";
import type { Report } from "./report.ts";

/** Longest that a small file may take, milliseconds. */
const MOST_MS = 20_000;
const MOST_MB = 2048;
const AT_ONCE = 4;

type Kind = [name: string, route: string, data: Uint8Array];

async function whole(): Promise<Kind[]> {
	const [width, height] = [96, 48];
	const noise = Buffer.from(Uint8Array.from({ length: width * height * 3 }, (_, i) => (i * 7919 + (i >> 5)) % 251));
	const picture = () => sharp(noise, { raw: { width, height, channels: 3 } });
	const rgb = Float32Array.from({ length: width * height * 3 }, (_, i) => ((i * 31) % 97) / 20);
	const plane = (c: number) => rgb.filter((_, i) => i % 3 === c);
	const channels = ["R", "G", "B"].map((name, c) => ({ name, data: plane(c) }));
	return [
		["PNG", "pictures", await picture().png().toBuffer()],
		["JPEG", "pictures", await picture().jpeg().toBuffer()],
		["JPEG, progressive", "pictures", await picture().jpeg({ progressive: true }).toBuffer()],
		["WebP", "pictures", await picture().webp().toBuffer()],
		["TIFF as a sky", "skies", await picture().tiff().toBuffer()],
		["PNG as a sky", "skies", await picture().png().toBuffer()],
		["HDR", "skies", writeHdr({ width, height, rgb })],
		["EXR", "skies", writeExr({ width, height, channels, text: {} })],
		[
			"EXR of half floats",
			"skies",
			writeExr({ width, height, channels: channels.map((c) => ({ ...c, half: true })), text: {} }),
		],
		["clip", "clips", new Uint8Array([0x1a, 0x45, 0xdf, 0xa3, ...Array.from({ length: 200 }, (_, i) => i)])],
	];
}

/** A file that something has happened to. */
function damaged(data: Uint8Array, random: () => number): Uint8Array {
	const out = Uint8Array.from(data);
	const at = () => Math.floor(random() * out.length);
	const way = Math.floor(random() * 6);
	if (way === 0) return out.subarray(0, at());
	if (way === 1) for (let n = 1 + Math.floor(random() * 12); n > 0; n--) out[at()] ^= 1 << Math.floor(random() * 8);
	else if (way === 2) out.fill(random() < 0.5 ? 0 : 255, at());
	// Numbers of the head: sizes, counts, offsets.
	else if (way === 3)
		for (let n = 0; n < 4; n++) out[Math.floor(random() * Math.min(400, out.length))] = Math.floor(random() * 256);
	else if (way === 4) {
		const [from, to] = [at(), at()];
		out.copyWithin(to, from, from + 64);
	} else {
		const longer = new Uint8Array(out.length + Math.floor(random() * 5000));
		longer.set(out);
		return longer;
	}
	return out;
}

export async function files(app: Application, count: number, random: () => number, report: Report): Promise<void> {
	const kinds = await whole();
	const answers = new Map<string, Map<number, number>>();
	let slowest = { ms: 0, of: "" };
	let faults = 0;
	let next = 0;
	const one = async () => {
		const [name, route, data] = kinds[next++ % kinds.length];
		const body = new Uint8Array(damaged(data, random));
		const began = Date.now();
		const response = await fetch(`${app.url}/api/${route}`, { method: "POST", body }).catch(() => null);
		const ms = Date.now() - began;
		if (ms > slowest.ms) slowest = { ms, of: name };
		const status = response?.status ?? 0;
		await response?.arrayBuffer().catch(() => {});
		if (status === 0 || status >= 500) {
			faults++;
			report.say(`${name} of ${body.length} bytes: ${status || "no answer"}`);
		}
		const own = answers.get(name) ?? new Map<number, number>();
		own.set(status, (own.get(status) ?? 0) + 1);
		answers.set(name, own);
	};
	await Promise.all(
		Array.from({ length: AT_ONCE }, async () => {
			while (next < count) await one();
		}),
	);
	for (const [name, own] of answers)
		report.row(
			"files",
			name,
			[...own]
				.sort(([a], [b]) => a - b)
				.map(([status, n]) => `${n} × ${status}`)
				.join(", "),
		);
	report.must("files", "answered with a fault or not at all", faults, 0);
	report.row("files", `slowest (${slowest.of}), milliseconds`, slowest.ms);
	report.must("files", `longer than ${MOST_MS / 1000} s`, Number(slowest.ms > MOST_MS), 0);
	const mb = app.mostMb("web server");
	report.row("files", "most memory of the web server, MB", Math.round(mb));
	report.must("files", `more memory than ${MOST_MB} MB`, Number(mb > MOST_MB), 0);
	const alive = await patiently(() => fetch(`${app.url}/api/shots`));
	report.must("files", "server away in the end", Number(!alive.ok), 0);
}
