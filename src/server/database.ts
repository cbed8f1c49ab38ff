/** The web server's pool, one for its life. */
import type pg from "pg";
import { openPool } from "../store/database.ts";

const holder = globalThis as { inquadraPool?: pg.Pool };

export const databaseUrl = (): string => process.env.DATABASE_URL ?? "";

export function database(): pg.Pool {
	holder.inquadraPool ??= openPool(databaseUrl(), 12);
	return holder.inquadraPool;
}
