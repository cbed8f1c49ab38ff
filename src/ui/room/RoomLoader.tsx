"use client";
/** Brings the room in on the page alone; until it stands, the latest print hangs there, or a sketch of the frame. */
import dynamic from "next/dynamic";
import type { ShotLine } from "../../core/doc/records.ts";
import { Waiting } from "../frame/Waiting.tsx";
import type { ShotBundle } from "../store/shotStore.ts";

const Room = dynamic(() => import("./Room.tsx"), { ssr: false });

export function RoomLoader({ bundle, shots }: { bundle: ShotBundle; shots: ShotLine[] }) {
	const stored = bundle.prints.find((p) => p.thumbnail)?.thumbnail;
	return (
		<>
			<div
				className="fixed inset-y-0 left-0 grid place-items-center px-5 pt-[22px] pb-60"
				style={{ right: "18.5rem" }}
				aria-hidden
			>
				<Waiting camera={bundle.state.document.camera} print={stored} says="The room is being made ready" />
			</div>
			<Room bundle={bundle} shots={shots} />
		</>
	);
}
