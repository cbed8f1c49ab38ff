"use client";
/** A surface brought to a colour of the frame or of a reference: two patches are laid over the frame, the ticket tells what lies between. */
import { useEffect, useState } from "react";
import type { Lab } from "../../../core/colour/difference.ts";
import type { Edit } from "../../../core/doc/edits.ts";
import { type ColourMatch, matchColour } from "../../../core/finish/colourMatch.ts";
import { finishColour } from "../../../core/finish/finish.ts";
import { frameOfView, project } from "../../../core/lens/camera.ts";
import type { Vec3 } from "../../../core/maths/vec.ts";
import { Act, PickLine, toHex, YesNo } from "../../parts/controls.tsx";
import { useShot, useShown } from "../../store/shotStore.ts";
import { useStudioOf } from "../../store/studio.ts";
import { colourOf, lightOf } from "./colourPatches.ts";

const FRAME = "frame";

/** Where the patch of what is aimed at begins, beside the other one. */
const BESIDE = 0.12;
const inside = (v: number) => Math.min(0.96, Math.max(0.04, v));

interface Props {
	/** Its mean colour. */
	own: Vec3;
	/** A place of it in the world, where its patch begins; low in the frame where none is told. */
	at?: () => Vec3;
	/** What makes it so many times as bright, channel by channel. */
	edit: (factor: Vec3) => Edit;
}

const signed = (v: number, digits: number) => `${v < 0 ? "−" : "+"}${Math.abs(v).toFixed(digits)}`;

/** What of one colour has to change to be another: brightness, saturation, warmth. */
function difference(from: Lab, to: Lab): string {
	const chroma = (c: Lab) => Math.hypot(c[1], c[2]);
	const more =
		chroma(from) > 2 ? `${signed(100 * (chroma(to) / chroma(from) - 1), 0)} %` : signed(chroma(to) - chroma(from), 0);
	const warmer = to[2] - from[2];
	const warmth =
		Math.abs(warmer) < 1 ? "as warm" : `${warmer > 0 ? "warmer" : "cooler"} by ${Math.abs(warmer).toFixed(0)}`;
	return `brightness ${signed(to[0] - from[0], 0)}, saturation ${more}, ${warmth}`;
}

interface Matched {
	match: ColourMatch;
	/** As it is seen, as it would be, and what is aimed at. */
	seen: Vec3;
	so: Vec3;
	aim: Vec3;
}

function useMatch(own: Vec3): Matched | { trouble: string } {
	const { colouring, colourTaken, proof, free } = useStudioOf("colouring", "colourTaken", "proof", "free");
	const { camera, finish, references } = useShown();
	const [of, setOf] = useState<Vec3 | null>(null);
	const [trouble, setTrouble] = useState("");
	const like = colouring?.like ?? FRAME;
	const [x, y] = colouring?.to ?? [0, 0];
	const light = colouring && lightOf(proof, colouring.from);
	useEffect(() => {
		let left = false;
		const reference = references.find((r) => r.id === like);
		if (!reference) return;
		colourOf(reference, [x, y], camera.ratio).then(
			(colour) => {
				if (left) return;
				setOf(colour);
				setTrouble(colour ? "" : "The reference does not reach there.");
			},
			(error: Error) => !left && setTrouble(error.message),
		);
		return () => {
			left = true;
		};
	}, [like, x, y, references, camera.ratio]);
	const lit = like === FRAME && colouring ? lightOf(proof, colouring.to) : null;
	const aim = like === FRAME ? lit && finishColour(lit, camera.ev100, finish) : of;
	if (free) return { trouble: "Colours are read in the shot's own frame: leave the free view." };
	if (!light || !aim) return { trouble: trouble || "The proof does not show it yet." };
	const match = matchColour(light, own, aim, colourTaken, camera.ev100, finish);
	const finished = (factor: Vec3) =>
		finishColour(
			light.map((v, c) => v * factor[c]),
			camera.ev100,
			finish,
		);
	return { match, seen: finished([1, 1, 1]), so: finished(match.factor), aim };
}

const TAKEN = [
	["brightness", "Brightness"],
	["saturation", "Saturation"],
	["warmth", "Hue"],
] as const;

export function ColourLines({ own, at, edit }: Props) {
	const { colouring, set } = useStudioOf("colouring", "set");
	const { camera } = useShown();
	const begin = () => {
		const p = at && project(frameOfView(camera), at());
		const from: [number, number] = p && p.depthM > 0 ? [inside(p.x), inside(p.y)] : [0.5, 0.8];
		set({
			colouring: { from, to: [inside(from[0] + (from[0] < 0.5 ? BESIDE : -BESIDE)), from[1]], like: null },
			painting: null,
		});
	};
	return (
		<section aria-label="Colour match" className="py-1 text-small">
			<Act onClick={() => (colouring ? set({ colouring: null }) : begin())}>
				{colouring ? "Close the match" : "Match a colour"}
			</Act>
			{colouring && <Matching own={own} edit={edit} />}
		</section>
	);
}

function Matching({ own, edit }: Pick<Props, "own" | "edit">) {
	const { colouring, colourTaken, set } = useStudioOf("colouring", "colourTaken", "set");
	const { references } = useShown();
	const commit = useShot((s) => s.commit);
	const found = useMatch(own);
	if (!colouring) return null;
	return (
		<div className="pt-1">
			{references.length > 0 && (
				<PickLine
					label="Like a part of"
					value={colouring.like ?? FRAME}
					options={[[FRAME, "the frame"], ...references.map((r) => [r.id, r.name] as const)]}
					onPick={(like) => set({ colouring: { ...colouring, like: like === FRAME ? null : like } })}
				/>
			)}
			<p className="py-1 text-second">
				Drag "it" onto what is to change and "like this" onto what it is to be like; a press in the frame sets "like
				this".
			</p>
			{TAKEN.map(([of, label]) => (
				<YesNo
					key={of}
					label={label}
					value={colourTaken[of]}
					yes="is taken over"
					no="stays"
					onPick={(v) => set({ colourTaken: { ...colourTaken, [of]: v } })}
				/>
			))}
			{"match" in found ? (
				<>
					<div
						className="flex h-7 border border-ink/45"
						role="img"
						aria-label="It, as it would be, and what it is to be like"
					>
						{[found.seen, found.so, found.aim].map((c, i) => (
							<i key={["it", "so", "like"][i]} className="flex-1" style={{ background: toHex(c) }} />
						))}
					</div>
					<p className="py-1" data-testid="colour-told">
						{difference(found.match.from, found.match.aim)}. Apart by ΔE {found.match.before.toFixed(1)}, then by{" "}
						{found.match.left.toFixed(1)}.
						{found.match.tooDark && " It would have to be brighter than white: more light has to fall there."}
					</p>
					<Act onClick={() => commit(edit(found.match.factor))}>Bring it there</Act>
				</>
			) : (
				<p className="py-1 text-second">{found.trouble}</p>
			)}
		</div>
	);
}
