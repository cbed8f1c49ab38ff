"use client";
/** Which part of a piece a surface is laid on: all of it, or one of its faces. */
import { type Laid, MOST_FACES, type Piece, type Surface } from "../../../core/doc/schema.ts";
import { geometryOf, surfacesOf } from "../../../core/shape/shapes.ts";
import { Act, PickLine } from "../../parts/controls.tsx";
import { useShot } from "../../store/shotStore.ts";
import { useStudioOf } from "../../store/studio.ts";
import { LaidLines } from "./LaidLines.tsx";

const ALL = "";

/** The faces of a piece, by their names; none where it has surfaces of its own, or a single one. */
function facesOf(piece: Piece): string[] {
	if (surfacesOf(piece.shape).length || piece.surface.glow) return [];
	const names = [...new Set(geometryOf(piece).faces.map((face) => face.name))];
	return names.length > 1 ? names.slice(0, MOST_FACES) : [];
}

const withFace = ({ faces = [] }: Surface, face: string, laid: Laid | null): Pick<Surface, "faces"> => {
	const others = faces.filter((own) => own.face !== face);
	return { faces: [...others, { face, laid }] };
};

const without = ({ faces = [] }: Surface, face: string): Pick<Surface, "faces"> => ({
	faces: faces.filter((own) => own.face !== face),
});

export function FaceLines({ piece }: { piece: Piece }) {
	const { commit, show } = useShot.getState();
	const { face, set } = useStudioOf("face", "set");
	const { surface } = piece;
	const names = facesOf(piece);
	const chosen = face?.of === piece.id && names.includes(face.name) ? face.name : null;
	const own = chosen === null ? null : surface.faces?.find((one) => one.face === chosen);
	const edit = (change: Partial<Surface>) => ({
		name: "piece.setSurface" as const,
		ids: [piece.id],
		surface: change,
	});
	const laid = chosen === null || !own ? (surface.laid ?? null) : own.laid;
	const changed = (now: Laid | null) => edit(chosen === null ? { laid: now } : withFace(surface, chosen, now));
	return (
		<>
			{names.length > 0 && (
				<div className="flex items-baseline gap-2 pt-1">
					<span className="min-w-0 flex-1">
						<PickLine
							label="Surface of"
							value={chosen ?? ALL}
							options={[
								[ALL, "all of it"],
								...names.map((name): [string, string] => [
									name,
									surface.faces?.some((one) => one.face === name) ? `${name} (its own)` : name,
								]),
							]}
							onPick={(name) => set({ face: name === ALL ? null : { of: piece.id, name } })}
						/>
					</span>
					{chosen !== null && own && <Act onClick={() => commit(edit(without(surface, chosen)))}>As the rest</Act>}
				</div>
			)}
			<LaidLines
				laid={laid}
				tintOf="In its colour"
				on={piece.id}
				colour={surface.colour}
				onShow={(now) => show(now === undefined ? null : changed(now))}
				onCommit={(now) => commit(changed(now))}
			/>
		</>
	);
}
