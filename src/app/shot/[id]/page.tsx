import { notFound, redirect } from "next/navigation";
import { shotBundle } from "@/server/bundle.ts";
import { database } from "@/server/database.ts";
import { listShots, NoShotError } from "@/store/shots.ts";
import { RoomLoader } from "@/ui/room/RoomLoader.tsx";

export const dynamic = "force-dynamic";

/** Shots of the demo under the names that old links call them by. */
const RENAMED: Record<string, string> = { salina: "saltworks" };

export default async function ShotPage({ params }: { params: Promise<{ id: string }> }) {
	const { id } = await params;
	try {
		const [bundle, shots] = await Promise.all([shotBundle(id), listShots(database())]);
		return <RoomLoader key={id} bundle={bundle} shots={shots} />;
	} catch (error) {
		if (error instanceof NoShotError && Object.hasOwn(RENAMED, id)) redirect(`/shot/${RENAMED[id]}`);
		if (error instanceof NoShotError) notFound();
		throw error;
	}
}
