"use client";
/**
 * The contact sheet: checkpoints, prints and branches that were left as thumbnails in rows; two are picked to lie side by
 * side. Whatever is returned to, undo takes the return back.
 */
import clsx from "clsx";
import { Dialog } from "radix-ui";
import { useState } from "react";
import { Act } from "../parts/controls.tsx";
import { useShotOf } from "../store/shotStore.ts";
import { useStudioOf } from "../store/studio.ts";

const ROWS = {
	Checkpoints: "None kept yet. The key K keeps the shot as it stands.",
	Prints: "No print is done yet.",
	"Left behind": null,
} as const;
type Row = keyof typeof ROWS;

interface Card {
	id: string;
	row: Row;
	name: string;
	thumbnail: string | null;
	revision: number;
	note: string;
	isPrint: boolean;
}

const when = (iso: string) =>
	new Date(iso).toLocaleString("en-GB", { day: "numeric", month: "short", hour: "2-digit", minute: "2-digit" });

/** Time of day, and the day when it is not today. */
function clock(iso: string): string {
	const at = new Date(iso);
	const today = at.toDateString() === new Date().toDateString();
	return at.toLocaleString("en-GB", {
		...(today ? {} : { day: "numeric", month: "short" }),
		hour: "2-digit",
		minute: "2-digit",
	});
}

export function ContactSheet() {
	const { sheetOpen, set } = useStudioOf("sheetOpen", "set");
	const { checkpoints, prints, history, left, revision, standsFor, moveHead } = useShotOf(
		"checkpoints",
		"prints",
		"history",
		"left",
		"revision",
		"standsFor",
		"moveHead",
	);
	const [picked, setPicked] = useState<string[]>([]);
	const cards: Card[] = [
		...checkpoints.map(
			(c): Card => ({
				id: c.id,
				row: "Checkpoints",
				name: c.name,
				thumbnail: c.thumbnail,
				revision: c.revision,
				note: when(c.createdAt),
				isPrint: false,
			}),
		),
		...prints
			.filter((p) => p.state === "done")
			.map(
				(p): Card => ({
					id: p.id,
					row: "Prints",
					name: `${p.width} × ${p.height}`,
					thumbnail: p.thumbnail,
					revision: p.revision,
					note: `${p.samples} samples, ${when(p.createdAt)}`,
					isPrint: true,
				}),
			),
		...left.map(
			(l): Card => ({
				id: `left-${l.revision}`,
				row: "Left behind",
				name: l.label,
				thumbnail: l.thumbnail,
				revision: l.revision,
				note: when(l.at),
				isPrint: false,
			}),
		),
	];
	const isNow = (at: number) => at === revision || at === standsFor;
	const pair = picked.map((id) => cards.find((c) => c.id === id)).filter((c): c is Card => !!c);
	const goTo = (card: Card) => {
		moveHead({ open: card.revision });
		set({ sheetOpen: false, print: null });
	};
	return (
		<Dialog.Root open={sheetOpen} onOpenChange={(open) => set({ sheetOpen: open })}>
			<Dialog.Portal>
				<Dialog.Content
					aria-describedby={undefined}
					className="fade fixed inset-y-0 left-0 z-20 flex flex-col overflow-y-auto bg-mat p-6"
					style={{ right: "18.5rem" }}
					data-testid="contact-sheet"
				>
					<div className="flex items-baseline justify-between border-ink border-b-2 pb-2">
						<Dialog.Title className="font-title text-[1.5rem] italic">Contact sheet</Dialog.Title>
						<Dialog.Close className="underline underline-offset-4">Close</Dialog.Close>
					</div>
					{pair.length === 2 && (
						<div className="grid grid-cols-2 gap-3 pt-4" data-testid="pair">
							{pair.map((c) => (
								<figure key={c.id}>
									<Thumb card={c} className="w-full" />
									<figcaption className="pt-1 text-small">
										{c.name}, {c.note}
									</figcaption>
								</figure>
							))}
						</div>
					)}
					{(Object.keys(ROWS) as Row[])
						.filter((row) => ROWS[row] || cards.some((c) => c.row === row))
						.map((row) => (
							<section key={row} className="pt-5" aria-label={row}>
								<h2 className="pb-2 font-title text-[1.2rem]">{row}</h2>
								{!cards.some((c) => c.row === row) && <p className="text-second">{ROWS[row]}</p>}
								<ul className="flex flex-wrap gap-4">
									{cards
										.filter((c) => c.row === row)
										.map((c) => (
											<li key={c.id} className="w-52">
												<button
													type="button"
													aria-pressed={picked.includes(c.id)}
													aria-label={`Lay ${c.name} beside another`}
													className={clsx(
														"block w-full",
														picked.includes(c.id) && "outline outline-2 outline-ink outline-offset-2",
													)}
													onClick={() =>
														setPicked((p) => (p.includes(c.id) ? p.filter((x) => x !== c.id) : [...p.slice(-1), c.id]))
													}
												>
													<Thumb card={c} className="w-full" />
												</button>
												<p className="truncate pt-1 font-medium" title={c.name}>
													{c.name}
												</p>
												<p className="text-second text-small">{c.note}</p>
												<div className="flex gap-2 pt-1">
													{isNow(c.revision) ? (
														<span className="text-second text-small">this is now</span>
													) : (
														<Act onClick={() => goTo(c)}>Return to it</Act>
													)}
													{c.isPrint && (
														<Act onClick={() => set({ print: c.id, sheetOpen: false, step: "Print" })}>Open</Act>
													)}
												</div>
											</li>
										))}
								</ul>
							</section>
						))}
					<section className="pt-5">
						<h2 className="pb-1 font-title text-[1.2rem]">Latest edits</h2>
						{history.length === 0 && <p className="text-second">This is the beginning of the shot.</p>}
						<ol className="columns-2 gap-8" data-testid="latest-edits">
							{history.slice(0, 45).map((h) => (
								<li key={h.revision} className="flex items-baseline gap-3 border-hair border-b py-[3px]">
									<span className="min-w-0 flex-1 truncate" title={h.label}>
										{h.label}
									</span>
									<time className="text-second text-small" dateTime={h.at}>
										{clock(h.at)}
									</time>
									{isNow(h.revision) ? (
										<span className="w-11 text-second text-small">now</span>
									) : (
										<button
											type="button"
											className="w-11 text-left text-small underline"
											onClick={() => moveHead({ open: h.revision })}
										>
											return
										</button>
									)}
								</li>
							))}
						</ol>
					</section>
				</Dialog.Content>
			</Dialog.Portal>
		</Dialog.Root>
	);
}

function Thumb({ card, className }: { card: Card; className: string }) {
	if (!card.thumbnail)
		return (
			<span className={clsx("grid aspect-[1.85] place-items-center bg-hair text-second text-small", className)}>
				no picture was kept
			</span>
		);
	// biome-ignore lint/performance/noImgElement: the blob is served by this application as it is
	return <img src={`/api/blobs/${card.thumbnail}`} alt={card.name} className={className} />;
}
