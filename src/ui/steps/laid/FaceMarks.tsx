"use client";
/** The outline of the face whose surface is worked on. */
import { useMemo } from "react";
import { pieceTransforms } from "../../../core/shape/place.ts";
import { geometryOf, slotOf } from "../../../core/shape/shapes.ts";
import { outlineOf } from "../../../core/shape/silhouette.ts";
import type { MarkProps } from "../../frame/marks.ts";
import { Double } from "../../parts/marks.tsx";
import { useShown } from "../../store/shotStore.ts";
import { useStudioOf } from "../../store/studio.ts";

export function FaceMarks({ width, height, k, view }: MarkProps) {
	const doc = useShown();
	const { face, selected } = useStudioOf("face", "selected");
	const piece = doc.pieces.find((p) => p.id === face?.of && selected.includes(p.id));
	const mesh = useMemo(() => {
		if (!piece || !face) return null;
		const { mesh, faces } = geometryOf(piece);
		return slotOf({ mesh, faces: faces.map((f) => ({ ...f, slot: f.name === face.name ? 0 : 1 })) }, 0).mesh;
	}, [piece, face]);
	if (!piece || !mesh || mesh.indices.length === 0) return null;
	const lines = outlineOf(mesh, pieceTransforms({ ...piece, repeat: null }, doc)[0], view);
	const d = lines
		.map(
			([x1, y1, x2, y2]) =>
				`M${(x1 * width).toFixed(1)} ${(y1 * height).toFixed(1)}L${(x2 * width).toFixed(1)} ${(y2 * height).toFixed(1)}`,
		)
		.join("");
	return (
		<g pointerEvents="none" data-testid="face-outline">
			<Double k={k} d={d} dashed />
		</g>
	);
}
