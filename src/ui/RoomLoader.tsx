"use client";
/** Brings the room in on the page alone; until it stands, the latest print hangs there. */
import dynamic from "next/dynamic";
import type { ShotLine } from "../core/doc/records.ts";
import type { ShotBundle } from "./store/shotStore.ts";

const Room = dynamic(() => import("./Room.tsx"), { ssr: false });

export function RoomLoader({ bundle, shots }: { bundle: ShotBundle; shots: ShotLine[] }) {
	return <Room bundle={bundle} shots={shots} />;
}
