"use client";
import { Dialog } from "radix-ui";
import { useStudioOf } from "../store/studio.ts";
import { SHOWN_KEYS } from "./keys.ts";

/** The keys. */
export function Help() {
	const { helpOpen, set } = useStudioOf("helpOpen", "set");
	return (
		<Dialog.Root open={helpOpen} onOpenChange={(open) => set({ helpOpen: open })}>
			<Dialog.Portal>
				<Dialog.Content
					aria-describedby={undefined}
					className="fade fixed right-0 bottom-0 z-30 max-h-full w-[18.5rem] overflow-y-auto border-ink border-t-2 border-l border-l-hair bg-paper p-4"
				>
					<div className="flex items-baseline justify-between">
						<Dialog.Title className="font-title text-[1.3rem] italic">Keys</Dialog.Title>
						<Dialog.Close className="underline underline-offset-4">Close</Dialog.Close>
					</div>
					<dl className="pt-2">
						{SHOWN_KEYS.map((k) => (
							<div key={`${k.keys} ${k.does}`} className="flex gap-3 border-hair border-b py-1">
								<dt className="w-24 shrink-0 font-semibold">{k.keys}</dt>
								<dd className="text-small">{k.does}</dd>
							</div>
						))}
					</dl>
				</Dialog.Content>
			</Dialog.Portal>
		</Dialog.Root>
	);
}
