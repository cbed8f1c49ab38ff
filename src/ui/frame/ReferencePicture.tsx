"use client";
/** A reference as it is looked at: turned, mirrored, cropped and adjusted; drawn from a scaled copy. */
import { type CSSProperties, useId } from "react";
import { asItCame, colourMatrix, shownSize, toShown } from "../../core/doc/look.ts";
import type { Reference } from "../../core/doc/schema.ts";
import { copyAddress } from "../../wire/contracts.ts";

interface Props {
	reference: Reference;
	/** Width in pixels of the page; the height follows from what is shown. */
	width: number;
	alt?: string;
	/** Pixels of the picture that the page wants beyond those that it shows, for enlargement. */
	finer?: number;
	className?: string;
	style?: CSSProperties;
	/** A CSS filter after the adjustments. */
	filter?: string;
}

export function ReferencePicture({ reference, width, alt = "", finer = 1, className, style, filter = "" }: Props) {
	const id = useId().replace(/[^a-zA-Z0-9]/g, "");
	const size = shownSize(reference);
	const scale = width / size.width;
	const o = toShown(reference, [0, 0]);
	const ex = toShown(reference, [1, 0]);
	const ey = toShown(reference, [0, 1]);
	const matrix = [ex[0] - o[0], ex[1] - o[1], ey[0] - o[0], ey[1] - o[1], o[0] * scale, o[1] * scale];
	const plain = asItCame(reference.look);
	const rows = reference.look && !plain ? colourMatrix(reference.look) : null;
	return (
		<div
			className={className}
			style={{ width, height: size.height * scale, overflow: "hidden", position: "relative", ...style }}
		>
			{rows && (
				<svg aria-hidden width={0} height={0} className="absolute">
					<filter id={id} colorInterpolationFilters="sRGB" x="0" y="0" width="100%" height="100%">
						<feColorMatrix values={`${rows.map(([r, g, b, add]) => `${r} ${g} ${b} 0 ${add}`).join(" ")} 0 0 0 1 0`} />
					</filter>
				</svg>
			)}
			{/* biome-ignore lint/performance/noImgElement: the copy is served by this application in the size that is needed */}
			<img
				src={copyAddress(reference, Math.min(reference.widthPx, (reference.widthPx * scale * finer) | 0))}
				alt={alt}
				draggable={false}
				style={{
					position: "absolute",
					left: 0,
					top: 0,
					maxWidth: "none",
					width: reference.widthPx * scale,
					height: reference.heightPx * scale,
					transformOrigin: "0 0",
					transform: `matrix(${matrix.join(",")})`,
					filter: `${rows ? `url(#${id}) ` : ""}${filter}` || undefined,
				}}
			/>
		</div>
	);
}
