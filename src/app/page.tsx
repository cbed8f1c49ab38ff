import { redirect } from "next/navigation";
import { blankShot } from "@/core/doc/defaults.ts";
import { database } from "@/server/database.ts";
import { createShot, listShots } from "@/store/shots.ts";

export const dynamic = "force-dynamic";

/** Opens the first shot. */
export default async function Home() {
	const shots = await listShots(database());
	const first = shots[0] ?? (await createShot(database(), blankShot()));
	redirect(`/shot/${first.id}`);
}
