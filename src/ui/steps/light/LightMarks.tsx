"use client";
/** Sun, moon and lamps over the frame while light is worked on. */
import type { MarkProps } from "../../frame/marks.ts";
import { useShown } from "../../store/shotStore.ts";
import { useStudio } from "../../store/studio.ts";
import { LampMarks } from "./LampMarks.tsx";
import { DiscMark, PictureSunMark } from "./SkyMarks.tsx";

export function LightMarks(props: MarkProps) {
	const { picture, moon } = useShown().air;
	const free = useStudio((s) => s.free);
	const discs = !free && (!picture || picture.sun);
	return (
		<>
			{discs && <DiscMark body="sun" {...props} />}
			{!free && picture && <PictureSunMark {...props} />}
			{discs && moon?.on && <DiscMark body="moon" {...props} />}
			<LampMarks {...props} />
		</>
	);
}
