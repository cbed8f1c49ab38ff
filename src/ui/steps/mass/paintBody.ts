/** A body drawn small, as plaster under a lamp from the left, seen from its right front a little from above. */
import type { Piece } from "../../../core/doc/schema.ts";
import { cross, dot, length, normalize, sub, type Vec3 } from "../../../core/maths/vec.ts";
import { geometryOf } from "../../../core/shape/shapes.ts";

const TURN = (-32 * Math.PI) / 180;
const DOWN = (24 * Math.PI) / 180;
const LAMP = normalize([-0.55, 0.75, 0.5]);
const MARGIN = 3;

/** Right, up, and towards the eye. */
function turned([x, y, z]: Vec3): Vec3 {
	const [c, s] = [Math.cos(TURN), Math.sin(TURN)];
	const [rx, rz] = [x * c + z * s, z * c - x * s];
	return [rx, y * Math.cos(DOWN) - rz * Math.sin(DOWN), y * Math.sin(DOWN) + rz * Math.cos(DOWN)];
}

export function paintBody(
	canvas: HTMLCanvasElement,
	piece: Pick<Piece, "shape" | "size">,
	{ width, height, light }: { width: number; height: number; light: boolean },
): void {
	const k = Math.min(3, window.devicePixelRatio || 1);
	canvas.width = width * k;
	canvas.height = height * k;
	const context = canvas.getContext("2d");
	if (!context) return;
	const geometry = geometryOf(piece);
	const { positions, normals, indices } = geometry.mesh;
	const [w, h, d] = piece.size;
	const place = (i: number): Vec3 => [positions[3 * i] * w, positions[3 * i + 1] * h, positions[3 * i + 2] * d];
	/** Of a triangle: the mean of its corners' normals, so that what is smooth looks so. */
	const facingOf = (t: number): Vec3 => {
		const mean = (c: number) => [0, 1, 2].reduce((sum, k) => sum + normals[3 * indices[t + k] + c], 0);
		return normalize([mean(0) / w, mean(1) / h, mean(2) / d]);
	};
	const faces: { corners: Vec3[]; near: number; bright: number }[] = [];
	for (let t = 0; t < indices.length; t += 3) {
		const own = [0, 1, 2].map((c) => place(indices[t + c]));
		const n = cross(sub(own[1], own[0]), sub(own[2], own[0]));
		if (length(n) === 0) continue;
		const corners = own.map(turned);
		const facing = cross(sub(corners[1], corners[0]), sub(corners[2], corners[0]))[2] > 0;
		if (geometry.closed && !facing) continue;
		const lit = dot(facingOf(t), LAMP);
		faces.push({ corners, near: Math.max(...corners.map((p) => p[2])), bright: 0.34 + 0.5 * Math.max(0, lit) });
	}
	const all = faces.flatMap((f) => f.corners);
	const [x0, x1] = [Math.min(...all.map((p) => p[0])), Math.max(...all.map((p) => p[0]))];
	const [y0, y1] = [Math.min(...all.map((p) => p[1])), Math.max(...all.map((p) => p[1]))];
	const scale = Math.min((width - 2 * MARGIN) / (x1 - x0), (height - 2 * MARGIN) / (y1 - y0)) * k;
	const at = ([x, y]: Vec3): [number, number] => [
		(width * k) / 2 + (x - (x0 + x1) / 2) * scale,
		(height * k) / 2 - (y - (y0 + y1) / 2) * scale,
	];
	faces.sort((a, b) => a.near - b.near);
	for (const { corners, bright } of faces) {
		const grey = Math.round(255 * (light ? 0.25 + 0.8 * bright : bright));
		context.fillStyle = context.strokeStyle = `rgb(${grey} ${grey} ${Math.round(grey * 0.97)})`;
		context.lineWidth = 0.7;
		context.lineJoin = "round";
		context.beginPath();
		for (const p of corners) context.lineTo(...at(p));
		context.closePath();
		context.fill();
		context.stroke();
	}
}
