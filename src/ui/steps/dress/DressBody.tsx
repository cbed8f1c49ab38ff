"use client";
/** Dress: covers of grown plants, and where they stand, as sentences that are struck through while left out. */
import clsx from "clsx";
import type { Edit } from "../../../core/doc/edits.ts";
import { type Cover, type Laid, type Rule, Species } from "../../../core/doc/schema.ts";
import { newCover, PLANTS } from "../../../core/dress/plant.ts";
import type { WhereRule } from "../../../core/dress/rules/rule.ts";
import { RULES, ruleOf } from "../../../core/dress/rules/rules.ts";
import { Act, Choice, NumberLine, Rule as Slider, Swatch, YesNo } from "../../parts/controls.tsx";
import { newId } from "../../parts/words.ts";
import { useShot, useShown } from "../../store/shotStore.ts";
import { useStudio, useStudioOf } from "../../store/studio.ts";
import { FieldLines } from "../FieldLines.tsx";
import { LaidLines } from "../laid/LaidLines.tsx";

export function DressBody() {
	const doc = useShown();
	const { cover: chosen, thinning, set } = useStudioOf("cover", "thinning", "set");
	const commit = useShot((s) => s.commit);
	const open = doc.covers.find((c) => c.id === chosen) ?? null;
	const add = (species: Species) => {
		const id = newId();
		if (commit({ name: "cover.add", cover: newCover(id, species, { seed: doc.covers.length + 1 }) }))
			set({ cover: id });
	};
	return (
		<div>
			{doc.covers.length === 0 && <p className="pb-1 text-second text-small">Nothing grows here yet.</p>}
			{doc.covers.map((c) => {
				const t = thinning.find((x) => x.coverId === c.id);
				return (
					<button
						key={c.id}
						type="button"
						aria-pressed={c.id === chosen}
						onClick={() => set({ cover: c.id === chosen ? null : c.id })}
						className={clsx(
							"flex w-full items-baseline justify-between border-hair border-b py-1 text-left",
							c.id === chosen && "border-l-[3px] border-l-ink pl-2",
						)}
					>
						<span className={c.hidden ? "line-through" : ""}>{c.name}</span>
						<span className="text-second text-small">
							{c.hidden
								? "left out"
								: t
									? t.shown < t.all
										? `${t.shown.toLocaleString("en")} of ${t.all.toLocaleString("en")}`
										: t.all.toLocaleString("en")
									: ""}
						</span>
					</button>
				);
			})}
			<div className="flex flex-wrap gap-2 py-2">
				{Species.options.map((species) => (
					<Act key={species} onClick={() => add(species)}>
						{PLANTS[species].act}
					</Act>
				))}
			</div>
			{open && <CoverLines cover={open} />}
		</div>
	);
}

/** What is laid on plants that are bare, whatever is tried on them now, keeps their colours at first. */
function inTheirColours(laid: Laid | null, { id }: Cover): Laid | null {
	const kept = useShot.getState().document.covers.find((c) => c.id === id)?.laid;
	return laid && !kept ? { ...laid, tint: 1 } : laid;
}

function CoverLines({ cover }: { cover: Cover }) {
	const { commit, show } = useShot.getState();
	const set = useStudio((s) => s.set);
	const change = (c: Partial<Omit<Cover, "id" | "rules" | "densityPerM2">>) => ({
		name: "cover.set" as const,
		id: cover.id,
		change: c,
	});
	const missing = (Object.values(RULES) as WhereRule[]).filter((r) =>
		cover.rules.every((own) => own.kind !== r.usual.kind),
	);
	const size = (i: 0 | 1, v: number) => {
		const next: [number, number] = [...cover.sizeM];
		next[i] = v;
		commit(change({ sizeM: [Math.min(...next), Math.max(...next)] }));
	};
	return (
		<div>
			<Choice
				label="Plant"
				options={Species.options}
				value={cover.species}
				onPick={(species) => commit(change({ species }))}
			/>
			<Slider
				label="Density"
				value={cover.densityPerM2}
				unit="per m²"
				min={0.01}
				max={60}
				logarithmic
				onPreview={(v) => show({ name: "cover.setDensity", id: cover.id, densityPerM2: v })}
				onCommit={(v) => commit({ name: "cover.setDensity", id: cover.id, densityPerM2: v })}
				says="Fewer plants are always some of the more: none moves."
			/>
			<div className="grid grid-cols-2 gap-x-3">
				<NumberLine
					label="Size from"
					value={cover.sizeM[0]}
					unit="m"
					min={0.02}
					max={30}
					step={0.05}
					onCommit={(v) => size(0, v)}
				/>
				<NumberLine
					label="to"
					value={cover.sizeM[1]}
					unit="m"
					min={0.02}
					max={30}
					step={0.05}
					onCommit={(v) => size(1, v)}
				/>
			</div>
			<NumberLine
				label="Seed"
				value={cover.seed}
				min={0}
				max={99999}
				step={1}
				digits={0}
				onCommit={(seed) => commit(change({ seed: Math.round(seed) }))}
			/>
			<Swatch
				label="Colour"
				value={cover.colour}
				onPreview={(colour) => show(change({ colour }))}
				onCommit={(colour) => commit(change({ colour }))}
			/>
			<LaidLines
				laid={cover.laid ?? null}
				plants
				colour={cover.colour}
				tintOf="In the plants' colours"
				onShow={(laid) => show(laid === undefined ? null : change({ laid: inTheirColours(laid, cover) }))}
				onCommit={(laid) => commit(change({ laid: inTheirColours(laid, cover) }))}
			/>
			<p className="pt-2 text-second text-small">Where</p>
			{cover.rules.map((rule, index) => (
				<RuleLine key={index} rule={rule} edit={(r) => ({ name: "cover.setRule", id: cover.id, index, rule: r })} />
			))}
			<div className="flex flex-wrap gap-2 py-1">
				{missing.map(({ usual, begun, act }) => (
					<Act
						key={usual.kind}
						onClick={() => {
							const rule = begun?.(useShot.getState().document.camera) ?? { ...usual };
							commit({ name: "cover.setRule", id: cover.id, index: cover.rules.length, rule });
						}}
					>
						{act}
					</Act>
				))}
			</div>
			<YesNo label="Shown" value={!cover.hidden} onPick={(v) => commit(change({ hidden: !v }))} />
			<Act onClick={() => commit({ name: "cover.remove", id: cover.id }) && set({ cover: null })}>
				Delete this cover
			</Act>
		</div>
	);
}

/** One where rule as a sentence with its numbers. A click on the words leaves it out or takes it in. */
function RuleLine({ rule, edit }: { rule: Rule; edit: (r: Rule) => Edit }) {
	const { sentence, fields } = ruleOf(rule);
	const { commit } = useShot.getState();
	return (
		<div className="border-hair border-b py-1">
			<button
				type="button"
				role="switch"
				aria-checked={!rule.out}
				className={clsx("text-left", rule.out && "text-second line-through")}
				onClick={() => commit(edit({ ...rule, out: !rule.out }))}
			>
				{sentence(rule)}
			</button>
			{!rule.out && <FieldLines of={rule} fields={fields} edit={edit} />}
		</div>
	);
}
