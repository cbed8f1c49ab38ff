"use client";
/** The room: frame, caption, plan and ribbon on the mat, the job ticket beside it. */
import { useEffect } from "react";
import type { ShotLine } from "../../core/doc/records.ts";
import { LAST_SHOT } from "../../wire/contracts.ts";
import { Caption } from "../frame/Caption.tsx";
import { Frame } from "../frame/Frame.tsx";
import { Waiting } from "../frame/Waiting.tsx";
import { useMeasured } from "../parts/useMeasured.ts";
import { PlanOrSection } from "../plan/PlanOrSection.tsx";
import { MatchResultProvider } from "../reference/MatchResult.tsx";
import { Ribbon } from "../ribbon/Ribbon.tsx";
import { CameraSheet } from "../sheet/CameraSheet.tsx";
import { ContactSheet } from "../sheet/ContactSheet.tsx";
import { PinSheet } from "../sheet/PinSheet.tsx";
import { type ShotBundle, useShot } from "../store/shotStore.ts";
import { useStudio, useStudioOf } from "../store/studio.ts";
import { TimeStrip } from "../strip/TimeStrip.tsx";
import { Help } from "./Help.tsx";
import { hands, MarksFromAbove, pressFromAbove } from "./hands.tsx";
import { Ticket } from "./Ticket.tsx";
import { useEvents } from "./useEvents.ts";
import { useKeys } from "./useKeys.ts";
import { usePrint } from "./usePrint.ts";
import { useStage } from "./useStage.ts";

/** Nothing in hand, nothing looked at, nothing drawn: how a shot is opened. */
const FRESH = {
	selected: [],
	lamp: null,
	placing: null,
	cover: null,
	line: null,
	mark: null,
	proposals: null,
	free: null,
	print: null,
	root: null,
	drawn: false,
	shares: new Map(),
	rooms: null,
	proof: null,
	wearing: null,
	trouble: null,
	drawing: null,
	staff: null,
	playing: null,
	smallFrames: new Map(),
	zoom: { k: 1, x: 0.5, y: 0.5 },
};

export default function Room({ bundle, shots }: { bundle: ShotBundle; shots: ShotLine[] }) {
	const open = useShot((s) => s.shotId);
	useEffect(() => {
		useShot.getState().open(bundle);
		useStudio.setState(FRESH);
		// The first address leads here again.
		// biome-ignore lint/suspicious/noDocumentCookie: the cookie store is not in all browsers
		document.cookie = `${LAST_SHOT}=${bundle.state.id}; path=/; max-age=31536000; samesite=strict`;
	}, [bundle]);
	// Nothing of the room can be drawn before the shot stands in its store.
	return open === bundle.state.id ? (
		<MatchResultProvider>
			<Opened shots={shots} />
		</MatchResultProvider>
	) : null;
}

function Opened({ shots }: { shots: ShotLine[] }) {
	useStage();
	useEvents();
	useKeys();
	const print = usePrint();
	const title = useShot((s) => (s.preview ?? s.document).title);
	const camera = useShot((s) => s.document.camera);
	const { exchanged, free, flying, strideM, root, drawn, set } = useStudioOf(
		"exchanged",
		"free",
		"flying",
		"strideM",
		"root",
		"drawn",
		"set",
	);
	const prints = useShot((s) => s.prints);
	const moving = useShot((s) => s.timeS !== null);
	const [room, measure] = useMeasured({ width: 980, height: 800 });
	useEffect(() => {
		document.title = `${title} – Inquadra`;
	}, [title]);

	const stripHeight = Math.round(Math.min(220, Math.max(150, room.height * 0.22)));
	const planWidth = stripHeight;
	const stored = prints.find((p) => p.thumbnail)?.thumbnail;
	const frame = <Frame print={print} hands={hands} />;
	return (
		<main className="relative flex h-full w-full bg-mat">
			<div ref={measure} className="relative flex min-w-0 flex-1 flex-col">
				<div className="relative min-h-0 flex-1 px-5 pt-[22px] pb-3">
					{exchanged ? <ExchangedPlan /> : frame}
					{!drawn && !exchanged && (
						<div
							className="pointer-events-none absolute inset-0 grid place-items-center px-5 pt-[22px] pb-3"
							data-testid="stored-print"
						>
							<Waiting
								camera={camera}
								print={stored}
								says={root ? "The frame is being drawn" : "The set is being put together"}
							/>
						</div>
					)}
				</div>
				<Caption />
				{free && (
					<p className="absolute top-8 left-8 z-10 bg-ink px-2 py-1 text-paper text-small">
						{flying ? "Flying" : "Walking"} in steps of {strideM} m: arrows, Page up and down; , and . for the step, F
						to {flying ? "walk" : "fly"}. Drag to look, click the ground to go there.{" "}
						<button type="button" className="underline" onClick={() => set({ free: null })}>
							Back at the lens (L)
						</button>
					</p>
				)}
				<div className="flex gap-3 px-[14px] pt-3 pb-[14px]" style={{ height: stripHeight + 26 }}>
					<div className="overflow-hidden border border-hair" style={{ width: planWidth, height: stripHeight }}>
						{exchanged ? (
							<div className="h-full w-full">{frame}</div>
						) : (
							<PlanOrSection width={planWidth} height={stripHeight} press={pressFromAbove} Marks={MarksFromAbove} />
						)}
					</div>
					<div className="min-w-0 flex-1 overflow-hidden border border-hair" style={{ height: stripHeight }}>
						{moving ? (
							<TimeStrip width={Math.max(300, room.width - planWidth - 42)} height={stripHeight} />
						) : (
							<Ribbon width={Math.max(300, room.width - planWidth - 42)} height={stripHeight} />
						)}
					</div>
				</div>
				<button
					type="button"
					aria-label="Keys"
					className="absolute right-1 bottom-0 text-second text-small underline"
					onClick={() => set({ helpOpen: true })}
				>
					keys
				</button>
			</div>
			<Ticket shots={shots} />
			<ContactSheet />
			<PinSheet />
			<CameraSheet />
			<Help />
		</main>
	);
}

/** The plan in the frame's place. */
function ExchangedPlan() {
	const [size, measure] = useMeasured({ width: 900, height: 500 });
	return (
		<div ref={measure} className="h-full w-full border border-hair">
			<PlanOrSection width={size.width} height={size.height} press={pressFromAbove} Marks={MarksFromAbove} />
		</div>
	);
}
