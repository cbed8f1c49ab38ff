"use client";
/** Dress: covers of grown plants, and where they stand, as sentences that are struck through while left out. */
import clsx from "clsx";
import { newCover } from "../../core/doc/defaults.ts";
import { type Cover, Species, type Rule as WhereRule } from "../../core/doc/schema.ts";
import { newId } from "../frame/geometry.ts";
import { Act, Choice, NumberLine, Rule, Swatch, YesNo } from "../parts/controls.tsx";
import { useShot, useShown } from "../store/shotStore.ts";
import { useStudio } from "../store/studio.ts";

export function DressStep() {
	const doc = useShown();
	const { cover: chosen, thinning, set } = useStudio();
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
			<div className="flex gap-2 py-2">
				<Act onClick={() => add("tussock")}>Add tussocks</Act>
				<Act onClick={() => add("shrub")}>Add low shrubs</Act>
			</div>
			{open && <CoverLines cover={open} />}
		</div>
	);
}

function CoverLines({ cover }: { cover: Cover }) {
	const { commit, show } = useShot.getState();
	const set = useStudio((s) => s.set);
	const change = (c: Partial<Omit<Cover, "id" | "rules" | "densityPerM2">>) => ({
		name: "cover.set" as const,
		id: cover.id,
		change: c,
	});
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
			<Rule
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
			<p className="pt-2 text-second text-small">Where</p>
			{cover.rules.map((rule, index) => (
				<RuleLine
					key={index}
					rule={rule}
					onChange={(r) => commit({ name: "cover.setRule", id: cover.id, index, rule: r })}
				/>
			))}
			{!cover.rules.some((r) => r.kind === "patches") && (
				<div className="py-1">
					<Act
						onClick={() =>
							commit({
								name: "cover.setRule",
								id: cover.id,
								index: cover.rules.length,
								rule: { kind: "patches", out: false, sizeM: 6, share: 0.4, featherM: 0.3 },
							})
						}
					>
						In patches
					</Act>
				</div>
			)}
			<YesNo label="Shown" value={!cover.hidden} onPick={(v) => commit(change({ hidden: !v }))} />
			<Act onClick={() => commit({ name: "cover.remove", id: cover.id }) && set({ cover: null })}>
				Delete this cover
			</Act>
		</div>
	);
}

/** One where rule as a sentence with its numbers. A click on the words leaves it out or takes it in. */
function RuleLine({ rule, onChange }: { rule: WhereRule; onChange: (r: WhereRule) => void }) {
	const small = { step: 0.1, digits: 2 };
	const fields = (() => {
		switch (rule.kind) {
			case "in view":
				return {
					words: "in the frame",
					lines: [
						<NumberLine
							key="m"
							label="and a margin of"
							value={rule.marginPercent}
							unit="%"
							min={0}
							max={100}
							step={1}
							digits={0}
							onCommit={(v) => onChange({ ...rule, marginPercent: v })}
						/>,
					],
				};
			case "near the lens":
				return {
					words: `within ${rule.distanceM.toFixed(0)} m of the lens`,
					lines: [
						<NumberLine
							key="d"
							label="Distance"
							value={rule.distanceM}
							unit="m"
							min={0.5}
							max={3000}
							step={5}
							digits={1}
							onCommit={(v) => onChange({ ...rule, distanceM: v })}
						/>,
						<NumberLine
							key="f"
							label="Feather"
							value={rule.featherM}
							unit="m"
							min={0}
							max={3000}
							step={5}
							digits={1}
							onCommit={(v) => onChange({ ...rule, featherM: v })}
						/>,
					],
				};
			case "away from pieces":
				return {
					words: `not within ${rule.widthM.toFixed(2)} m of a piece`,
					lines: [
						<NumberLine
							key="w"
							label="Width"
							value={rule.widthM}
							unit="m"
							min={0}
							max={200}
							{...small}
							onCommit={(v) => onChange({ ...rule, widthM: v })}
						/>,
						<NumberLine
							key="f"
							label="Feather"
							value={rule.featherM}
							unit="m"
							min={0}
							max={200}
							{...small}
							onCommit={(v) => onChange({ ...rule, featherM: v })}
						/>,
					],
				};
			case "slope":
				return {
					words: `where the slope is below ${rule.maxDeg.toFixed(0)}°`,
					lines: [
						<NumberLine
							key="s"
							label="Slope"
							value={rule.maxDeg}
							unit="°"
							min={0}
							max={90}
							step={1}
							digits={0}
							onCommit={(v) => onChange({ ...rule, maxDeg: v })}
						/>,
					],
				};
			case "above water":
				return {
					words: "above the water",
					lines: [
						<NumberLine
							key="m"
							label="by at least"
							value={rule.marginM}
							unit="m"
							min={-10}
							max={1000}
							{...small}
							onCommit={(v) => onChange({ ...rule, marginM: v })}
						/>,
					],
				};
			case "patches":
				return {
					words: `in patches, on ${Math.round(rule.share * 100)} % of the ground`,
					lines: [
						<NumberLine
							key="s"
							label="Size of a patch"
							value={rule.sizeM}
							unit="m"
							min={0.2}
							max={1000}
							step={1}
							digits={1}
							onCommit={(v) => onChange({ ...rule, sizeM: v })}
						/>,
						<NumberLine
							key="h"
							label="Share"
							value={rule.share * 100}
							unit="%"
							min={2}
							max={100}
							step={5}
							digits={0}
							onCommit={(v) => onChange({ ...rule, share: v / 100 })}
						/>,
					],
				};
		}
	})();
	return (
		<div className="border-hair border-b py-1">
			<button
				type="button"
				role="switch"
				aria-checked={!rule.out}
				className={clsx("text-left", rule.out && "text-second line-through")}
				onClick={() => onChange({ ...rule, out: !rule.out })}
			>
				{fields.words}
			</button>
			{!rule.out && <div className="grid grid-cols-2 gap-x-3">{fields.lines}</div>}
		</div>
	);
}
