"use client";
/** The room: frame, caption, plan and ribbon on the mat, the job ticket beside it. */
import { Dialog } from "radix-ui";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import type { ShotLine } from "../../core/doc/records.ts";
import { isLight } from "../../core/finish/layers.ts";
import { groundHeight } from "../../core/ground/height.ts";
import { cameraAxes } from "../../core/lens/camera.ts";
import { StreamEvent } from "../../wire/contracts.ts";
import { Caption } from "../frame/Caption.tsx";
import { Frame, zoomAt } from "../frame/Frame.tsx";
import { ownPosition, placesOf } from "../frame/lampGeometry.ts";
import { frameThumbnail } from "../frame/thumbnail.ts";
import { PlanOrSection } from "../plan/PlanOrSection.tsx";
import { useMatch } from "../reference/match.ts";
import { dropPictures } from "../reference/references.ts";
import { Ribbon } from "../ribbon/Ribbon.tsx";
import { CameraSheet } from "../sheet/CameraSheet.tsx";
import { ContactSheet } from "../sheet/ContactSheet.tsx";
import { PinSheet } from "../sheet/PinSheet.tsx";
import { StageClient } from "../stage/stageClient.ts";
import { duplicateLamp } from "../steps/light/LampLines.tsx";
import { duplicateSelected } from "../steps/mass/MassBody.tsx";
import { slideBy } from "../steps/mass/PieceMarks.tsx";
import { call } from "../store/saving.ts";
import { type ShotBundle, useShot, useShotOf, useShown } from "../store/shotStore.ts";
import { type FreePose, useStudio, useStudioOf } from "../store/studio.ts";
import type { ProofPicture } from "../view/finishPass.ts";
import { KEYS } from "./keys.ts";
import { Ticket } from "./Ticket.tsx";

/** Keeps the shot as it stands, with the frame as its thumbnail. */
async function keep(): Promise<void> {
	const { shotId, refresh, say, checkpoints } = useShot.getState();
	try {
		const thumbnail = await frameThumbnail();
		await call(`/api/shots/${shotId}/checkpoints`, { name: `Checkpoint ${checkpoints.length + 1}`, thumbnail });
		await refresh();
		say(`Kept as checkpoint ${checkpoints.length + 1}. It lies on the contact sheet.`);
	} catch (error) {
		say(`The checkpoint could not be kept: ${(error as Error).message}`);
	}
}

/** A hand that rests this long while it drags is shown what it has done, where that takes too long to follow it. */
const PAUSE_MS = 140;
/** So many pictures of the page have to pass as well: while the graphics are busy a hand's movements wait, too. */
const PAUSE_PICTURES = 4;

/** Calls when the page has rested. @returns What calls it off. */
function afterPause(call: () => void): () => void {
	const since = performance.now();
	let left = PAUSE_PICTURES;
	let next = requestAnimationFrame(function look() {
		left--;
		if (left <= 0 && performance.now() - since >= PAUSE_MS) return call();
		next = requestAnimationFrame(look);
	});
	return () => cancelAnimationFrame(next);
}

function useStage(): void {
	const { document: doc, preview } = useShotOf("document", "preview");
	const { frameSize, free, print, set, look, clean, zoom, warm } = useStudioOf(
		"frameSize",
		"free",
		"print",
		"set",
		"look",
		"clean",
		"zoom",
		"warm",
	);
	const stage = useRef<StageClient | null>(null);
	useEffect(() => {
		const client = new StageClient({
			scene: (root, parts, info) => {
				if (stage.current !== client) return;
				useStudio.setState({
					root,
					parts,
					sceneNumber: info.number,
					compileMs: info.compileMs,
					...(info.sameLight ? {} : { proof: null }),
					trouble: null,
				});
			},
			proof: (proof) =>
				useStudio.setState((s) => ({
					proof: proof.pixels ? proof : { ...proof, pixels: s.proof?.pixels ?? null, clean: s.proof?.clean ?? false },
				})),
			trouble: (trouble) => useStudio.setState({ trouble }),
		});
		stage.current = client;
		set({ stage: client });
		return () => {
			client.close();
			stage.current = null;
			set({ stage: null, root: null, proof: null });
		};
	}, [set]);
	useEffect(() => {
		const show = () => stage.current?.show(preview ?? doc, preview === null);
		if (!preview || !useStudio.getState().heavy) return void show();
		stage.current?.hold();
		return afterPause(show);
	}, [doc, preview]);
	useEffect(() => {
		stage.current?.setProof(warm && !free && !print && look === "surfaces", frameSize.width, frameSize.height, clean);
	}, [frameSize, free, print, look, clean, warm]);
	useEffect(() => {
		const side = 1 / zoom.k;
		stage.current?.look(zoom.k > 1 ? { x: zoom.x - side / 2, y: zoom.y - side / 2, width: side, height: side } : null);
	}, [zoom]);
}

function useEvents(): void {
	useEffect(() => {
		const stream = new EventSource("/api/events");
		let timer: ReturnType<typeof setTimeout> | null = null;
		const soon = () => {
			timer ??= setTimeout(() => {
				timer = null;
				void useShot.getState().refresh();
			}, 250);
		};
		stream.onmessage = (e) => {
			const event = StreamEvent.safeParse(JSON.parse(e.data));
			if (!event.success) return;
			const { shotId, sequence, prints } = useShot.getState();
			const { kind, id } = event.data;
			if (kind === "gap" || (kind === "shot" && id === shotId && (event.data.sequence ?? sequence + 1) > sequence))
				soon();
			if (kind === "print" && (prints.some((p) => p.id === id) || prints.length === 0)) soon();
		};
		stream.onerror = soon;
		return () => {
			stream.close();
			if (timer) clearTimeout(timer);
		};
	}, []);
}

/** The print that lies over the frame, as linear pixels. */
function usePrint(): ProofPicture | null {
	const { print, clean, layer } = useStudioOf("print", "clean", "layer");
	const [picture, setPicture] = useState<{ id: string; picture: ProofPicture } | null>(null);
	useEffect(() => {
		if (!print) return setPicture(null);
		const ending = new AbortController();
		fetch(
			`/api/prints/${print}/pixels?${layer === "picture" ? (clean ? "clean=1" : "") : `layer=${encodeURIComponent(layer)}`}`,
			{ signal: ending.signal },
		)
			.then(async (r) => {
				if (!r.ok) throw new Error((await r.json()).error.message);
				const bytes = await r.arrayBuffer();
				const [width, height, x, y, w, h, wide, high] = new Uint32Array(bytes, 0, 8);
				const part = { x: x / wide, y: y / high, width: w / wide, height: h / high };
				const ev = useShot.getState().prints.find((p) => p.id === print)?.ev100 ?? 0;
				setPicture({
					id: print,
					picture: {
						width,
						height,
						part,
						pixels: new Uint16Array(bytes, 32),
						scale: 2 ** -ev,
						share: 1,
						plain: layer !== "picture" && !isLight(layer),
					},
				});
			})
			.catch(
				(error) => ending.signal.aborted || useShot.getState().say(`The print could not be shown: ${error.message}`),
			);
		return () => ending.abort();
	}, [print, clean, layer]);
	return print && picture?.id === print ? picture.picture : null;
}

/** Metres that a step in a free view may have. */
const STRIDES_M = [0.1, 0.25, 0.5, 1, 2, 5, 10, 25, 50, 100, 250];

function useKeys(): void {
	useEffect(() => {
		const typing = (t: EventTarget | null) =>
			t instanceof HTMLElement && (t.tagName === "INPUT" || t.tagName === "TEXTAREA" || t.isContentEditable);
		const down = (e: KeyboardEvent) => {
			if (typing(e.target)) return;
			const studio = useStudio.getState();
			const shot = useShot.getState();
			const { set } = studio;
			const control = e.ctrlKey || e.metaKey;
			const key = e.key.toLowerCase();
			if (control && key === "z") {
				e.preventDefault();
				return shot.moveHead(e.shiftKey ? "redo" : "undo");
			}
			if (control && key === "y") {
				e.preventDefault();
				return shot.moveHead("redo");
			}
			if (control) return;
			if (key.startsWith("arrow") && onArrow(e)) return e.preventDefault();
			if (key === "delete") {
				if (studio.mark && studio.step === "Match") {
					shot.commit(
						studio.mark === "horizon"
							? { name: "match.setHorizon", horizon: null }
							: { name: "match.removeMark", id: studio.mark },
					);
					return set({ mark: null });
				}
				if (studio.line && studio.step === "Match") {
					shot.commit({ name: "match.removeLine", id: studio.line.id });
					return set({ line: null });
				}
				if (studio.step === "Light" && studio.lamp) {
					if (shot.commit({ name: "lamp.remove", id: studio.lamp })) set({ lamp: null });
					return;
				}
				if (studio.selected.length && shot.commit({ name: "piece.remove", ids: studio.selected }))
					set({ selected: [] });
				return;
			}
			if (key === "escape")
				return set({
					drawing: null,
					placing: null,
					placingStaff: false,
					pickingFogPiece: false,
					line: null,
					mark: null,
					tool: "line",
					proposals: null,
					selected: [],
					lamp: null,
					print: null,
				});
			if (studio.free && (key === "pageup" || key === "pagedown")) {
				e.preventDefault();
				return set({ free: stepped(studio.free, 0, 0, key === "pageup" ? 1 : -1, e.shiftKey ? 10 : 1) });
			}
			if (studio.free && (key === "," || key === ".")) {
				const at = STRIDES_M.indexOf(studio.strideM) + (key === "." ? 1 : -1);
				return set({ strideM: STRIDES_M[Math.min(STRIDES_M.length - 1, Math.max(0, at))] });
			}
			if (e.repeat) return;
			if (key === "f" && studio.free) set({ flying: !studio.flying });
			if (key === "v") set({ grey: true });
			if (key === "m") set({ mirrored: true });
			if (key === "s") set({ small: true });
			if (key === "b") set({ blinking: true });
			if (key === "p") set({ pinsOpen: !studio.pinsOpen });
			if (key === "g") shot.commit({ name: "guides.set", guides: shot.document.guides?.length ? [] : ["thirds"] });
			if (key === "w" && !studio.free) {
				const { position, headingDeg, pitchDeg } = shot.document.camera;
				set({ free: { position, headingDeg, pitchDeg }, print: null });
			}
			if (key === "l") set({ free: null, print: null, exchanged: false });
			if (key === "x") set({ exchanged: !studio.exchanged });
			if (key === "k") void keep();
			if (key === "t") set({ sheetOpen: !studio.sheetOpen });
			if (key === "y") (studio.step === "Light" && studio.lamp ? duplicateLamp : duplicateSelected)();
			if (key === "+" || key === "=") zoomAt(1.25, { x: studio.zoom.x, y: studio.zoom.y });
			if (key === "-") zoomAt(0.8, { x: studio.zoom.x, y: studio.zoom.y });
			if (key === "0") set({ zoom: { k: 1, x: 0.5, y: 0.5 } });
			if (key === "?") set({ helpOpen: !studio.helpOpen });
		};
		const up = (e: KeyboardEvent) => {
			if (e.key.toLowerCase() === "v") useStudio.setState({ grey: false });
			if (e.key.toLowerCase() === "m") useStudio.setState({ mirrored: false });
			if (e.key.toLowerCase() === "s") useStudio.setState({ small: false });
			if (e.key.toLowerCase() === "b") useStudio.setState({ blinking: false });
		};
		const left = () => useStudio.setState({ grey: false, mirrored: false, small: false, blinking: false });
		const paste = (e: ClipboardEvent) => {
			const files = [...(e.clipboardData?.files ?? [])];
			if (files.length) void dropPictures(files);
		};
		window.addEventListener("keydown", down);
		window.addEventListener("keyup", up);
		window.addEventListener("blur", left);
		window.addEventListener("paste", paste);
		return () => {
			window.removeEventListener("keydown", down);
			window.removeEventListener("keyup", up);
			window.removeEventListener("blur", left);
			window.removeEventListener("paste", paste);
		};
	}, []);
}

/** A free view some steps to the right, ahead and up: walking keeps the eyes' height over the ground, flying goes along the view. */
function stepped(free: FreePose, right: number, ahead: number, up: number, times: number): FreePose {
	const { flying, strideM } = useStudio.getState();
	const { ground } = useShot.getState().document;
	const by = strideM * times;
	const [x, y, z] = free.position;
	const { right: r, forward: f } = cameraAxes(free.headingDeg, flying ? free.pitchDeg : 0, 0);
	const to: [number, number, number] = [
		x + (right * r[0] + ahead * f[0]) * by,
		y + (ahead * f[1] + up) * by,
		z + (right * r[2] + ahead * f[2]) * by,
	];
	if (!flying) to[1] += groundHeight(ground, to[0], to[2]) - groundHeight(ground, x, z);
	return { ...free, position: to };
}

/** Arrow keys: an end of a line, the selected pieces, or a walk in the free view. */
function onArrow(e: KeyboardEvent): boolean {
	const { line, mark, step, selected, free, set } = useStudio.getState();
	const { document: doc, commit } = useShot.getState();
	const dx = e.key === "ArrowRight" ? 1 : e.key === "ArrowLeft" ? -1 : 0;
	const dy = e.key === "ArrowDown" ? 1 : e.key === "ArrowUp" ? -1 : 0;
	if (step === "Match" && line) {
		const l = doc.match.lines.find((x) => x.id === line.id);
		if (!l) return false;
		const by = e.altKey ? 0.1 : 1;
		const moved =
			line.end === 1
				? { ...l, x1: l.x1 + dx * by, y1: l.y1 + dy * by }
				: { ...l, x2: l.x2 + dx * by, y2: l.y2 + dy * by };
		return commit({ name: "match.changeLine", line: moved });
	}
	if (step === "Match" && mark && !doc.camera.locked) {
		const by2 = e.altKey ? 0.1 : 1;
		const measure = doc.match.measures?.find((m) => m.id === mark);
		const circle = doc.match.circles?.find((c) => c.id === mark);
		// Of a known size its top moves, so that its height is trimmed; a circle moves whole.
		if (measure)
			return commit({
				name: "match.putMeasure",
				measure: { ...measure, x2: measure.x2 + dx * by2, y2: measure.y2 + dy * by2 },
			});
		if (circle)
			return commit({ name: "match.putCircle", circle: { ...circle, x: circle.x + dx * by2, y: circle.y + dy * by2 } });
		const { horizon } = doc.match;
		if (mark === "horizon" && horizon)
			return commit({
				name: "match.setHorizon",
				horizon: { yLeft: horizon.yLeft + (dy + dx) * by2, yRight: horizon.yRight + (dy - dx) * by2 },
			});
	}
	const by = e.shiftKey ? 1 : 0.1;
	const heading = ((free ?? doc.camera).headingDeg * Math.PI) / 180;
	const along = (r: number, a: number) => [
		r * Math.cos(heading) + a * Math.sin(heading),
		r * Math.sin(heading) - a * Math.cos(heading),
	];
	const { lamp: lampId } = useStudio.getState();
	const lamp = step === "Light" ? doc.lamps.find((l) => l.id === lampId) : undefined;
	if (lamp) {
		const [x, z] = along(dx * by, -dy * by);
		const [px, py, pz] = placesOf(lamp, doc)[0]?.position ?? lamp.position;
		return commit({
			name: "lamp.set",
			id: lamp.id,
			change: { position: ownPosition(lamp, doc, [px + x, py, pz + z]) },
		});
	}
	if (selected.length) {
		const [x, z] = along(dx * by, -dy * by);
		return commit(
			slideBy(
				doc.pieces.filter((p) => selected.includes(p.id)),
				x,
				z,
			),
		);
	}
	if (free) {
		set({ free: stepped(free, dx, -dy, 0, e.shiftKey ? 10 : 1) });
		return true;
	}
	return false;
}

function Help() {
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
						{KEYS.map((k) => (
							<div key={k.keys} className="flex gap-3 border-hair border-b py-1">
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

export default function Room({ bundle, shots }: { bundle: ShotBundle; shots: ShotLine[] }) {
	useMemo(() => {
		useShot.getState().open(bundle);
		useStudio.setState({
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
			proof: null,
			trouble: null,
			drawing: null,
			staff: null,
			zoom: { k: 1, x: 0.5, y: 0.5 },
		});
	}, [bundle]);
	useStage();
	useEvents();
	useKeys();
	const match = useMatch();
	const print = usePrint();
	const doc = useShown();
	const { exchanged, free, flying, strideM, root, set } = useStudioOf(
		"exchanged",
		"free",
		"flying",
		"strideM",
		"root",
		"set",
	);
	const prints = useShot((s) => s.prints);
	const [room, setRoom] = useState({ width: 980, height: 800 });
	const measure = useCallback((element: HTMLDivElement | null) => {
		if (!element) return;
		const observer = new ResizeObserver(() => setRoom({ width: element.clientWidth, height: element.clientHeight }));
		observer.observe(element);
		return () => observer.disconnect();
	}, []);
	useEffect(() => {
		document.title = `${doc.title} – Inquadra`;
	}, [doc.title]);

	const stripHeight = Math.round(Math.min(220, Math.max(150, room.height * 0.22)));
	const planWidth = stripHeight;
	const stored = prints.find((p) => p.thumbnail)?.thumbnail;
	const frame = <Frame match={match} print={print} />;
	return (
		<main className="relative flex h-full w-full bg-mat">
			<div ref={measure} className="relative flex min-w-0 flex-1 flex-col">
				<div className="relative min-h-0 flex-1 px-5 pt-[22px] pb-3">
					{exchanged ? <ExchangedPlan /> : frame}
					{!root && stored && !exchanged && (
						<div
							className="pointer-events-none absolute inset-0 grid place-items-center px-5 pt-[22px] pb-3"
							data-testid="stored-print"
						>
							{/* biome-ignore lint/performance/noImgElement: the blob is served by this application as it is */}
							<img src={`/api/blobs/${stored}`} alt="The latest print" className="h-full w-full object-contain" />
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
							<PlanOrSection width={planWidth} height={stripHeight} />
						)}
					</div>
					<div className="min-w-0 flex-1 overflow-hidden border border-hair" style={{ height: stripHeight }}>
						<Ribbon width={Math.max(300, room.width - planWidth - 42)} height={stripHeight} />
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
			<Ticket match={match} shots={shots} onKeep={() => void keep()} />
			<ContactSheet />
			<PinSheet />
			<CameraSheet />
			<Help />
		</main>
	);
}

/** The plan in the frame's place. */
function ExchangedPlan() {
	const [size, setSize] = useState({ width: 900, height: 500 });
	const measure = useCallback((element: HTMLDivElement | null) => {
		if (!element) return;
		const observer = new ResizeObserver(() => setSize({ width: element.clientWidth, height: element.clientHeight }));
		observer.observe(element);
		return () => observer.disconnect();
	}, []);
	return (
		<div ref={measure} className="h-full w-full border border-hair">
			<PlanOrSection width={size.width} height={size.height} />
		</div>
	);
}
