"use client";
/** Handles that one piece and several have in common: the foot, and the crown with its rim. */
import type { PointerEvent as ReactPointerEvent } from "react";
import type { Point } from "../../../core/ground/underPoint.ts";
import type { Vec3 } from "../../../core/maths/vec.ts";
import { Double, Tag } from "../../parts/marks.tsx";
import { useShot } from "../../store/shotStore.ts";
import { useStudioOf } from "../../store/studio.ts";

/** Where a place of the world lies in the frame, in pixels; null behind the lens. */
export type At = (p: Vec3) => { x: number; y: number; depthM: number } | null;

type Press = (event: ReactPointerEvent) => void;

const RIM_PX = 22;

/** The rim of the crown: half an ellipse to both sides of the place where the height is drawn. */
const rimAt = ({ x, y }: Point, k: number): string => {
	const [rx, ry] = [RIM_PX / k, 8 / k];
	return `M${x - rx} ${y}A${rx} ${ry} 0 0 0 ${x + rx} ${y}`;
};

export function Foot({ foot, k, onPointerDown }: { foot: Point; k: number; onPointerDown: Press }) {
	return (
		<g style={{ cursor: "move" }} onPointerDown={onPointerDown} data-testid="handle-foot">
			<ellipse cx={foot.x} cy={foot.y} rx={9 / k} ry={4 / k} fill="#fff" stroke="#000" strokeWidth={1.6 / k} />
			<ellipse cx={foot.x} cy={foot.y} rx={3 / k} ry={1.5 / k} fill="#000" />
			<ellipse cx={foot.x} cy={foot.y} rx={16 / k} ry={11 / k} fill="transparent" />
		</g>
	);
}

/** What is moved came to, below its foot. */
export function SnapTag({ x, y, k }: Point & { k: number }) {
	const { snapping, snapTold } = useStudioOf("snapping", "snapTold");
	const moving = useShot((s) => s.preview !== null);
	return (
		snapping &&
		moving &&
		snapTold !== "" && (
			<Tag k={k} x={x} y={y + 26 / k} anchor="middle">
				{snapTold}
			</Tag>
		)
	);
}

interface CrownProps {
	crown: Point;
	k: number;
	/** By its rim. */
	lean: Press;
	/** By its arrow. */
	size: Press;
	told: string;
}

export function Crown({ crown, k, lean, size, told }: CrownProps) {
	return (
		<g>
			<g style={{ cursor: "move" }} onPointerDown={lean}>
				<Double k={k} d={rimAt(crown, k)} />
				<path d={rimAt(crown, k)} fill="none" stroke="transparent" strokeWidth={10 / k} />
				{[-1, 1].map((side) => (
					<circle
						key={side}
						cx={crown.x + (side * RIM_PX) / k}
						cy={crown.y}
						r={8 / k}
						fill="transparent"
						data-testid={`handle-lean-${side < 0 ? "left" : "right"}`}
					/>
				))}
			</g>
			<g style={{ cursor: "ns-resize" }} onPointerDown={size} data-testid="handle-height">
				<Double
					k={k}
					d={`M${crown.x - 9 / k} ${crown.y - 8 / k}L${crown.x} ${crown.y - 15 / k}L${crown.x + 9 / k} ${crown.y - 8 / k}`}
				/>
				<rect x={crown.x - 13 / k} y={crown.y - 22 / k} width={26 / k} height={20 / k} fill="transparent" />
				<Tag k={k} x={crown.x} y={crown.y - 32 / k} anchor="middle">
					{told}
				</Tag>
			</g>
		</g>
	);
}
