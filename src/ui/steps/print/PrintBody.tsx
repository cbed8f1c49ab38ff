"use client";
/** Print: the order, what is under way with its time left, and the prints made. */
import { useEffect, useState } from "react";
import { type PrintLine, VIDEO_KINDS, VIDEOS, type VideoKind } from "../../../core/doc/records.ts";
import type { Finish, FramePart, Move } from "../../../core/doc/schema.ts";
import { frameHeight } from "../../../core/lens/camera.ts";
import { isStretched, tracedArea } from "../../../core/lens/character.ts";
import { fittedPart, partInPixels } from "../../../core/scene/part.ts";
import { blockEndFrom, framesBytes } from "../../../core/scene/picture.ts";
import { foretell, PILOT_SAMPLES, type Pilot, rateOf } from "../../../core/scene/pilot.ts";
import { lookAt } from "../../../core/scene/spread.ts";
import { frameAt, parseFrames, rangeOf } from "../../../core/time/frames.ts";
import { NumberLine, YesNo } from "../../parts/controls.tsx";
import { clock } from "../../parts/words.ts";
import { call } from "../../store/saving.ts";
import { useShot, useShotOf, useShown } from "../../store/shotStore.ts";
import { useStudio, useStudioOf } from "../../store/studio.ts";
import { Deliveries } from "./Deliveries.tsx";
import { readyBy } from "./foretell.ts";
import { SetLines } from "./SetLines.tsx";

/** Rest of the hands after which a pilot is traced. */
const PILOT_AFTER_MS = 1200;

/** Orders a print of the shot as it stands. */
export async function orderPrint(): Promise<void> {
	const { shotId, document, timeS, refreshPrints, say } = useShot.getState();
	// The server prints what it has: edits on their way go first.
	while (useShot.getState().pending.length && useShot.getState().online) await new Promise((r) => setTimeout(r, 40));
	try {
		const { print, move } = document;
		await call(`/api/shots/${shotId}/prints`, move ? { ...print, timeS } : { ...print, frames: null });
		await refreshPrints();
	} catch (error) {
		say((error as Error).message);
	}
}

export function PrintBody() {
	const { print, move } = useShown();
	const { prints, commit } = useShotOf("prints", "commit");
	const rate = useRate();
	const unknown = useStudio((s) => s.root?.unknownSurfaces);
	return (
		<div>
			{unknown && (
				<p role="status" className="py-1 text-small">
					{`Not known any more, so that nothing lies where it was laid: ${unknown.join(", ")}.`}
				</p>
			)}
			{move && <Which move={move} />}
			<NumberLine
				label="Width"
				value={print.widthPx}
				unit="px"
				min={16}
				max={16384}
				step={16}
				digits={0}
				onCommit={(v) => commit({ name: "print.set", widthPx: Math.round(v) })}
			/>
			<NumberLine
				label="Samples"
				value={print.samples}
				min={4}
				max={65536}
				step={print.samples < 16 ? 4 : 16}
				digits={0}
				onCommit={(v) => commit({ name: "print.set", samples: blockEndFrom(Math.round(v)) })}
			/>
			<NumberLine
				label="Stops at noise"
				value={print.noisePercent ?? 0}
				unit="%"
				min={0}
				max={50}
				step={0.5}
				digits={1}
				onCommit={(v) => commit({ name: "print.set", noisePercent: v < 0.1 ? null : v })}
			/>
			<p className="text-second text-small">
				{print.noisePercent
					? "Calm parts of the picture stop early; none takes more than the samples above."
					: "At 0 all samples are taken."}
			</p>
			{!print.noisePercent && (
				<>
					<YesNo
						label="Samples go"
						value={print.spread === "noise"}
						yes="where noise is"
						no="everywhere alike"
						onPick={(noisy) => commit({ name: "print.set", spread: noisy ? "noise" : "even" })}
					/>
					{print.spread === "noise" && lookAt(print.samples) === null && (
						<p className="text-second text-small">So few tell nothing of the noise: 8 are the least.</p>
					)}
				</>
			)}
			<NumberLine
				label="Seed"
				value={print.seed}
				min={0}
				max={99999}
				step={1}
				digits={0}
				onCommit={(v) => commit({ name: "print.set", seed: Math.round(v) })}
			/>
			<NumberLine
				label="Overscan"
				value={(print.overscan ?? 0) * 100}
				unit="%"
				min={0}
				max={25}
				step={1}
				digits={1}
				note={print.overscan ? "on each side, in the EXR" : undefined}
				onCommit={(v) => commit({ name: "print.set", overscan: v / 100 })}
			/>
			<YesNo
				label="Printed"
				value={!!print.part}
				yes="a part of the frame"
				no="the whole frame"
				onPick={(part) =>
					commit({ name: "print.set", part: part ? { x: 0.3, y: 0.3, width: 0.4, height: 0.4 } : null })
				}
			/>
			{print.part && <PartLines part={print.part} />}
			<YesNo
				label="Lights, fog and openness by themselves"
				value={print.layers ?? false}
				yes="as layers"
				no="no"
				onPick={(layers) => commit({ name: "print.set", layers })}
			/>
			<Foretold />
			<Deliveries />
			{prints.length === 0 && (
				<p className="pt-2 text-second text-small">
					No print yet. A print is traced by a worker of its own; this page may be closed meanwhile.
				</p>
			)}
			<ul className="pt-2">
				{prints.map((p) => (
					<PrintRow key={p.id} print={p} rate={rate} />
				))}
			</ul>
			<SetLines />
		</div>
	);
}

/** How many frames a text names; 1 for the still, 0 when it names none that there are. */
function countOf(frames: string | null | undefined, move: Move): number {
	if (!frames) return 1;
	try {
		return parseFrames(frames, move.frames).length;
	} catch {
		return 0;
	}
}

/** What of a move is printed: the still, or the moment in hand, or its frames. */
function Which({ move }: { move: Move }) {
	const { print } = useShown();
	const { timeS, commit } = useShotOf("timeS", "commit");
	const range = rangeOf(move);
	const [trouble, setTrouble] = useState<string | null>(null);
	const take = (text: string) => {
		try {
			parseFrames(text, move.frames);
			setTrouble(null);
			commit({ name: "print.set", frames: text.trim() });
		} catch (error) {
			setTrouble((error as Error).message);
		}
	};
	const still = timeS === null ? "the still" : `frame ${frameAt(timeS, move.rate)} alone`;
	return (
		<>
			<YesNo
				label="Printed of the move"
				value={!!print.frames}
				yes="frames"
				no={still}
				onPick={(frames) => commit({ name: "print.set", frames: frames ? `${range.from}-${range.to}` : null })}
			/>
			{print.frames && (
				<>
					<label className="flex items-baseline justify-between gap-2 py-[3px]">
						<span className="text-second text-small">Frames</span>
						<input
							key={print.frames}
							className="w-full max-w-[9rem] border-hair border-b bg-transparent text-right font-semibold focus:border-ink"
							defaultValue={print.frames}
							aria-invalid={trouble ? true : undefined}
							onKeyDown={(e) => {
								e.stopPropagation();
								if (e.key === "Enter") e.currentTarget.blur();
							}}
							onBlur={(e) => e.target.value !== print.frames && take(e.target.value)}
						/>
					</label>
					<p
						role={trouble ? "alert" : undefined}
						className={trouble ? "text-madder text-small" : "text-second text-small"}
					>
						{trouble ??
							`${countOf(print.frames, move)} frames of ${move.frames}. 0-95:4 is every fourth; 3, 17, 40-44 are these alone.`}
					</p>
				</>
			)}
		</>
	);
}

/** A part of the frame by numbers, for those who do not drag it. */
function PartLines({ part }: { part: FramePart }) {
	const { commit } = useShot.getState();
	const line = (label: string, value: number, make: (v: number) => FramePart) => (
		<NumberLine
			label={label}
			value={value * 100}
			unit="%"
			min={0}
			max={100}
			step={1}
			digits={1}
			onCommit={(v) => {
				const p = make(v / 100);
				commit({ name: "print.set", part: fittedPart(p.x, p.y, p.x + p.width, p.y + p.height) });
			}}
		/>
	);
	return (
		<>
			<p className="text-second text-small">Drag its edge or its corners in the frame.</p>
			<div className="grid grid-cols-2 gap-x-3">
				{line("From left", part.x, (x) => ({ ...part, x: Math.min(x, 1 - part.width) }))}
				{line("From top", part.y, (y) => ({ ...part, y: Math.min(y, 1 - part.height) }))}
				{line("Across", part.width, (width) => ({ ...part, width: Math.min(width, 1 - part.x) }))}
				{line("Down", part.height, (height) => ({ ...part, height: Math.min(height, 1 - part.y) }))}
			</div>
		</>
	);
}

/** Samples of a pixel that this machine traces in a second: as its last print has measured, or as the proof does. */
function useRate(): number | null {
	const { prints } = useShotOf("prints");
	const proof = useStudio((s) => s.proof);
	const last = prints.find((p) => p.state === "done" && p.seconds && p.rays > 0 && p.noisePercent === null);
	if (proof?.samplesPerSecond) return proof.samplesPerSecond;
	const pixels = last ? last.area.width * last.area.height : 0;
	return last?.seconds ? (pixels * last.samples) / last.seconds : null;
}

/** What of a finish asks for other pixels. */
const displaced = ({ lens }: Finish) => (lens ? [lens.bend, lens.fringe] : null);

/** A pilot of the order as it stands, once hands have rested. Null while there is none. */
function usePilot(): Pilot | null {
	const { shotId, document, pending, prints } = useShotOf("shotId", "document", "pending", "prints");
	const [measured, setMeasured] = useState<{ of: string; pilot: Pilot | null } | null>(null);
	const { samples: _s, noisePercent: _n, layers: _l, ...size } = document.print;
	const busy = prints.some((p) => p.state === "queued" || p.state === "tracing" || p.state === "assembling");
	// Time depends on the whole shot but its samples; finish and title do not count.
	const of = JSON.stringify([{ ...document, finish: displaced(document.finish), title: "", print: size }]);
	const saved = pending.length === 0;
	useEffect(() => {
		if (!saved || busy) return;
		let here = true;
		const timer = setTimeout(() => {
			call<{ pilot: Pilot | null }>(`/api/shots/${shotId}/pilot`, useShot.getState().document.print).then(
				({ pilot }) => here && setMeasured({ of, pilot }),
				() => {},
			);
		}, PILOT_AFTER_MS);
		return () => {
			here = false;
			clearTimeout(timer);
		};
	}, [shotId, of, saved, busy]);
	return measured?.of === of ? measured.pilot : null;
}

/** How long the print in the fields above would take, before it is ordered. */
function Foretold() {
	const { print, camera, move, finish } = useShown();
	const rate = useRate();
	const proof = useStudio((s) => s.proof);
	const pilot = usePilot();
	const seen = proof?.samples && proof.noise ? { samples: proof.samples, noises: [proof.noise] } : null;
	const frames = move ? countOf(print.frames, move) : 1;
	const size = { width: print.widthPx, height: frameHeight(camera, print.widthPx) };
	const area = tracedArea(partInPixels(print.part, size.width, size.height), size, finish, print.overscan);
	const pixels = area.width * area.height;
	if (frames === 0) return null;
	if (!pilot && !rate) return null;
	const one = pilot
		? foretell(print, pixels, rateOf(pilot), { samples: PILOT_SAMPLES, noises: pilot.noises, fall: pilot.fall })
		: foretell(print, pixels, rate as number, seen);
	const [likely, most] = [one.likely * frames, one.most * frames];
	const gigabytes = framesBytes(pixels, frames) / 1e9;
	return (
		<p className="pt-1 text-second text-small" data-testid="foretold">
			{likely < 0.9 * most ? `About ${clock(likely)} here, at most ${clock(most)}` : `About ${clock(most)} here`}
			{pilot ? ", measured by a pilot." : ", by the proof's pace."}
			{frames > 1 &&
				` ${frames} frames, some ${gigabytes < 1 ? "1 GB at most" : `${Math.ceil(gigabytes)} GB`} on the disk.`}
		</p>
	);
}

/** Further files of an open print: EXR as others want it, depth as grey. */
function Files({ id }: { id: string }) {
	const [half, setHalf] = useState(true);
	const [places, setPlaces] = useState(false);
	const [near, setNear] = useState(1);
	const [far, setFar] = useState(200);
	return (
		<div>
			<YesNo label="Light and colour as" value={half} yes="half floats" no="floats" onPick={setHalf} />
			<YesNo label="Places and facing" value={places} yes="with them" no="without" onPick={setPlaces} />
			<a
				className="text-small underline"
				href={`/api/prints/${id}/exr?half=${half ? 1 : 0}&places=${places ? 1 : 0}`}
				download
			>
				EXR made so
			</a>
			<div className="grid grid-cols-2 gap-x-3">
				<NumberLine
					label="White at"
					value={near}
					unit="m"
					min={0}
					max={far - 0.1}
					step={0.5}
					digits={1}
					onCommit={setNear}
				/>
				<NumberLine
					label="Black at"
					value={far}
					unit="m"
					min={near + 0.1}
					max={1e6}
					step={10}
					digits={1}
					onCommit={setFar}
				/>
			</div>
			<a className="text-small underline" href={`/api/prints/${id}/depth?near=${near}&far=${far}`} download>
				Depth as grey PNG, 16 bits
			</a>
		</div>
	);
}

/** Layers that an open print can be shown as. */
function useLayers(id: string, isOpen: boolean): string[] {
	const [layers, setLayers] = useState(["picture"]);
	useEffect(() => {
		if (!isOpen) return;
		let here = true;
		call<{ layers: string[] }>(`/api/prints/${id}/layers`).then(
			(r) => here && setLayers(r.layers),
			() => {},
		);
		return () => {
			here = false;
		};
	}, [id, isOpen]);
	return layers;
}

/** How many frames have their neighbours taken in so far; nothing once all have. */
function Steadied({ steadied = [], done = 0, frames = 0 }: Partial<NonNullable<PrintLine["sequence"]>>) {
	if (frames < 2 || steadied.length === frames) return null;
	return (
		<p className="text-second">
			so far {steadied.length} of {done} frames that are done
		</p>
	);
}

/** What can be had of printed frames: a video with the present finish, or all of them in one archive. */
function Sequence({ print }: { print: PrintLine }) {
	const { clean, steady, set } = useStudioOf("clean", "steady", "set");
	const { refreshPrints, say } = useShot.getState();
	const act = async (does: Promise<unknown>) => {
		try {
			await does;
			await refreshPrints();
		} catch (error) {
			say((error as Error).message);
		}
	};
	const address = `/api/prints/${print.id}/video`;
	const make = (kind: VideoKind) => act(call(address, { kind, clean, steady }));
	return (
		<div className="flex flex-wrap gap-x-3 pt-1 text-small" data-testid="sequence">
			{clean && (
				<div className="basis-full">
					<YesNo
						label="Noise that is left"
						value={steady}
						yes="steadied by its neighbours"
						no="each frame by itself"
						onPick={(on) => set({ steady: on })}
					/>
					{steady && <Steadied {...print.sequence} />}
				</div>
			)}
			{VIDEO_KINDS.map((kind) => {
				const of = print.sequence?.videos.filter((v) => v.kind === kind) ?? [];
				const under = of.find((v) => v.state === "waiting" || v.state === "making");
				const made = of.find((v) => v.blob);
				const failed = of.find((v) => v.state === "failed");
				const name = VIDEOS[kind];
				return (
					<span key={kind} className="basis-full">
						{under ? (
							<>
								{name}: {under.done} of {under.frames} frames{" "}
								<button
									type="button"
									className="underline"
									onClick={() => void act(call(`${address}?video=${under.id}`, undefined, "DELETE"))}
								>
									Call it off
								</button>
							</>
						) : (
							<button type="button" className="underline" onClick={() => void make(kind)}>
								{made ? `${name} again with this finish` : `Make the ${name} with this finish`}
							</button>
						)}{" "}
						{made && (
							<a className="underline" href={`${address}?kind=${kind}`} download>
								{name}
							</a>
						)}
						{failed && !under && <span role="alert"> {failed.message}</span>}
					</span>
				);
			})}
			<a className="underline" href={`/api/prints/${print.id}/archive?kind=exr&steady=${steady ? 1 : 0}`} download>
				EXR frames
			</a>
			<a
				className="underline"
				href={`/api/prints/${print.id}/archive?kind=png&clean=${clean ? 1 : 0}&steady=${steady ? 1 : 0}`}
				download
			>
				PNG frames with this finish
			</a>
		</div>
	);
}

function PrintRow({ print, rate }: { print: PrintLine; rate: number | null }) {
	const { finish } = useShown();
	const { print: open, clean, layer, set } = useStudioOf("print", "clean", "layer", "set");
	const { refreshPrints, say } = useShot.getState();
	const layers = useLayers(print.id, print.state === "done" && open === print.id);
	const drop = async () => {
		try {
			await call(`/api/prints/${print.id}`, undefined, "DELETE");
			if (open === print.id) set({ print: null });
			await refreshPrints();
		} catch (error) {
			say((error as Error).message);
		}
	};
	const waiting =
		print.state === "queued" || print.state === "tracing" || print.state === "assembling" || print.state === "paused";
	const pause = async (paused: boolean) => {
		try {
			await call(`/api/prints/${print.id}`, { paused }, "PATCH");
			await refreshPrints();
		} catch (error) {
			say((error as Error).message);
		}
	};
	return (
		<li className="border-hair border-t py-2" data-testid="print" data-state={print.state}>
			<div className="flex gap-2">
				{print.thumbnail ? (
					<button
						type="button"
						onClick={() => set({ print: open === print.id ? null : print.id, layer: "picture", free: null })}
						aria-pressed={open === print.id}
						className={open === print.id ? "outline outline-2 outline-ink" : ""}
					>
						{/* biome-ignore lint/performance/noImgElement: the blob is served by this application as it is */}
						<img
							src={`/api/blobs/${print.thumbnail}`}
							alt={`Print of ${new Date(print.createdAt).toLocaleTimeString("en-GB")}`}
							className="h-12 w-[5.5rem] object-cover"
						/>
					</button>
				) : (
					<span className="grid h-12 w-[5.5rem] place-items-center bg-hair/60 text-second text-small">
						{waiting ? `${Math.round(print.done * 100)} %` : print.state}
					</span>
				)}
				<p className="text-small">
					{print.part ? `${print.part.width} × ${print.part.height} of ` : ""}
					{print.sequence && `${print.sequence.frames} frames of `}
					{print.timeS !== null && `moment ${print.timeS.toFixed(2)} s, `}
					{print.width} × {print.height},{" "}
					{print.noisePercent === null
						? `${print.samples} samples${print.spread === "noise" ? " where noise is" : ""}`
						: `to ${print.noisePercent} % noise`}
					<br />
					<span className="text-second">
						{print.state === "queued" &&
							(rate
								? `waits, done by ${readyBy(print, rate).toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" })}`
								: "waits for a worker")}
						{print.sequence && print.state !== "done" && `${print.sequence.done} of ${print.sequence.frames} done, `}
						{print.state === "paused" && (print.message ?? `paused at ${Math.round(print.done * 100)} %`)}
						{print.state === "tracing" && (print.secondsLeft === null ? "begins" : `${clock(print.secondsLeft)} left`)}
						{print.state === "assembling" && "is put together"}
						{print.state === "done" && (print.seconds === null ? "done" : `done in ${clock(print.seconds)}`)}
						{print.state === "cancelled" && "cancelled"}
						{print.state === "failed" && (print.message ?? "failed")}
						{print.state === "done" && isStretched(print.area, print.part, print, finish) && (
							<span className="block text-madder">
								Its finish bends in more than was traced: its edges are stretched. Print it again.
							</span>
						)}
					</span>
				</p>
			</div>
			{waiting && (
				<div aria-hidden className="mt-1 h-[3px] bg-hair">
					<i className="block h-full bg-ink" style={{ width: `${print.done * 100}%` }} />
				</div>
			)}
			{print.state === "done" && open === print.id && (
				<label className="flex items-baseline justify-between py-[3px] text-second text-small">
					Layer
					<select
						className="border-hair border-b bg-transparent font-semibold text-ink"
						value={layer}
						onChange={(e) => set({ layer: e.target.value })}
					>
						{layers.map((l) => (
							<option key={l} value={l}>
								{l.startsWith("light.") ? `light of ${l.slice(6)}` : l}
							</option>
						))}
					</select>
				</label>
			)}
			{print.state === "done" && open === print.id && !print.sequence && <Files id={print.id} />}
			{print.sequence && print.sequence.done > 0 && <Sequence print={print} />}
			<div className="flex flex-wrap gap-x-3 pt-1 text-small">
				{print.state === "done" && !print.sequence && (
					<>
						<a className="underline" href={`/api/prints/${print.id}/png${clean ? "?clean=1" : ""}`} download>
							PNG with this finish
						</a>
						<a className="underline" href={`/api/prints/${print.id}/exr`} download>
							EXR
						</a>
					</>
				)}
				{waiting && print.state !== "assembling" && (
					<button type="button" className="underline" onClick={() => void pause(print.state !== "paused")}>
						{print.state === "paused" ? "Go on" : "Pause"}
					</button>
				)}
				<button type="button" className="underline" onClick={() => void drop()}>
					{waiting ? "Cancel" : "Delete"}
				</button>
			</div>
		</li>
	);
}
