/** Connection to PostgreSQL: a pool that outlives restarts of the server, and the numbered migrations. */
import { readdirSync, readFileSync } from "node:fs";
import pg from "pg";

export type Queryable = pg.Pool | pg.PoolClient;

/** A process that is frozen in a transaction loses it after so long, so that others do not wait for its locks. */
const IDLE_IN_TRANSACTION_MS = 4000;
/** A lock that is not to be had within this is tried for again later. */
const LOCK_MS = 8000;

/** The name that the server's list of sessions has for what a process of this program holds. */
export const sessionsOf = (pid: number | undefined): string => `inquadra ${pid}`;

/** A pool for a connection string. Idle clients whose server went away are dropped, not thrown. */
export function openPool(url: string, max = 8): pg.Pool {
	const pool = new pg.Pool({
		connectionString: url,
		application_name: sessionsOf(process.pid),
		max,
		connectionTimeoutMillis: 5000,
		allowExitOnIdle: true,
		idle_in_transaction_session_timeout: IDLE_IN_TRANSACTION_MS,
		lock_timeout: LOCK_MS,
	});
	pool.on("error", () => {});
	return pool;
}

const GONE = new Set([
	"ECONNREFUSED",
	"ECONNRESET",
	"EPIPE",
	"ETIMEDOUT",
	"57P01",
	"57P02",
	"57P03",
	"08006",
	"08003",
	"08001",
	"53300",
	// Its transaction stood still for too long, or a lock was not to be had.
	"25P03",
	"55P03",
]);

/** Whether an error says that the database is away for now. */
export function isAway(error: unknown): boolean {
	const e = error as { code?: string; message?: string } | null;
	return (
		!!e &&
		(GONE.has(e.code ?? "") ||
			/Connection terminated|timeout exceeded when trying to connect|Client has encountered a connection error/.test(
				e.message ?? "",
			))
	);
}

/** Repeats work while the database is away: after 0.1 s, twice as long each time, at most 3 s apart. */
export async function withPatience<T>(work: () => Promise<T>, patienceMs = Number.POSITIVE_INFINITY): Promise<T> {
	const until = Date.now() + patienceMs;
	for (let pause = 100; ; pause = Math.min(3000, pause * 2)) {
		try {
			return await work();
		} catch (error) {
			if (!isAway(error) || Date.now() + pause > until) throw error;
			await new Promise((r) => setTimeout(r, pause));
		}
	}
}

/** What a client in hand says when its connection ends between two queries; the next one fails, which is told where it is asked. */
const ended = (): void => {};

/** Takes a client out of a pool; its connection may end at any moment without ending this process. */
export async function takeClient(pool: pg.Pool): Promise<pg.PoolClient> {
	const client = await pool.connect();
	client.off("error", ended);
	client.on("error", ended);
	return client;
}

/** Runs work in a transaction. */
export async function inTransaction<T>(pool: pg.Pool, work: (client: pg.PoolClient) => Promise<T>): Promise<T> {
	const client = await takeClient(pool);
	let broken: Error | undefined;
	try {
		await client.query("begin");
		const result = await work(client);
		await client.query("commit");
		return result;
	} catch (error) {
		try {
			await client.query("rollback");
		} catch (e) {
			broken = e as Error;
		}
		throw error;
	} finally {
		client.release(broken);
	}
}

/** Applies the migrations of a folder that are not in yet, each in its own transaction, one process at a time. */
export async function migrate(pool: pg.Pool, folder: string): Promise<void> {
	await inTransaction(pool, async (client) => {
		await client.query("set local lock_timeout = 0");
		await client.query("set local idle_in_transaction_session_timeout = 0");
		await client.query("select pg_advisory_xact_lock(7203194)");
		await client.query(
			"create table if not exists migrations (name text primary key, at timestamptz not null default now())",
		);
		const done = new Set((await client.query<{ name: string }>("select name from migrations")).rows.map((r) => r.name));
		for (const name of readdirSync(folder)
			.filter((f) => f.endsWith(".sql"))
			.sort()) {
			if (done.has(name)) continue;
			await client.query(readFileSync(`${folder}/${name}`, "utf8"));
			await client.query("insert into migrations (name) values ($1)", [name]);
		}
	});
}

/** Tells all processes that something changed. Ids only: a notification carries at most 8,000 bytes. */
export async function announce(
	db: Queryable,
	event: { kind: "shot" | "print" | "work"; id: string; sequence?: number },
): Promise<void> {
	await db.query("select pg_notify('inquadra', $1)", [JSON.stringify(event)]);
}

/** Listens for announcements until the signal ends; reconnects by itself and calls `onEvent` with null after a gap. */
export async function listen(
	url: string,
	onEvent: (event: { kind: string; id: string; sequence?: number } | null) => void,
	signal: AbortSignal,
): Promise<void> {
	let first = true;
	const calledOff = new Promise<void>((resolve) => signal.addEventListener("abort", () => resolve(), { once: true }));
	for (let pause = 100; !signal.aborted; pause = Math.min(3000, pause * 2)) {
		const client = new pg.Client({ connectionString: url, keepAlive: true });
		const stop = () => void client.end().catch(() => {});
		try {
			const ended = new Promise<void>((resolve) => {
				client.on("error", () => resolve());
				client.on("end", () => resolve());
			});
			client.on("notification", (n) => onEvent(JSON.parse(n.payload ?? "null")));
			// It may be called off while the connection is being made.
			signal.addEventListener("abort", stop);
			// One that is ended before it stands never says so.
			await Promise.race([client.connect(), calledOff]);
			if (signal.aborted) return;
			await client.query("listen inquadra");
			if (!first) onEvent(null);
			first = false;
			pause = 100;
			await ended;
		} catch {
			// away for now; the loop tries again
		} finally {
			signal.removeEventListener("abort", stop);
			stop();
		}
		if (!signal.aborted) await new Promise((r) => setTimeout(r, pause));
	}
}
