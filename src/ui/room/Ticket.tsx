"use client";
/** The job ticket: the steps in working order, each a line that says where it stands; a click unfolds one in place. */
import { Images, Redo2, Undo2 } from "lucide-react";
import { useRouter } from "next/navigation";
import { DropdownMenu } from "radix-ui";
import { type ReactNode, useMemo, useState } from "react";
import { contrastKept, fogShape } from "../../core/air/fog.ts";
import type { ShotLine } from "../../core/doc/records.ts";
import { OfferedColours } from "../parts/controls.tsx";
import type { MatchResult } from "../reference/match.ts";
import { AirBody } from "../steps/air/AirBody.tsx";
import { BriefBody } from "../steps/brief/BriefBody.tsx";
import { DressBody } from "../steps/dress/DressBody.tsx";
import { FinishBody } from "../steps/finish/FinishBody.tsx";
import { GroundBody } from "../steps/ground/GroundBody.tsx";
import { LightBody } from "../steps/light/LightBody.tsx";
import { MassBody } from "../steps/mass/MassBody.tsx";
import { MatchBody, takeMatch } from "../steps/match/MatchBody.tsx";
import { orderPrint, PrintBody } from "../steps/print/PrintBody.tsx";
import { call } from "../store/saving.ts";
import { useShot, useShotOf, useShown } from "../store/shotStore.ts";
import { STEPS, type Step, useStudio, useStudioOf } from "../store/studio.ts";
import { InFrameList } from "./InFrameList.tsx";

/** Where each step stands, in a few words. */
function useStandings(match: MatchResult | null): Record<Step, string> {
	const doc = useShown();
	const root = useStudio((s) => s.root);
	const prints = useShot((s) => s.prints);
	const { camera, air } = doc;
	const kept = contrastKept(fogShape(air.fog), camera.position[1], camera.position[1], 1000);
	const plants = root?.covers.reduce((n, c) => n + c.count, 0) ?? 0;
	const { sun, picture } = air;
	const light = picture
		? picture.name
		: sun.elevationDeg < -0.5
			? "sun is down"
			: `sun ${sun.elevationDeg.toFixed(1)}° high`;
	const repeats = doc.pieces.reduce((n, p) => n + (p.repeat?.count ?? 1), 0);
	return {
		Brief:
			doc.references.length === 0
				? "no reference"
				: doc.references.length === 1
					? "1 reference"
					: `${doc.references.length} references`,
		Match: camera.locked
			? `${camera.focalMm.toFixed(0)} mm, locked`
			: match?.ok
				? `${match.solution.focalMm.toFixed(1)} mm, not taken`
				: doc.match.lines.length
					? "not determined"
					: `${camera.focalMm.toFixed(0)} mm, free`,
		Mass:
			repeats === doc.pieces.length
				? `${doc.pieces.length} pieces`
				: `${doc.pieces.length} pieces, ${repeats} with repeats`,
		Ground: doc.water.on ? `${doc.ground.preset}, water` : doc.ground.preset,
		Dress: doc.covers.length ? `${plants.toLocaleString("en")} plants` : "bare",
		Air: air.fog.on ? `${Math.round(kept * 100)} % kept at 1 km` : "no fog",
		Light: [light, ...(doc.lamps.length ? [doc.lamps.length === 1 ? "1 lamp" : `${doc.lamps.length} lamps`] : [])].join(
			", ",
		),
		Finish: `${doc.finish.curve} curve${doc.finish.exposureEv ? `, ${doc.finish.exposureEv > 0 ? "+" : ""}${doc.finish.exposureEv.toFixed(1)} EV` : ""}`,
		Print: prints.some((p) => p.state === "tracing" || p.state === "queued")
			? "printing"
			: prints.length === 1
				? "1 print"
				: `${prints.length} prints`,
	};
}

export function Ticket({ match, shots, onKeep }: { match: MatchResult | null; shots: ShotLine[]; onKeep: () => void }) {
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
	const standings = useStandings(match);
	const offered = useMemo(() => doc.target?.colours.map((c) => c.colour) ?? [], [doc.target]);
	const bodies: Record<Step, ReactNode> = {
		Brief: <BriefBody />,
		Match: <MatchBody match={match} />,
		Mass: <MassBody />,
		Ground: <GroundBody />,
		Dress: <DressBody />,
		Air: <AirBody />,
		Light: <LightBody />,
		Finish: <FinishBody />,
		Print: <PrintBody />,
	};
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
				{STEPS.map((name) => (
					<section key={name} className="relative border-hair border-b">
						{step === name && <i aria-hidden className="absolute top-1 bottom-1 -left-4 w-1 bg-madder" />}
						<button
							type="button"
							aria-expanded={step === name}
							className="flex w-full items-baseline justify-between gap-3 py-[5px] text-left"
							onClick={() =>
								set({ step: step === name ? null : name, drawing: null, placing: null, placingStaff: false })
							}
						>
							<span className={step === name ? "font-title text-[1.3rem] leading-tight" : "font-medium"}>{name}</span>
							<span className="truncate text-second text-small">{standings[name]}</span>
						</button>
						{step === name && (
							<div className="unfold pb-3">
								<OfferedColours.Provider value={offered}>{bodies[name]}</OfferedColours.Provider>
							</div>
						)}
					</section>
				))}
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
				<IconAct name="Undo" disabled={!canUndo && pending.length === 0} onClick={() => moveHead("undo")}>
					<Undo2 size={17} />
				</IconAct>
				<IconAct name="Redo" disabled={!canRedo} onClick={() => moveHead("redo")}>
					<Redo2 size={17} />
				</IconAct>
				<IconAct name="Contact sheet" onClick={() => set({ sheetOpen: true })}>
					<Images size={17} />
				</IconAct>
				<MainAct match={match} onKeep={onKeep} />
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

/** The main act of the step that is open. */
function MainAct({ match, onKeep }: { match: MatchResult | null; onKeep: () => void }) {
	const { step, drawing, placing, set } = useStudioOf("step", "drawing", "placing", "set");
	const doc = useShown();
	const act = (() => {
		if (step === "Match" && !doc.camera.locked)
			return { word: "Take and lock", go: () => takeMatch(match), off: !match?.ok };
		if (step === "Mass")
			return {
				word: drawing ? `Drawing a ${drawing}` : "Draw a box",
				go: () => set({ drawing: drawing ? null : "box" }),
			};
		if (step === "Light")
			return {
				word: placing ? `Placing a ${placing}` : "Place a lamp",
				go: () => set({ placing: placing ? null : "sphere" }),
			};
		if (step === "Print") return { word: "Print", go: () => void orderPrint() };
		return { word: "Keep", go: onKeep };
	})();
	return (
		<button
			type="button"
			className="h-9 flex-1 rounded-[6px] bg-ink px-3 text-left font-medium text-paper"
			disabled={"off" in act ? act.off : false}
			onClick={act.go}
		>
			{act.word}
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
					className="z-30 min-w-56 border border-ink/45 bg-paper p-1 shadow-md"
				>
					{shots.map((s) => (
						<DropdownMenu.Item
							key={s.id}
							onSelect={() => router.push(`/shot/${s.id}`)}
							className="cursor-pointer px-3 py-1.5 outline-none data-[highlighted]:bg-hair/60"
						>
							<span className={s.id === shotId ? "font-semibold" : ""}>{s.title}</span>
						</DropdownMenu.Item>
					))}
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
