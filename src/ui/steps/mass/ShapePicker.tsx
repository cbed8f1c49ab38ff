"use client";
/** The shapes to draw, each as it is: its own body, drawn small. */
import clsx from "clsx";
import { ToggleGroup } from "radix-ui";
import { useEffect, useRef } from "react";
import { SHAPE_KINDS, type ShapeKind } from "../../../core/doc/schema.ts";
import { usualPiece } from "../../../core/shape/handPieces.ts";
import { paintBody } from "./paintBody.ts";

const WIDTH = 42;
const HEIGHT = 36;
const COLUMNS = 6;

function Picture({ kind, light }: { kind: ShapeKind; light: boolean }) {
	const canvas = useRef<HTMLCanvasElement>(null);
	useEffect(() => {
		if (canvas.current) paintBody(canvas.current, usualPiece("", kind), { width: WIDTH, height: HEIGHT, light });
	}, [kind, light]);
	return <canvas ref={canvas} aria-hidden className="mx-auto block" style={{ width: WIDTH, height: HEIGHT }} />;
}

export function ShapePicker({ value, onPick }: { value: ShapeKind | null; onPick: (kind: ShapeKind) => void }) {
	return (
		<ToggleGroup.Root
			type="single"
			role="radiogroup"
			aria-label="Shape to draw"
			value={value ?? ""}
			onValueChange={(picked) => onPick((picked || value) as ShapeKind)}
			className="grid overflow-hidden rounded-[5px] border border-ink/45"
			style={{ gridTemplateColumns: `repeat(${COLUMNS}, 1fr)` }}
		>
			{SHAPE_KINDS.map((kind, i) => (
				<ToggleGroup.Item
					key={kind}
					value={kind}
					aria-label={kind}
					title={kind}
					className={clsx(
						"py-[3px] focus-visible:-outline-offset-2",
						i % COLUMNS > 0 && "border-hair border-l",
						i >= COLUMNS && "border-hair border-t",
						kind === value ? "bg-ink" : "bg-paper hover:bg-hair/40",
					)}
				>
					<Picture kind={kind} light={kind === value} />
				</ToggleGroup.Item>
			))}
		</ToggleGroup.Root>
	);
}
