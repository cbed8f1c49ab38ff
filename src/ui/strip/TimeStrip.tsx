"use client";
/**
 * The time strip, in the ribbon's place: the move as a row of small frames. Notches on its lower edge stand where something
 * is keyed, words between them say how it goes on; both are taken hold of there.
 */
import { type PointerEvent as ReactPointerEvent, useMemo, useRef } from "react";
import type { Leave, Move } from "../../core/doc/schema.ts";
import { frameAt, framesPerSecond, rangeOf, timeOfFrame } from "../../core/time/frames.ts";
import { haloed } from "../parts/marks.tsx";
import { startDrag } from "../parts/pointer.ts";
import { useShot, useShotOf, useShown } from "../store/shotStore.ts";
import { useStudioOf } from "../store/studio.ts";
import { KeepMenu } from "./KeepMenu.tsx";
import { MoveMenu } from "./MoveMenu.tsx";
import { MoveTable } from "./MoveTable.tsx";
import { keptWords, type Notch, notchesOf } from "./notches.ts";
import { halt, openAt, playOrHalt, stepFrames } from "./player.ts";
import { SmallPicture } from "./SmallPicture.tsx";

const SIDE = 14;
const HEAD = 30;
/** Below the pictures: notches, words, and what is keyed where the hand is. */
const FOOT = 44;
const NEXT: Record<Leave, Leave> = { even: "ease", ease: "hold", hold: "even" };
const LEAVES: Record<Leave, string> = {
	even: "at an even rate",
	ease: "slowly away, slowly there",
	hold: "not before the next key",
};

/** Where frames lie on the strip. */
export interface StripScale {
	frames: number;
	width: number;
}
export const xOfFrame = (frame: number, { frames, width }: StripScale): number =>
	SIDE + (frame / Math.max(1, frames - 1)) * (width - 2 * SIDE);
export const frameOfX = (x: number, { frames, width }: StripScale): number =>
	Math.min(frames - 1, Math.max(0, Math.round(((x - SIDE) / (width - 2 * SIDE)) * (frames - 1))));

export function TimeStrip({ width, height }: { width: number; height: number }) {
	const move = useShot((s) => s.whole.move);
	return (
		<section aria-label="Time strip" className="h-full bg-paper" style={{ width, height }} data-testid="time-strip">
			{move ? <Strip move={move} width={width} height={height} /> : <NoMove />}
		</section>
	);
}

/** A shot without a move: what one is, and the act that begins it. */
function NoMove() {
	const { commit } = useShot.getState();
	return (
		<div className="grid h-full place-items-center p-4 text-center">
			<div>
				<p>This shot is a still.</p>
				<p className="mx-auto max-w-[30rem] pb-2 text-second text-small">
					A move goes on from it: keep the camera here, go to another moment, walk off, and keep what you see there.
					Pieces, lamps, sun and fog go along in the same way.
				</p>
				<button
					type="button"
					className="bg-ink px-2 py-[2px] text-paper"
					onClick={() => {
						if (commit({ name: "move.set", frames: 96 })) openAt(0);
					}}
				>
					Begin a move of four seconds
				</button>
			</div>
		</div>
	);
}

function Strip({ move, width, height }: { move: Move; width: number; height: number }) {
	const { timeS, whole } = useShotOf("timeS", "whole");
	const { playing, playedRate, playsSmall, smallFrames, smallWanted, set } = useStudioOf(
		"playing",
		"playedRate",
		"playsSmall",
		"smallFrames",
		"smallWanted",
		"set",
	);
	const scale: StripScale = { frames: move.frames, width };
	const now = timeS ?? 0;
	const frame = playing ?? frameAt(now, move.rate);
	const notches = useMemo(() => notchesOf(move), [move]);
	const here = notches.find((n) => n.frame === frame) ?? null;
	const film = useRef<HTMLDivElement>(null);
	const { commit, show, goTo } = useShot.getState();
	const range = rangeOf(move);
	const rate = framesPerSecond(move.rate);
	const at = (e: { clientX: number }) => frameOfX(e.clientX - (film.current?.getBoundingClientRect().left ?? 0), scale);

	const scrub = (event: ReactPointerEvent) => {
		if (event.button !== 0) return;
		halt();
		const go = (e: { clientX: number }) => goTo(timeOfFrame(at(e), move.rate));
		go(event);
		startDrag(event, { move: go, end: go });
		film.current?.focus({ preventScroll: true });
	};

	const dragNotch = (event: ReactPointerEvent, notch: Notch) => {
		if (event.button !== 0) return;
		halt();
		const make = (e: PointerEvent) => ({
			name: "move.retime" as const,
			tracks: notch.tracks,
			fromS: notch.timeS,
			toS: timeOfFrame(at(e), move.rate),
		});
		startDrag(event, {
			move: (e) => show(make(e)),
			end: (e, moved) => {
				if (moved && at(e) !== notch.frame) {
					if (e.altKey) commit({ ...make(e), name: "move.copy" });
					else commit(make(e));
				} else show(null);
				goTo(timeOfFrame(moved ? at(e) : notch.frame, move.rate));
			},
			cancel: () => show(null),
		});
	};

	const dragEnd = (event: ReactPointerEvent, end: "from" | "to") => {
		if (event.button !== 0) return;
		const make = (e: PointerEvent) => {
			const f = at(e);
			const next =
				end === "from"
					? { from: Math.min(f, range.to), to: range.to }
					: { from: range.from, to: Math.max(f, range.from) };
			return { name: "move.set" as const, range: next.from === 0 && next.to === move.frames - 1 ? null : next };
		};
		startDrag(event, {
			move: (e) => show(make(e)),
			end: (e, moved) => (moved ? commit(make(e)) : show(null)),
			cancel: () => show(null),
		});
	};

	const key = (event: React.KeyboardEvent) => {
		const by = event.key === "ArrowRight" ? 1 : event.key === "ArrowLeft" ? -1 : 0;
		if (by) stepFrames(by * (event.shiftKey ? 10 : 1));
		else if (event.key === "Home") openAt(range.from);
		else if (event.key === "End") openAt(range.to);
		else if (event.key === "Enter" || event.key === " ") playOrHalt();
		else if (event.key === "Delete" && here) commit({ name: "move.unkey", tracks: here.tracks, timeS: here.timeS });
		else return;
		event.preventDefault();
		event.stopPropagation();
	};

	// While a notch is dragged the strip shows where it would lie.
	const shownMove = useShown().move ?? move;
	const shownNotches = shownMove === move ? notches : notchesOf(shownMove);
	const shownRange = rangeOf(shownMove);
	const top = height - HEAD - FOOT;
	const pictureWidth = Math.max(40, Math.round(top * whole.camera.ratio));
	const count = Math.max(1, Math.round((width - 2 * SIDE) / pictureWidth));
	const pictures = Array.from({ length: count }, (_, i) => Math.round(((i + 0.5) / count) * (move.frames - 1)));
	const nearest = (f: number) => {
		let best: number | undefined;
		for (const has of smallFrames.keys()) if (best === undefined || Math.abs(has - f) < Math.abs(best - f)) best = has;
		return best === undefined ? undefined : smallFrames.get(best);
	};
	const playhead = xOfFrame(frame, scale);
	return (
		<div className="flex h-full flex-col">
			<div className="flex items-baseline gap-3 whitespace-nowrap px-3 pt-1" style={{ height: HEAD }}>
				<button
					type="button"
					className="w-14 border border-ink/45 px-2 text-small hover:bg-hair/40"
					aria-pressed={playing !== null}
					onClick={playOrHalt}
				>
					{playing === null ? "Play" : "Halt"}
				</button>
				<span className="text-small" data-testid="strip-frame">
					frame <b>{frame}</b> of {move.frames} · {timeOfFrame(frame, move.rate).toFixed(2)} s
				</span>
				{playing !== null && playedRate !== null && (
					<span className="text-second text-small" data-testid="played-rate">
						{playedRate < rate - 1 ? `${playedRate} of ${Math.round(rate)} frames a second` : "at its true rate"}
					</span>
				)}
				{playing === null && <KeepMenu timeS={now} />}
				<span className="flex-1" />
				<MoveTable move={move} />
				<MoveMenu move={move} />
				<button
					type="button"
					className="text-small underline underline-offset-4"
					aria-pressed={playsSmall}
					title="What playing shows: the working view, or the small frames as they were traced"
					onClick={() => set({ playsSmall: !playsSmall })}
				>
					plays {playsSmall ? "small frames" : "working view"}
				</button>
				<button
					type="button"
					className="text-small underline underline-offset-4"
					onClick={() => {
						halt();
						goTo(null);
					}}
				>
					The still (M)
				</button>
			</div>
			<div
				ref={film}
				role="slider"
				tabIndex={0}
				aria-label="Moment of the move. Left and right step by frames, Enter plays, Delete takes the key here away."
				aria-valuemin={0}
				aria-valuemax={move.frames - 1}
				aria-valuenow={frame}
				aria-valuetext={`frame ${frame}, ${timeOfFrame(frame, move.rate).toFixed(2)} seconds`}
				className="relative touch-none select-none focus-visible:outline-offset-[-3px]"
				style={{ height: top + FOOT }}
				onKeyDown={key}
			>
				<div
					className="absolute top-0 flex overflow-hidden"
					style={{ left: SIDE, width: width - 2 * SIDE, height: top, cursor: "ew-resize" }}
					onPointerDown={scrub}
				>
					{pictures.map((f) => {
						const small = nearest(f);
						return <SmallPicture key={f} small={small} doc={whole} width={(width - 2 * SIDE) / count} height={top} />;
					})}
				</div>
				<svg
					width={width}
					height={top + FOOT}
					viewBox={`0 0 ${width} ${top + FOOT}`}
					className="pointer-events-none absolute inset-0 block"
					aria-hidden
				>
					{[
						[0, shownRange.from],
						[shownRange.to, move.frames - 1],
					].map(([a, b], i) => (
						<rect
							key={i === 0 ? "before" : "after"}
							x={xOfFrame(a, scale)}
							width={Math.max(0, xOfFrame(b, scale) - xOfFrame(a, scale))}
							height={top}
							fill="#f3f1ec"
							fillOpacity={0.72}
						/>
					))}
					<path d={`M${SIDE} ${top}H${width - SIDE}`} stroke="#57544e" />
					{shownNotches.map((n, i) => {
						const x = xOfFrame(n.timeS * rate, scale);
						const next = shownNotches[i + 1];
						const end = next ? xOfFrame(next.timeS * rate, scale) : x;
						return (
							<g key={n.timeS}>
								{n.leave && end - x > 34 && (
									<text x={(x + end) / 2} y={top + 17} textAnchor="middle" {...haloed} fontSize={13} fill="#57544e">
										{n.leave}
									</text>
								)}
								<path
									d={`M${x - 6} ${top}L${x} ${top - 9}L${x + 6} ${top}z`}
									fill={n.frame === frame ? "#1d1c1a" : "#f3f1ec"}
									stroke="#1d1c1a"
								/>
							</g>
						);
					})}
					<path d={`M${playhead} 0V${top + 6}`} stroke="#000" strokeWidth={3.6} />
					<path d={`M${playhead} 0V${top + 6}`} stroke="#fff" strokeWidth={1.6} />
				</svg>
				{shownNotches.map((n, i) => {
					const x = xOfFrame(n.timeS * rate, scale);
					const next = shownNotches[i + 1];
					const { leave } = n;
					const end = next ? xOfFrame(next.timeS * rate, scale) : x;
					return (
						<span key={n.timeS}>
							{leave && end - x > 34 && (
								<button
									type="button"
									className="absolute h-[22px] opacity-0 hover:opacity-100 focus-visible:opacity-100"
									style={{ left: (x + end) / 2 - 20, width: 40, top: top + 2 }}
									aria-label={`Goes on ${leave} from ${n.timeS.toFixed(2)} seconds: ${LEAVES[leave]}. Change to ${NEXT[leave]}.`}
									title={`${LEAVES[leave]}; click for ${NEXT[leave]}`}
									onClick={() => commit({ name: "move.leave", tracks: n.going, timeS: n.timeS, leave: NEXT[leave] })}
								>
									<span className="border border-ink/45 bg-paper px-1 text-small">{leave}</span>
								</button>
							)}
							<button
								type="button"
								className="absolute touch-none"
								style={{ left: x - 9, width: 18, top: top - 14, height: 20, cursor: "ew-resize" }}
								aria-label={`Key at ${n.timeS.toFixed(2)} seconds, frame ${n.frame}`}
								title="Drag to another moment; with Alt a copy of it"
								data-testid="notch"
								onPointerDown={(e) => dragNotch(e, n)}
								// A drag has told its end itself; what is left is the keyboard.
								onClick={(e) => e.detail === 0 && openAt(n.frame)}
							/>
						</span>
					);
				})}
				{(["from", "to"] as const).map((end) => (
					<button
						key={end}
						type="button"
						tabIndex={-1}
						className="absolute w-[9px] touch-none border border-ink bg-paper"
						style={{
							left: xOfFrame(shownRange[end], scale) - (end === "from" ? 10 : -1),
							top: top / 2 - 14,
							height: 28,
							cursor: "ew-resize",
						}}
						aria-label={
							end === "from" ? "Beginning of what is played and printed" : "End of what is played and printed"
						}
						title={end === "from" ? "Played and printed from here" : "Played and printed up to here"}
						data-testid={`range-${end}`}
						onPointerDown={(e) => dragEnd(e, end)}
					/>
				))}
				{smallFrames.size < smallWanted && (
					<p className="absolute right-3 bottom-0 text-second text-small" data-testid="small-traced">
						{smallFrames.size} of {smallWanted} small frames traced
					</p>
				)}
				<p
					className="absolute bottom-0 left-3 truncate text-second text-small"
					style={{ right: smallFrames.size < smallWanted ? 190 : 12 }}
					data-testid="strip-here"
				>
					{here ? (
						<>
							Kept here: {keptWords(whole, here.tracks)}.{" "}
							<button
								type="button"
								className="underline underline-offset-4"
								onClick={() => commit({ name: "move.unkey", tracks: here.tracks, timeS: here.timeS })}
							>
								Delete this key
							</button>
						</>
					) : notches.length === 0 ? (
						"Nothing is kept yet: keep the camera here, then at another moment."
					) : (
						`${notches.length} ${notches.length === 1 ? "moment is" : "moments are"} kept. A hand that changes what is kept makes a key at this one.`
					)}
				</p>
			</div>
		</div>
	);
}
