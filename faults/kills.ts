/**
 * Kills parts of the running application while a hand edits and prints are traced. What has been confirmed must be there in
 * the end, and every print must be the same, bit for bit.
 */
import { randomUUID } from "node:crypto";
import { readdirSync } from "node:fs";
import { tmpdir } from "node:os";
import pg from "pg";
import { newPiece } from "../src/core/doc/defaults.ts";
import { type Application, type Part, patiently, sleep } from "./application.ts";
import type { Report } from "./report.ts";

/** Kills after which another print is ordered; pause between kills, milliseconds. */
const KILLS_A_PRINT = 8;
const PAUSE_MS = [300, 1800] as const;
/** Of so many kills one takes the process that holds all others, and one freezes a press instead. */
const ALL_EVERY = 20;
const FREEZE_EVERY = 10;
const FROZEN_MS = 6000;
const ORDER = { widthPx: 160, samples: 64, seed: 3, noisePercent: null };

const ways: Part[] = ["press", "press", "web server", "database", "keeper of the database"];

async function json<T>(response: Response): Promise<T> {
	return (await response.json()) as T;
}

/** A hand that edits all the while, and remembers what was confirmed. */
class Hand {
	readonly confirmed: string[] = [];
	private sequence = 0;
	private going = true;
	private app: Application;
	private shot: string;

	constructor(app: Application, shot: string) {
		this.app = app;
		this.shot = shot;
	}

	stop(): void {
		this.going = false;
	}

	async work(): Promise<void> {
		for (let n = 0; this.going; n++) {
			const clientId = randomUUID();
			const edit = { name: "shot.setIdea", idea: `Idea ${n}` };
			const send = () =>
				fetch(`${this.app.url}/api/shots/${this.shot}/edits`, {
					method: "POST",
					body: JSON.stringify({ clientId, sequence: this.sequence, edit }),
				});
			const response = await patiently(send, 120);
			if (response.status === 409) {
				const { state } = (await json<{ error: { state: { sequence: number } } }>(response)).error;
				this.sequence = state.sequence;
				continue;
			}
			this.sequence = (await json<{ sequence: number }>(response)).sequence;
			this.confirmed.push(clientId);
			await sleep(40);
		}
	}
}

interface Print {
	id: string;
	state: string;
	message: string | null;
	pixelsSha256: string | null;
}

export async function kills(app: Application, count: number, random: () => number, report: Report): Promise<void> {
	const post = (path: string, body: unknown) =>
		patiently(() => fetch(`${app.url}/api/${path}`, { method: "POST", body: JSON.stringify(body) }), 120);
	const shot = await json<{ id: string; sequence: number }>(await post("shots", { title: "Under faults" }));
	const ball = newPiece("ball", "sphere", { position: [0.5, 0, -6], size: [2, 2, 2] });
	const made = await post(`shots/${shot.id}/edits`, {
		clientId: randomUUID(),
		sequence: shot.sequence,
		edit: { name: "piece.add", pieces: [ball] },
	});
	if (!made.ok) throw new Error(await made.text());
	const hand = new Hand(app, shot.id);
	const working = hand.work();
	const ordered: string[] = [];
	const killed = new Map<string, number>();
	let slowest = 0;
	for (let n = 0; n < count; n++) {
		if (n % KILLS_A_PRINT === 0) ordered.push((await json<Print>(await post(`shots/${shot.id}/prints`, ORDER))).id);
		await sleep(PAUSE_MS[0] + random() * (PAUSE_MS[1] - PAUSE_MS[0]));
		let what: string = ways[Math.floor(random() * ways.length)];
		if (n % ALL_EVERY === ALL_EVERY - 1) {
			what = "all, by their supervisor";
			await app.end("SIGKILL");
			await app.start();
		} else if (n % FREEZE_EVERY === FREEZE_EVERY - 1) {
			what = `press, frozen for ${FROZEN_MS / 1000} s`;
			if (app.signal("press", "SIGSTOP")) {
				const began = Date.now();
				await post(`shots/${shot.id}/checkpoints`, { name: `Checkpoint ${n}`, thumbnail: null });
				slowest = Math.max(slowest, Date.now() - began);
				await sleep(FROZEN_MS);
				app.signal("press", "SIGCONT");
			}
		} else if (!app.signal(what as Part, "SIGKILL")) what = `${what}, while it was starting`;
		killed.set(what, (killed.get(what) ?? 0) + 1);
	}
	hand.stop();
	await working;
	for (const [what, times] of [...killed].sort()) report.row("killed", what, times);
	report.row("edits", "confirmed", hand.confirmed.length);

	const pool = new pg.Pool({ connectionString: app.database, max: 2 });
	pool.on("error", () => {});
	const found = await pool.query("select client_id from edits where shot_id = $1", [shot.id]);
	const kept = new Set(found.rows.map((r) => r.client_id));
	report.must("edits", "confirmed and lost", hand.confirmed.filter((id) => !kept.has(id)).length, 0);
	report.row("edits", "answered while a press was frozen, most milliseconds", slowest);

	const prints: Print[] = [];
	for (const id of ordered) {
		for (const until = Date.now() + 300_000; ; await sleep(500)) {
			const print = await json<Print>(await patiently(() => fetch(`${app.url}/api/prints/${id}`), 120));
			if (["done", "failed", "cancelled"].includes(print.state) || Date.now() > until) {
				prints.push(print);
				break;
			}
		}
	}
	report.row("prints", "ordered", prints.length);
	report.must("prints", "not done", prints.filter((p) => p.state !== "done").length, 0);
	for (const p of prints) if (p.state !== "done") report.say(`print ${p.id}: ${p.state}, ${p.message ?? "no word"}`);
	report.must("prints", "kinds of pixels among them", new Set(prints.map((p) => p.pixelsSha256)).size, 1);
	const open = await pool.query("select count(*)::int as n from pg_stat_activity where datname = current_database()");
	report.must("database", "more connections than 60", Number(open.rows[0].n > 60), 0);
	await pool.end();
	// What killed presses have left is cleared by those that come after them.
	const left = readdirSync(tmpdir()).filter((n) => {
		const pid = Number(/^inquadra-work-(\d+)-/.exec(n)?.[1]);
		return pid && pid !== app.pidOf("press") && pid !== app.pidOf("web server");
	});
	report.row("folders", "left by killed workers, until the next clearing", left.length);
}
