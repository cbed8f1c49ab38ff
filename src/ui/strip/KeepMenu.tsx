"use client";
/** Keeps values at this moment: the camera as it is seen now, or one value alone. */
import { Popover } from "radix-ui";
import { useState } from "react";
import { useShot, useShown } from "../store/shotStore.ts";
import { useStudioOf } from "../store/studio.ts";
import { type Keepable, keepables, keysOf, SEEING } from "./keepable.ts";

/** Keeps what a view shows of the camera: where it stands, where it looks, and how long its lens is. */
export function keepCamera(all: readonly Keepable[], timeS: number): boolean {
	const kept = all.filter((k) => SEEING.includes(k.value));
	return useShot.getState().commit({ name: "move.key", keys: keysOf(kept, timeS) });
}

export function KeepMenu({ timeS }: { timeS: number }) {
	const doc = useShown();
	const { free, selected, lamp, set } = useStudioOf("free", "selected", "lamp", "set");
	const [open, setOpen] = useState(false);
	const all = keepables(doc, { free, selected, lamp });
	const { commit } = useShot.getState();
	const keep = (one: Keepable) => commit({ name: "move.key", keys: keysOf([one], timeS) });
	return (
		<span className="flex items-baseline gap-2">
			<button
				type="button"
				className="bg-ink px-2 py-[1px] text-paper text-small"
				onClick={() => {
					// The lens now stands where the walk has led.
					if (keepCamera(all, timeS)) set({ free: null });
				}}
			>
				{free ? "Keep this view here" : "Keep the camera here"}
			</button>
			<Popover.Root open={open} onOpenChange={setOpen}>
				<Popover.Trigger className="text-small underline underline-offset-4">one value</Popover.Trigger>
				<Popover.Portal>
					<Popover.Content
						side="top"
						sideOffset={8}
						className="fade z-30 max-h-[26rem] w-72 overflow-y-auto border border-ink/45 bg-paper p-3 shadow-md"
						aria-label="Values that can be kept here"
					>
						<p className="pb-1 text-second text-small">
							Kept at this moment as it is now. Select a piece or a lamp to see what can be kept of it.
						</p>
						<ul>
							{all.map((one) => (
								<li key={`${one.value} ${one.of ?? ""}`}>
									<button
										type="button"
										className="flex w-full items-baseline justify-between gap-2 py-[2px] text-left hover:underline"
										onClick={() => keep(one)}
									>
										{one.words}
										{one.keyed && <span className="text-second text-small">keyed</span>}
									</button>
								</li>
							))}
						</ul>
					</Popover.Content>
				</Popover.Portal>
			</Popover.Root>
		</span>
	);
}
