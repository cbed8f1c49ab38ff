"use client";
/**
 * The depth ribbon: the picture seen from the side. Left to right the distance from the lens, logarithmic; bottom to top
 * the height in the frame. Pieces and covers stand at their distance and height and are picked here.
 */
import { contrastKept, fogShape } from "../../core/air/fog.ts";
import { groundHeight } from "../../core/ground/height.ts";
import { focusDistanceM, frameOfView, hyperfocalM, project } from "../../core/lens/camera.ts";
import { coverReach, metres, pieceBox } from "../frame/geometry.ts";
import { haloed } from "../frame/marks.tsx";
import { useShown } from "../store/shotStore.ts";
import { useStudio } from "../store/studio.ts";

const NEAR = 0.5;
const FAR = 30_000;
const TICKS = [1, 3, 10, 30, 100, 300, 1000, 3000, 10_000];

export function Ribbon({ width, height }: { width: number; height: number }) {
	const doc = useShown();
	const { selected, select, set, cover } = useStudio();
	const view = frameOfView(doc.camera);
	const base = height - 24;
	const top = 24;
	const x = (m: number) => 14 + (Math.log(Math.min(FAR, Math.max(NEAR, m)) / NEAR) / Math.log(FAR / NEAR)) * (width - 28);
	const y = (v: number) => top + Math.min(1.04, Math.max(-0.06, v)) * (base - top);
	const [lx, ly, lz] = doc.camera.position;
	const level = Math.hypot(view.forward[0], view.forward[2]) || 1;
	const groundPath = Array.from({ length: 90 }, (_, i) => {
		const m = NEAR * (FAR / NEAR) ** (i / 89);
		const px = lx + (view.forward[0] / level) * m;
		const pz = lz + (view.forward[2] / level) * m;
		const h = Math.max(groundHeight(doc.ground, px, pz), doc.water.on ? doc.water.levelM : -1e9);
		const p = project(view, [px, h, pz]);
		return `${x(m).toFixed(1)} ${y(p.y).toFixed(1)}`;
	});
	const fog = fogShape(doc.air.fog);
	const veil = doc.air.fog.on ? [100, 300, 1000, 3000, 10_000, FAR].map((m) => ({ m, lost: 1 - contrastKept(fog, ly, ly, m) })) : [];
	const horizon = project(view, [lx + (view.forward[0] / level) * 1e6, ly, lz + (view.forward[2] / level) * 1e6]).y;
	const circle = doc.camera.film.widthMm / 1500;
	const H = hyperfocalM(doc.camera, circle);
	const focus = focusDistanceM(doc.camera);
	const sharpFrom = (H * focus) / (H + focus);
	const sharpTo = focus >= H ? FAR : (H * focus) / (H - focus);
	// What is selected, and its name, lie over the rest.
	const inOrder = [...doc.pieces.filter((p) => !selected.includes(p.id)), ...doc.pieces.filter((p) => selected.includes(p.id))];
	const near = 10;
	const far = 300;

	return (
		<svg
			width={width}
			height={height}
			viewBox={`0 0 ${width} ${height}`}
			className="block bg-paper"
			role="img"
			aria-label="Depth ribbon: pieces by their distance from the lens"
			data-testid="ribbon"
		>
			<defs>
				<linearGradient id="veil">
					{veil.map((v) => (
						<stop key={v.m} offset={`${(x(v.m) / width) * 100}%`} stopColor="#aab4c0" stopOpacity={v.lost * 0.75} />
					))}
				</linearGradient>
			</defs>
			<path d={`M${groundPath.join("L")}L${x(FAR)} ${base}L${x(NEAR)} ${base}z`} fill="#dcd7cb" />
			<path d={`M14 ${y(horizon)}H${width - 14}`} stroke="#57544e" strokeDasharray="3 3" strokeWidth={0.8} />
			{doc.covers.map((c) => {
				if (c.hidden) return null;
				const r = coverReach(c);
				const on = cover === c.id;
				const a = x(r.nearM);
				const b = x(r.farM);
				return (
					<g key={c.id} onPointerDown={() => set({ cover: c.id, step: "Dress" })} style={{ cursor: "pointer" }}>
						<title>{c.name}</title>
						<path
							d={Array.from({ length: Math.floor((b - a) / 5) }, (_, i) => `M${a + i * 5} ${base - 4}l1.5 -7`).join("")}
							stroke={on ? "#1d1c1a" : "#6d675c"}
							strokeWidth={on ? 2 : 1.2}
						/>
						<rect x={a} y={base - 16} width={Math.max(1, b - a)} height={14} fill="transparent" />
					</g>
				);
			})}
			{inOrder.map((p) => {
				if (p.hidden) return null;
				const { box, nearM, farM, near: nearSpan, far: farSpan, share } = pieceBox(p, doc, view);
				if (!box || share === 0) return null;
				const on = selected.includes(p.id);
				const a = x(nearM);
				const b = Math.max(a + 3, x(farM));
				// What runs away from the lens over more than four times its distance lies like ground in the ribbon.
				const long = farM > 4 * nearM;
				const y0 = y(box.y0);
				const y1 = Math.max(y0 + 3, y(box.y1));
				return (
					<g key={p.id} onPointerDown={(e) => (select([p.id], e.shiftKey), set({ step: "Mass" }))} style={{ cursor: "pointer" }}>
						<title>{`${p.name}, ${metres(nearM)}`}</title>
						<path
							d={`M${a} ${y(nearSpan[0])}L${b} ${y(farSpan[0])}V${Math.max(y(farSpan[0]) + 2, y(farSpan[1]))}L${a} ${Math.max(y(nearSpan[0]) + 2, y(nearSpan[1]))}z`}
							fill="#6d675c"
							fillOpacity={on ? 1 : long ? 0.22 : 0.72}
						/>
						{on && (
							<>
								<rect x={a - 2} y={y0 - 2} width={b - a + 4} height={y1 - y0 + 4} fill="none" stroke="#000" strokeWidth={3} />
								<rect x={a - 2} y={y0 - 2} width={b - a + 4} height={y1 - y0 + 4} fill="none" stroke="#fff" strokeWidth={1.2} />
								<text x={Math.min(width - 130, b + 6)} y={Math.max(34, y0 - 2)} {...haloed} fontSize={13} fontWeight={600} fill="#1d1c1a">
									{p.name} {metres(nearM)}
								</text>
							</>
						)}
					</g>
				);
			})}
			<rect x={0} y={0} width={width} height={base} fill="url(#veil)" pointerEvents="none" />
			<path d={`M${x(sharpFrom)} ${base}H${x(sharpTo)}`} stroke="#1d1c1a" strokeWidth={2.5} />
			<text x={x(sharpFrom)} y={base - 15} {...haloed} fill="#1d1c1a">
				sharp from {metres(sharpFrom)}
				{sharpTo < FAR ? ` to ${metres(sharpTo)}` : ""}
			</text>
			{[
				["near", NEAR],
				["middle", near],
				["far", far],
			].map(([word, m]) => (
				<g key={word}>
					{m !== NEAR && <path d={`M${x(m as number)} 6v14`} stroke="#57544e" />}
					<text x={x(m as number) + (m === NEAR ? 10 : 8)} y={18} fontSize={13} fill="#57544e">
						{word}
					</text>
				</g>
			))}
			{TICKS.map((m) => (
				<g key={m}>
					<path d={`M${x(m)} ${base}v5`} stroke="#57544e" />
					<text x={x(m)} y={height - 6} fontSize={12} textAnchor="middle" fill="#57544e">
						{m >= 1000 ? `${m / 1000} km` : m === 1 ? "1 m" : m}
					</text>
				</g>
			))}
		</svg>
	);
}
