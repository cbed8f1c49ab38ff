"use client";
/** Groups: the one that was entered, the one that is selected, and what can become one. */
import { groupNamed, groupOfAll } from "../../../core/doc/groups.ts";
import type { Piece } from "../../../core/doc/schema.ts";
import { pivotOf } from "../../../core/shape/together.ts";
import { Act, NameLine, YesNo } from "../../parts/controls.tsx";
import { enterGroup, leaveGroup } from "../../store/pick.ts";
import { useShot, useShown } from "../../store/shotStore.ts";
import { useStudio } from "../../store/studio.ts";
import { groupSelected } from "./acts.ts";

/** The group in which things are picked by themselves, and the way out of it. */
export function EnteredLine() {
	const groups = useShown().groups;
	const entered = useStudio((s) => s.entered);
	const group = entered === null ? undefined : groupNamed(groups, entered);
	if (!group) return null;
	return (
		<div className="flex items-baseline justify-between gap-2 py-1" data-testid="entered">
			<span className="min-w-0 truncate">
				Inside <span className="font-title italic">{group.name}</span>
			</span>
			<Act onClick={leaveGroup}>Leave it</Act>
		</div>
	);
}

export function GroupLines({ pieces }: { pieces: readonly Piece[] }) {
	const doc = useShown();
	const commit = useShot((s) => s.commit);
	const group = groupOfAll(pieces, doc);
	if (!group)
		return pieces.length > 1 ? (
			<div className="pt-1">
				<Act onClick={groupSelected}>Make them a group</Act>
			</div>
		) : null;
	return (
		<div className="pt-1" data-testid="group">
			<div className="flex items-baseline justify-between gap-2">
				<NameLine
					label="Name of the group"
					name={group.name}
					onCommit={(title) => commit({ name: "group.rename", id: group.id, title })}
				/>
				<span className="shrink-0 text-second text-small">
					{pieces.length === 1 ? "a group of one" : `a group of ${pieces.length}`}
				</span>
			</div>
			<YesNo
				label="Turned and sized about"
				value={!!group.pivot}
				yes="its own place"
				no="the middle of its feet"
				onPick={(own) => {
					const [x, up, z] = pivotOf(pieces, doc);
					commit({ name: "group.setPivot", id: group.id, pivot: own ? [x, up, z] : null });
				}}
			/>
			<div className="flex gap-2 pt-1">
				<Act onClick={() => enterGroup(group.id)}>Enter it</Act>
				<Act onClick={() => commit({ name: "group.part", id: group.id })}>Part it</Act>
			</div>
		</div>
	);
}
