import { database } from "@/server/database.ts";
import { route } from "@/server/route.ts";
import { readLog } from "@/store/shots.ts";

export const dynamic = "force-dynamic";

/** How a shot stands in its log, without its document. */
export const GET = route<{ id: string }>(async (_request, { id }) => Response.json(await readLog(database(), id)));
