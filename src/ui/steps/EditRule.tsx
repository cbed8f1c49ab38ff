"use client";
import type { ComponentProps } from "react";
import type { Edit } from "../../core/doc/edits.ts";
import { Rule } from "../parts/controls.tsx";
import { useShot } from "../store/shotStore.ts";

/** A number on a thin rule that makes an edit: shown while it is dragged, committed when it is let go. */
export function EditRule({
	edit,
	...rule
}: Omit<ComponentProps<typeof Rule>, "onPreview" | "onCommit"> & { edit: (value: number) => Edit }) {
	const { show, commit } = useShot.getState();
	return <Rule {...rule} onPreview={(v) => show(edit(v))} onCommit={(v) => commit(edit(v))} />;
}
