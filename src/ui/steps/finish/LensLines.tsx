"use client";
/** What the lens does to its picture: bend, colour fringe, fall-off, tint. What it bends in is traced unasked. */
import { type LensCharacter, MOST_BEND } from "../../../core/doc/schema.ts";
import { characterOf, NO_CHARACTER } from "../../../core/lens/character.ts";
import { Act, Swatch } from "../../parts/controls.tsx";
import { useShot, useShown } from "../../store/shotStore.ts";
import { EditRule } from "../EditRule.tsx";

/** Pixels by which red and blue lie apart in the corners of a picture. */
export const fringePx = (fringe: number, widthPx: number, ratio: number): number =>
	Math.abs(fringe) * Math.hypot(widthPx, widthPx / ratio);

export function LensLines() {
	const { finish, print, camera } = useShown();
	const { commit, show } = useShot.getState();
	const lens = characterOf(finish);
	const edit = (change: Partial<LensCharacter>) => ({ name: "finish.set" as const, lens: { ...lens, ...change } });
	const px = fringePx(lens.fringe, print.widthPx, camera.ratio);
	return (
		<section aria-label="Lens" className="pt-2">
			<p className="text-second text-small">Lens</p>
			<EditRule
				label="Bend"
				value={lens.bend * 100}
				unit="%"
				min={-100 * MOST_BEND}
				max={100 * MOST_BEND}
				step={0.1}
				digits={1}
				edit={(v) => edit({ bend: v / 100 })}
				says={lens.bend === 0 ? undefined : lens.bend < 0 ? "outwards, like a barrel" : "inwards, like a cushion"}
			/>
			<EditRule
				label="Colour fringe"
				value={lens.fringe * 1000}
				unit="‰"
				min={-5}
				max={5}
				step={0.05}
				edit={(v) => edit({ fringe: v / 1000 })}
				says={
					lens.fringe === 0
						? undefined
						: `red and blue ${px.toFixed(1)} px apart in the corners of ${print.widthPx.toLocaleString("en")} px`
				}
			/>
			<EditRule
				label="Natural fall-off"
				value={lens.falloff * 100}
				unit="%"
				min={0}
				max={100}
				step={1}
				digits={0}
				edit={(v) => edit({ falloff: v / 100 })}
			/>
			<Swatch
				label="Tint"
				value={lens.tint}
				onPreview={(tint) => show(edit({ tint }))}
				onCommit={(tint) => commit(edit({ tint }))}
			/>
			{JSON.stringify(lens) !== JSON.stringify(NO_CHARACTER) && (
				<div className="pt-1">
					<Act onClick={() => commit({ name: "finish.set", lens: NO_CHARACTER })}>A lens without character</Act>
				</div>
			)}
		</section>
	);
}
