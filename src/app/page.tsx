import { cookies } from "next/headers";
import { redirect } from "next/navigation";
import { blankShot } from "@/core/doc/defaults.ts";
import { database } from "@/server/database.ts";
import { createShot, listShots } from "@/store/shots.ts";
import { LAST_SHOT } from "@/wire/contracts.ts";

export const dynamic = "force-dynamic";

/** Opens the shot that was open last, or the first one. */
export default async function Home() {
	const shots = await listShots(database());
	const last = (await cookies()).get(LAST_SHOT)?.value;
	const first = shots.find((s) => s.id === last) ?? shots[0] ?? (await createShot(database(), blankShot()));
	redirect(`/shot/${first.id}`);
}
