import type pg from "pg";
export async function keepDemo(_pool: pg.Pool): Promise<{ shots: string[] }> { return { shots: [] }; }
