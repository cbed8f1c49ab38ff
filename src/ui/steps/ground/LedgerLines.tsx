"use client";
/** The ledger of the land: what has happened to it, oldest first, as sentences that are struck through while left out. */
import clsx from "clsx";
import { ArrowDown, ArrowUp, X } from "lucide-react";
import { useMemo } from "react";
import type { Edit } from "../../../core/doc/edits.ts";
import type { Ground, LandEntry, LandWhere } from "../../../core/doc/schema.ts";
import { entryTold } from "../../../core/ground/height.ts";
import { ENTRIES, entryOf, newEntry } from "../../../core/ground/ledger/ledger.ts";
import { LAND_WHERES, whereOf, whereSentence } from "../../../core/ground/ledger/where.ts";
import { Act } from "../../parts/controls.tsx";
import { newId } from "../../parts/words.ts";
import { useShot, useShown } from "../../store/shotStore.ts";
import { useStudio, useStudioOf } from "../../store/studio.ts";
import { FieldLines } from "../FieldLines.tsx";
import { placeAhead } from "./ahead.ts";
import { EntryFiles, LayFile } from "./FileLines.tsx";
import { FormTold, LayForm } from "./FormLines.tsx";

const KINDS = Object.keys(ENTRIES) as LandEntry["kind"][];
/** Who does what has happened, in the order in which it mostly happens. */
const DOERS = [
	["rock", "The rock"],
	["weather", "Weather"],
	["people", "People"],
	["files", "A file"],
] as const;

export function LedgerLines({ ground }: { ground: Ground }) {
	const { landEntry: chosen, set } = useStudioOf("landEntry", "set");
	const { commit } = useShot.getState();
	const ledger = ground.ledger ?? [];
	const add = (kind: LandEntry["kind"]) => {
		const id = newId();
		if (commit({ name: "ground.addEntry", entry: newEntry(kind, id, ...placeAhead()) })) set({ landEntry: id });
	};
	return (
		<div className="border-hair border-b pb-2">
			<p className="pt-2 text-second text-small">What happened to it, oldest first</p>
			{ledger.length === 0 && (
				<p className="pb-1 text-second text-small">Nothing yet: it lies as its preset made it.</p>
			)}
			{ledger.map((entry, i) => (
				<EntryLine key={entry.id} entry={entry} at={i} last={ledger.length - 1} open={entry.id === chosen} />
			))}
			{DOERS.map(([by, words]) => (
				<div key={by} className="flex flex-wrap items-baseline gap-x-2 gap-y-1 pt-1">
					<span className="w-16 shrink-0 text-second text-small">{words}</span>
					<div className="flex min-w-0 flex-1 flex-wrap gap-1.5">
						{KINDS.filter((kind) => entryOf({ kind }).by === by).map((kind) =>
							by === "files" ? (
								<LayFile key={kind} kind={kind} />
							) : (
								<Act key={kind} onClick={() => add(kind)}>
									{entryOf({ kind }).act}
								</Act>
							),
						)}
						{by === "files" && <LayForm />}
					</div>
				</div>
			))}
		</div>
	);
}

interface LineProps {
	entry: LandEntry;
	at: number;
	last: number;
	open: boolean;
}

function EntryLine({ entry, at, last, open }: LineProps) {
	const { commit } = useShot.getState();
	const set = useStudio((s) => s.set);
	const { sentence, act } = entryOf(entry);
	const move = (to: number) => commit({ name: "ground.moveEntry", id: entry.id, to });
	return (
		<div
			className={clsx("border-hair border-b py-1", open && "border-l-[3px] border-l-ink pl-2")}
			data-testid="land-entry"
		>
			<div className="flex items-baseline justify-between gap-2">
				<button
					type="button"
					aria-expanded={open}
					className={clsx("min-w-0 text-left", entry.out && "text-second line-through")}
					onClick={() => set({ landEntry: open ? null : entry.id })}
				>
					{`${at + 1}. ${sentence(entry)}`}
				</button>
				<span className="flex shrink-0 gap-1">
					<Small word={`${act} earlier`} off={at === 0} onClick={() => move(at - 1)} icon={ArrowUp} />
					<Small word={`${act} later`} off={at === last} onClick={() => move(at + 1)} icon={ArrowDown} />
					<Small
						word={`Take "${act}" out of the ledger`}
						onClick={() => commit({ name: "ground.removeEntry", id: entry.id }) && open && set({ landEntry: null })}
						icon={X}
					/>
				</span>
			</div>
			{open && <EntryFields entry={entry} />}
		</div>
	);
}

function Small({
	word,
	off,
	onClick,
	icon: Icon,
}: {
	word: string;
	off?: boolean;
	onClick: () => void;
	icon: typeof X;
}) {
	return (
		<button
			type="button"
			aria-label={word}
			title={word}
			disabled={off}
			className="grid size-6 place-items-center rounded-[3px] hover:bg-hair/60 disabled:opacity-30"
			onClick={onClick}
		>
			<Icon size={14} aria-hidden="true" />
		</button>
	);
}

function EntryFields({ entry }: { entry: LandEntry }) {
	const { commit } = useShot.getState();
	const { ground } = useShown();
	const waters = useStudio((s) => s.waters);
	// Water is filled by the stage; what else an entry comes to follows the hand.
	const told = useMemo(
		() => ("water" in entryOf(entry) ? (waters.get(entry.id) ?? "") : entryTold(ground, entry.id)),
		[ground, entry, waters],
	);
	const edit = (changed: LandEntry): Edit => ({ name: "ground.setEntry", entry: changed });
	const where = (i: number, next: LandWhere | null) =>
		edit({ ...entry, where: entry.where.flatMap((w, k) => (k !== i ? [w] : next ? [next] : [])) });
	return (
		<div className="pt-1">
			{told && <p className="pb-1 text-second text-small">{told}</p>}
			<FormTold id={entry.id} />
			<EntryFiles entry={entry} />
			<FieldLines of={entry} fields={entryOf(entry).fields} picks={entryOf(entry).picks} edit={edit} />
			<p className="pt-1 text-second text-small">{entry.where.length ? "Where" : "All over the land"}</p>
			{entry.where.map((w, i) => (
				<WhereLine key={i} where={w} edit={(next) => where(i, next)} />
			))}
			<div className="flex flex-wrap gap-2 py-1">
				{(Object.keys(LAND_WHERES) as LandWhere["kind"][])
					.filter((kind) => !LAND_WHERES[kind].drawn && entry.where.every((w) => w.kind !== kind))
					.map((kind) => (
						<Act
							key={kind}
							onClick={() => {
								const [x, z] = placeAhead();
								commit(edit({ ...entry, where: [...entry.where, LAND_WHERES[kind].usual(x, z)] }));
							}}
						>
							{LAND_WHERES[kind].act}
						</Act>
					))}
				<Act onClick={() => commit(edit({ ...entry, out: !entry.out }))}>
					{entry.out ? "It did happen" : "Strike it out"}
				</Act>
			</div>
		</div>
	);
}

/** A where as a sentence with its numbers; a click on the words turns it round. */
function WhereLine({ where, edit }: { where: LandWhere; edit: (next: LandWhere | null) => Edit }) {
	const { commit } = useShot.getState();
	return (
		<div className="border-hair border-t py-1">
			<div className="flex items-baseline justify-between gap-2">
				<button
					type="button"
					role="switch"
					aria-checked={!where.not}
					className="text-left"
					onClick={() => commit(edit({ ...where, not: !where.not }))}
				>
					{whereSentence(where)}
				</button>
				<Small word="Leave this where out" onClick={() => commit(edit(null))} icon={X} />
			</div>
			<FieldLines of={where} fields={whereOf(where).fields} edit={edit} />
		</div>
	);
}
