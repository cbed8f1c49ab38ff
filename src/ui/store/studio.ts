/** State of the room itself: what is open, selected and looked at. Nothing of it belongs to the shot. */
import { create } from "zustand";
import { useShallow } from "zustand/react/shallow";
import { picked } from "./picked.ts";
import { type Hand, hand } from "./slices/hand.ts";
import { type Looking, looking } from "./slices/looking.ts";
import { type Matching, matching } from "./slices/matching.ts";
import { type Moving, moving } from "./slices/moving.ts";
import { type Opened, opened } from "./slices/opened.ts";
import { type Staged, staged } from "./slices/staged.ts";

export type { FreePose, Zoom } from "./slices/looking.ts";
export type { MatchTool } from "./slices/matching.ts";
export type { StaffKind, Step } from "./slices/names.ts";
export { STEPS } from "./slices/names.ts";

interface Acts {
	set: (change: Partial<Studio>) => void;
	select: (ids: string[], more?: boolean) => void;
}

export type Studio = Opened & Hand & Matching & Looking & Moving & Staged & Acts;

export const useStudio = create<Studio>((set, get) => ({
	...opened,
	...hand,
	...matching,
	...looking,
	...moving,
	...staged,
	set: (change) => set(change),
	select: (ids, more) => {
		const before = get().selected;
		const next = more ? [...before.filter((i) => !ids.includes(i)), ...ids.filter((i) => !before.includes(i))] : ids;
		set({ selected: next });
	},
}));

/** Some of the room's values; who reads them is drawn again when one of them is another. */
export const useStudioOf = <K extends keyof Studio>(...keys: K[]): Pick<Studio, K> =>
	useStudio(useShallow((s) => picked(s, keys)));
