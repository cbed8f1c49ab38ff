"use client";
/** Room to move: what gives out first in each direction, and what mends it. */
import { roomWords } from "../../../core/study/roomToMove.ts";
import { useStudio } from "../../store/studio.ts";

export function RoomLines() {
	const rooms = useStudio((s) => s.rooms);
	const free = useStudio((s) => s.free);
	if (!rooms || free) return null;
	return (
		<section className="py-1" aria-label="Room to move" data-testid="room-to-move">
			<p className="pb-[2px] text-second text-small">
				{rooms.length ? "Room to move, before something gives out" : "Room to move: nothing gives out within reach."}
			</p>
			<dl>
				{rooms.map((room) => (
					<div key={room.way} className="border-hair border-t py-[3px] text-small">
						<dt className="font-semibold">{roomWords(room)}</dt>
						<dd>
							{room.what} <span className="text-second">({room.cure})</span>
						</dd>
					</div>
				))}
			</dl>
		</section>
	);
}
