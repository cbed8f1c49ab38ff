"use client";
/** The job ticket: the steps in working order, each a line that says where it stands; a click unfolds one in place. */
import { Redo2, Undo2 } from "lucide-react";
import { useRouter } from "next/navigation";
import { DropdownMenu } from "radix-ui";
import { type ReactNode, useMemo, useState } from "react";
import type { ShotLine } from "../../core/doc/records.ts";
import { OfferedColours } from "../parts/controls.tsx";
import { useMatchResult } from "../reference/MatchResult.tsx";
import type { MainAct } from "../steps/step.ts";
import { putAllDown, TICKET } from "../steps/steps.ts";
import { call } from "../store/saving.ts";
import { useShot, useShotOf, useShown } from "../store/shotStore.ts";
import { STEPS, type Step, useStudio, useStudioOf } from "../store/studio.ts";
import { undo } from "./back.ts";
import { InFrameList } from "./InFrameList.tsx";
import { keep } from "./keep.ts";

export function Ticket({ shots }: { shots: ShotLine[] }) {
	const doc = useShown();
	const { step, listOpen, set } = useStudioOf("step", "listOpen", "set");
	const { canUndo, canRedo, moveHead, notice, online, pending, say } = useShotOf(
		"canUndo",
		"canRedo",
		"moveHead",
		"notice",
		"online",
		"pending",
		"say",
	);
	const trouble = useStudio((s) => s.trouble);
	const root = useStudio((s) => s.root);
	const prints = useShot((s) => s.prints);
	const match = useMatchResult();
	const offered = useMemo(() => doc.target?.colours.map((c) => c.colour) ?? [], [doc.target]);
	return (
		<aside className="flex h-full w-[18.5rem] shrink-0 flex-col border-hair border-l bg-paper" aria-label="Job ticket">
			<header className="mx-4 flex items-baseline justify-between gap-2 border-ink border-b-2 py-3">
				<h1 className="truncate font-title text-[1.4rem] italic leading-none">{doc.title}</h1>
				<ShotMenu shots={shots} />
			</header>
			<div className="min-h-0 flex-1 overflow-y-auto px-4 pb-3">
				{!online && (
					<p role="status" className="my-2 border-madder border-l-4 py-1 pl-2 text-small">
						The server is away. {pending.length === 1 ? "One edit is" : `${pending.length} edits are`} kept here and
						sent when it is back.
					</p>
				)}
				{(notice || trouble) && (
					<p
						role="alert"
						className="my-2 flex items-start justify-between gap-2 border-madder border-l-4 py-1 pl-2 text-small"
					>
						<span>{notice ?? trouble}</span>
						<button type="button" className="underline" onClick={() => (say(null), set({ trouble: null }))}>
							Seen
						</button>
					</p>
				)}
				{STEPS.map((name) => {
					const { Body, stands } = TICKET[name];
					return (
						<section key={name} className="relative border-hair border-b">
							{step === name && <i aria-hidden className="absolute top-1 bottom-1 -left-4 w-1 bg-madder" />}
							<button
								type="button"
								aria-expanded={step === name}
								className="flex w-full items-baseline justify-between gap-3 py-[5px] text-left"
								onClick={() => {
									putAllDown();
									set({ step: step === name ? null : name });
								}}
							>
								<span className={step === name ? "font-title text-[1.3rem] leading-tight" : "font-medium"}>{name}</span>
								<span className="truncate text-second text-small">{stands({ doc, root, prints, match })}</span>
							</button>
							{step === name && (
								<div className="unfold pb-3">
									<OfferedColours.Provider value={offered}>
										<Body />
									</OfferedColours.Provider>
								</div>
							)}
						</section>
					);
				})}
				<section className="relative">
					<button
						type="button"
						aria-expanded={listOpen}
						className="flex w-full items-baseline justify-between py-[5px] text-left"
						onClick={() => set({ listOpen: !listOpen })}
					>
						<span className={listOpen ? "font-title text-[1.3rem] leading-tight" : "font-medium"}>In frame</span>
						<span className="text-second text-small">{listOpen ? "close" : "list of pieces"}</span>
					</button>
					{listOpen && <InFrameList />}
				</section>
			</div>
			<footer className="flex items-center gap-2 border-hair border-t px-4 py-3">
				<IconAct name="Undo" disabled={!canUndo && pending.length === 0} onClick={undo}>
					<Undo2 size={17} />
				</IconAct>
				<IconAct name="Redo" disabled={!canRedo} onClick={() => moveHead("redo")}>
					<Redo2 size={17} />
				</IconAct>
				<IconAct name="Contact sheet" onClick={() => set({ sheetOpen: true })}>
					<SheetPicture />
				</IconAct>
				<MainActButton key={step} step={step} />
			</footer>
		</aside>
	);
}

function IconAct({
	name,
	onClick,
	disabled,
	children,
}: {
	name: string;
	onClick: () => void;
	disabled?: boolean;
	children: ReactNode;
}) {
	return (
		<button
			type="button"
			aria-label={name}
			title={name}
			disabled={disabled}
			onClick={onClick}
			className="grid h-9 w-9 place-items-center rounded-[6px] border border-ink/45 hover:bg-hair/40"
		>
			{children}
		</button>
	);
}

const keepIt: MainAct = { word: "Keep", go: () => void keep() };
const noAct = () => null;

/** The main act of the step that is open; it is another button for another step, whose act may read other things. */
function MainActButton({ step }: { step: Step | null }) {
	const useAct = (step && TICKET[step].useAct) ?? noAct;
	const { word, go, off = false } = useAct() ?? keepIt;
	return (
		<button
			type="button"
			className="h-9 flex-1 rounded-[6px] bg-ink px-3 text-left font-medium text-paper"
			disabled={off}
			onClick={go}
		>
			{word}
		</button>
	);
}

function ShotMenu({ shots }: { shots: ShotLine[] }) {
	const router = useRouter();
	const shotId = useShot((s) => s.shotId);
	const [trouble, setTrouble] = useState<string | null>(null);
	const makeBlank = async () => {
		try {
			const shot = await call<{ id: string }>("/api/shots", { title: `Shot ${shots.length + 1}` });
			router.push(`/shot/${shot.id}`);
		} catch (error) {
			setTrouble((error as Error).message);
		}
	};
	return (
		<DropdownMenu.Root>
			<DropdownMenu.Trigger className="shrink-0 text-second text-small underline underline-offset-4">
				shots
			</DropdownMenu.Trigger>
			<DropdownMenu.Portal>
				<DropdownMenu.Content
					align="end"
					sideOffset={6}
					collisionPadding={8}
					className="z-30 flex max-h-[var(--radix-dropdown-menu-content-available-height)] min-w-56 flex-col border border-ink/45 bg-paper p-1 shadow-md"
				>
					<div className="min-h-0 overflow-y-auto">
						{shots.map((s) => (
							<DropdownMenu.Item
								key={s.id}
								onSelect={() => router.push(`/shot/${s.id}`)}
								className="cursor-pointer px-3 py-1.5 outline-none data-[highlighted]:bg-hair/60"
							>
								<span className={s.id === shotId ? "font-semibold" : ""}>{s.title}</span>
							</DropdownMenu.Item>
						))}
					</div>
					<DropdownMenu.Separator className="my-1 h-px bg-hair" />
					<DropdownMenu.Item
						onSelect={(e) => (e.preventDefault(), void makeBlank())}
						className="cursor-pointer px-3 py-1.5 outline-none data-[highlighted]:bg-hair/60"
					>
						New blank shot
					</DropdownMenu.Item>
					{trouble && <p className="px-3 py-1 text-madder text-small">{trouble}</p>}
				</DropdownMenu.Content>
			</DropdownMenu.Portal>
		</DropdownMenu.Root>
	);
}

/** The contact sheet as it is: one frame large, a strip of small ones below. */
function SheetPicture() {
	return (
		<svg viewBox="0 0 24 24" width={18} height={18} fill="none" stroke="currentColor" strokeWidth={1.7} aria-hidden>
			<path d="M3 4h18v10H3z" />
			<path d="M3 18h4v3H3zM10 18h4v3h-4zM17 18h4v3h-4z" />
		</svg>
	);
}
