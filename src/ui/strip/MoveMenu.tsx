"use client";
/** What holds for the whole move: its length, frames a second, shutter, the hand's tremor. */
import { Popover } from "radix-ui";
import { type Move, RATES, type Rate } from "../../core/doc/schema.ts";
import { lengthS, shutterSeconds } from "../../core/time/frames.ts";
import { Choice, NumberLine } from "../parts/controls.tsx";
import { useShot, useShown } from "../store/shotStore.ts";
import { useStudio } from "../store/studio.ts";

const CALM = { amountDeg: 0.15, speed: 1, seed: 1 };

/** The tremor as it is seen: pixels in a frame of so many. */
export function tremorPx(amountDeg: number, tanX: number, widthPx: number): number {
	return (Math.tan((amountDeg * Math.PI) / 180) / (2 * tanX)) * widthPx;
}

/** Focal length and distance against each other: the picked piece stays as large in the frame while its place stretches. */
function KeptSize({ move }: { move: Move }) {
	const { pieces, camera } = useShown();
	const selected = useStudio((s) => s.selected[0]);
	const { commit } = useShot.getState();
	const name = (id: string | null | undefined) => pieces.find((p) => p.id === id)?.name;
	const kept = name(move.keepsSizeOf);
	const next = name(selected);
	return (
		<div className="border-hair border-t pt-1 text-small">
			<p className="text-second">
				{kept
					? `${kept} keeps its size in the frame: ${camera.focalMm.toFixed(1)} mm here.`
					: next
						? "The focal length may go against the distance."
						: "Select a piece to keep its size in the frame while the lens comes nearer."}
			</p>
			{next && selected !== move.keepsSizeOf && (
				<button
					type="button"
					className="mr-3 underline underline-offset-4"
					onClick={() => commit({ name: "move.set", keepsSizeOf: selected })}
				>
					Keep the size of {next}
				</button>
			)}
			{kept && (
				<button
					type="button"
					className="underline underline-offset-4"
					onClick={() => commit({ name: "move.set", keepsSizeOf: null })}
				>
					Let it go
				</button>
			)}
		</div>
	);
}

export function MoveMenu({ move }: { move: Move }) {
	const { commit, goTo } = useShot.getState();
	const { camera, print } = useShown();
	const tremor = move.tremor ?? null;
	const tanX = camera.film.widthMm / (2 * camera.focalMm);
	const setTremor = (change: Partial<typeof CALM>) =>
		commit({ name: "move.set", tremor: { ...CALM, ...tremor, ...change } });
	return (
		<Popover.Root>
			<Popover.Trigger className="text-small underline underline-offset-4">
				{lengthS(move).toFixed(2)} s at {move.rate}
			</Popover.Trigger>
			<Popover.Portal>
				<Popover.Content
					side="top"
					sideOffset={8}
					className="fade z-30 w-72 border border-ink/45 bg-paper p-3 shadow-md"
					aria-label="The whole move"
				>
					<NumberLine
						label="Length"
						value={move.frames}
						unit="frames"
						min={2}
						max={20_000}
						step={1}
						digits={0}
						onCommit={(frames) => commit({ name: "move.set", frames: Math.round(frames) })}
					/>
					<NumberLine
						label="Keys and length together"
						value={move.frames}
						unit="frames"
						min={2}
						max={20_000}
						step={1}
						digits={0}
						onCommit={(frames) => commit({ name: "move.stretch", frames: Math.round(frames) })}
					/>
					<div className="py-[3px]">
						<span className="block pb-1 text-second text-small">Frames a second</span>
						<Choice
							small
							label="Frames a second"
							options={Object.keys(RATES) as Rate[]}
							value={move.rate}
							onPick={(rate) => commit({ name: "move.set", rate })}
						/>
					</div>
					<NumberLine
						label="Shutter"
						value={move.shutter * 360}
						unit="°"
						min={0}
						max={360}
						step={5}
						digits={0}
						note={move.shutter > 0 ? `1/${Math.round(1 / shutterSeconds(move))} s` : "no blur"}
						onCommit={(deg) => commit({ name: "move.set", shutter: deg / 360 })}
					/>
					<NumberLine
						label="Hand's tremor"
						value={tremor?.amountDeg ?? 0}
						unit="°"
						min={0}
						max={5}
						step={0.02}
						digits={2}
						note={`${tremorPx(tremor?.amountDeg ?? 0, tanX, print.widthPx).toFixed(1)} px of ${print.widthPx}`}
						onCommit={(amountDeg) =>
							amountDeg === 0 ? commit({ name: "move.set", tremor: null }) : setTremor({ amountDeg })
						}
					/>
					{tremor && (
						<>
							<NumberLine
								label="How restless"
								value={tremor.speed}
								unit="×"
								min={0.1}
								max={5}
								step={0.1}
								digits={1}
								onCommit={(speed) => setTremor({ speed })}
							/>
							<NumberLine
								label="Seed"
								value={tremor.seed}
								min={0}
								max={99_999}
								step={1}
								digits={0}
								onCommit={(seed) => setTremor({ seed: Math.round(seed) })}
							/>
						</>
					)}
					<KeptSize move={move} />
					<button
						type="button"
						className="pt-1 text-small underline underline-offset-4"
						onClick={() => {
							if (commit({ name: "move.remove", all: true })) goTo(null);
						}}
					>
						Take the move away
					</button>
				</Popover.Content>
			</Popover.Portal>
		</Popover.Root>
	);
}
