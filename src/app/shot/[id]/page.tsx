import { notFound } from "next/navigation";
import { database } from "@/server/database.ts";
import { listPrints } from "@/store/prints.ts";
import { listCheckpoints, listShots, NoShotError, readHistory, readShot } from "@/store/shots.ts";
import { RoomLoader } from "@/ui/room/RoomLoader.tsx";

export const dynamic = "force-dynamic";

export default async function ShotPage({ params }: { params: Promise<{ id: string }> }) {
	const { id } = await params;
	const db = database();
	try {
		const [state, checkpoints, prints, history, shots] = await Promise.all([
			readShot(db, id),
			listCheckpoints(db, id),
			listPrints(db, id),
			readHistory(db, id),
			listShots(db),
		]);
		return <RoomLoader key={id} bundle={{ state, checkpoints, prints, history }} shots={shots} />;
	} catch (error) {
		if (error instanceof NoShotError) notFound();
		throw error;
	}
}
