"use client";
/** Plan or section in one place, exchanged by a word. */
import { useStudioOf } from "../store/studio.ts";
import { Plan, type PlanProps } from "./Plan.tsx";
import { Section } from "./Section.tsx";

export function PlanOrSection(props: PlanProps) {
	const { width, height } = props;
	const { section, set } = useStudioOf("section", "set");
	return (
		<div className="relative" style={{ width, height }}>
			{section ? <Section width={width} height={height} /> : <Plan {...props} />}
			<button
				type="button"
				className="absolute bottom-1 left-2 bg-paper/80 text-second text-small underline underline-offset-4"
				onClick={() => set({ section: !section })}
			>
				{section ? "from above" : "from the side"}
			</button>
		</div>
	);
}
