"use client";
/** The shapes to draw, each as it is: its own body, drawn small. */
import { useEffect, useRef } from "react";
import { SHAPE_KINDS, type ShapeKind } from "../../../core/doc/schema.ts";
import { usualPiece } from "../../../core/shape/handPieces.ts";
import { Choice } from "../../parts/controls.tsx";
import { paintBody } from "./paintBody.ts";

const SIZE = { width: 36, height: 31 };
const COLUMNS = 7;

function Picture({ kind, light }: { kind: ShapeKind; light: boolean }) {
	const canvas = useRef<HTMLCanvasElement>(null);
	useEffect(() => {
		if (canvas.current) paintBody(canvas.current, usualPiece("", kind), { ...SIZE, light });
	}, [kind, light]);
	return <canvas ref={canvas} aria-hidden className="mx-auto block" style={SIZE} />;
}

export const ShapePicker = (props: { value: ShapeKind | null; onPick: (kind: ShapeKind) => void }) => (
	<Choice
		label="Shape to draw"
		options={SHAPE_KINDS}
		columns={COLUMNS}
		picture={(kind, picked) => <Picture kind={kind} light={picked} />}
		{...props}
	/>
);
