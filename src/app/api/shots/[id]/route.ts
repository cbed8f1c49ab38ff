import { shotBundle } from "@/server/bundle.ts";
import { route } from "@/server/route.ts";

export const dynamic = "force-dynamic";

export const GET = route<{ id: string }>(async (_request, { id }) => Response.json(await shotBundle(id)));
