"use client";
/** What the move does to the picture, row by row; each leads to the frame that shows it. */
import { Popover } from "radix-ui";
import { useMemo, useState } from "react";
import type { Move } from "../../core/doc/schema.ts";
import { type MoveRow, moveTable } from "../../core/study/moveTable.ts";
import { timeOfFrame } from "../../core/time/frames.ts";
import { metres } from "../parts/words.ts";
import { useShotOf } from "../store/shotStore.ts";
import { useStudioOf } from "../store/studio.ts";
import { openAt } from "./player.ts";

const px = (v: number) => (v < 10 ? v.toFixed(1) : Math.round(v).toLocaleString("en"));

/** A row in words: what it is, its figures, what they mean for the picture. */
export function rowWords(row: MoveRow): { name: string; says: string; warns?: string } {
	switch (row.what) {
		case "fastest":
			return {
				name: `fastest: ${row.name ?? "ground or sky"}`,
				says: `${px(row.stepPx ?? 0)} px from frame to frame`,
				...(row.strobes && { warns: "It will strobe: open the shutter, or let the move take longer." }),
			};
		case "focus": {
			const [first, last] = row.focusM ?? [0, 0];
			const way =
				Math.abs(last / first - 1) < 0.01 ? `at ${metres(first)}` : `from ${metres(first)} to ${metres(last)}`;
			return { name: "focus", says: `${way}, sharp from ${metres(row.sharpFromM ?? 0)}` };
		}
		case "hole":
			return {
				name: "past the end of the ground",
				says: `${(row.percent ?? 0).toFixed(1)} % of the frame at most`,
				warns: `Seen in ${row.frames} of the frames looked at: put something there, or let the lens look elsewhere.`,
			};
		case "sky":
			return {
				name: "past the edge of the sky picture",
				says: `${(row.percent ?? 0).toFixed(1)} % of the frame at most`,
				warns: `Seen in ${row.frames} of the frames looked at: hang one that shows more, or let the lens look lower.`,
			};
		default:
			return {
				name: row.what,
				says: `${px(row.pxPerS ?? 0)} px a second at most, ${px(row.acrossPx ?? 0)} px across the move`,
			};
	}
}

export function MoveTable({ move }: { move: Move }) {
	const { whole } = useShotOf("whole");
	const { smallFrames, smallWanted, set } = useStudioOf("smallFrames", "smallWanted", "set");
	const [open, setOpen] = useState(false);
	const { widthPx } = whole.print;
	const rows = useMemo(
		() =>
			open
				? moveTable(
						whole,
						[...smallFrames.values()].map((s) => s.probe),
						widthPx,
					)
				: [],
		[open, whole, smallFrames, widthPx],
	);
	return (
		<Popover.Root open={open} onOpenChange={setOpen}>
			<Popover.Trigger className="text-small underline underline-offset-4">what it does</Popover.Trigger>
			<Popover.Portal>
				<Popover.Content
					side="top"
					sideOffset={8}
					className="fade z-30 w-[25rem] border border-ink/45 bg-paper p-3 shadow-md"
					aria-label="What the move does to the picture"
					data-testid="move-table"
				>
					<p className="pb-1 text-second text-small">
						In a picture {widthPx.toLocaleString("en")} px wide
						{smallFrames.size < smallWanted
							? `, by ${smallFrames.size} of ${smallWanted} frames so far.`
							: `, by ${smallWanted} of ${move.frames} frames.`}
					</p>
					{rows.length === 0 && <p>Nothing is known yet: the small frames are being traced.</p>}
					<ul>
						{rows.map((row) => {
							const { name, says, warns } = rowWords(row);
							return (
								<li key={row.what} className="border-hair border-t py-1">
									<div className="flex items-baseline justify-between gap-2">
										<b className="font-semibold">{name}</b>
										<button
											type="button"
											className="whitespace-nowrap text-small underline underline-offset-4"
											onClick={() => {
												set({ print: null });
												openAt(row.frame);
											}}
										>
											frame {row.frame}, {timeOfFrame(row.frame, move.rate).toFixed(2)} s
										</button>
									</div>
									<p className="text-small">{says}</p>
									{warns && <p className="text-madder text-small">{warns}</p>}
								</li>
							);
						})}
					</ul>
				</Popover.Content>
			</Popover.Portal>
		</Popover.Root>
	);
}
