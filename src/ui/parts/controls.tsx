"use client";
import clsx from "clsx";
import { Slider, ToggleGroup } from "radix-ui";
import { createContext, type ReactNode, useContext, useEffect, useId, useRef, useState } from "react";
/** Small controls of the ticket: numbers, thin rules with a paper block, choices, swatches. */
import { decodeSrgb, encodeSrgb } from "../../core/colour/linear.ts";

/** Linear colours that every choice of a colour offers: the palette aimed at. */
export const OfferedColours = createContext<readonly (readonly [number, number, number])[]>([]);

interface NumberProps {
	label: string;
	value: number;
	unit?: string;
	min: number;
	max: number;
	step?: number;
	/** Digits after the point. */
	digits?: number;
	disabled?: boolean;
	onCommit: (value: number) => void;
	/** Extra words behind the number. */
	note?: string;
}

/** Text of a number; a zero never carries a sign. */
const shown = (value: number, digits: number) =>
	Number.isFinite(value) ? value.toFixed(digits).replace(/^-(0(?:\.0*)?)$/, "$1") : "";

/** A line with a name and a number that can be typed over. Arrow keys step, Enter takes, Escape leaves as before. */
export function NumberLine({
	label,
	value,
	unit = "",
	min,
	max,
	step = 0.1,
	digits = 2,
	disabled,
	onCommit,
	note,
}: NumberProps) {
	/** What has been typed and not been taken, and the value that it was typed over. */
	const [draft, setDraft] = useState<{ text: string; over: number; trouble?: string } | null>(null);
	const id = useId();
	const field = useRef<HTMLInputElement>(null);
	// A value from elsewhere takes the place of words that were left behind, never of those under the hands.
	const typed = draft && (draft.over === value || document.activeElement === field.current) ? draft : null;
	const take = (text: string) => {
		const v = Number(text.replace(",", ".").replace("−", "-"));
		const trouble =
			text.trim() === "" || !Number.isFinite(v)
				? "This is not a number."
				: v < min || v > max
					? `From ${min.toLocaleString("en")} to ${max.toLocaleString("en")} ${unit}`
					: undefined;
		setDraft(trouble ? { text, over: value, trouble } : null);
		if (!trouble && shown(v, digits) !== shown(value, digits)) onCommit(v);
	};
	/** Enter or Escape has settled what was typed, so that leaving the field must not take it again. */
	const settled = useRef(false);
	const leave = () => {
		settled.current = true;
		field.current?.blur();
	};
	return (
		<div className="py-[3px]">
			<div className="flex items-baseline justify-between gap-2">
				<label htmlFor={id} className="text-second text-small">
					{label}
				</label>
				<span className="flex min-w-0 flex-1 items-baseline justify-end gap-1">
					<input
						id={id}
						className="w-full min-w-0 max-w-[4.6rem] border-transparent border-b bg-transparent text-right font-semibold hover:border-hair focus:border-ink"
						ref={field}
						value={typed?.text ?? shown(value, digits)}
						inputMode="decimal"
						disabled={disabled}
						aria-invalid={typed?.trouble ? true : undefined}
						onChange={(e) => setDraft({ text: e.target.value, over: value })}
						onBlur={(e) => {
							if (draft && !settled.current) take(e.target.value);
							settled.current = false;
						}}
						onKeyDown={(e) => {
							e.stopPropagation();
							if (e.key === "Enter") {
								if (draft) take(e.currentTarget.value);
								leave();
							}
							if (e.key === "Escape") {
								setDraft(null);
								leave();
							}
							if (e.key === "ArrowUp" || e.key === "ArrowDown") {
								e.preventDefault();
								setDraft(null);
								const next = value + (e.key === "ArrowUp" ? step : -step) * (e.shiftKey ? 10 : 1);
								onCommit(Math.min(max, Math.max(min, Number(next.toFixed(6)))));
							}
						}}
					/>
					{unit && <span className="text-small">{unit}</span>}
					{note && <span className="text-second text-small">{note}</span>}
				</span>
			</div>
			{typed?.trouble && (
				<p role="alert" className="text-madder text-small">
					{typed.trouble}
				</p>
			)}
		</div>
	);
}

interface RuleProps extends Omit<NumberProps, "onCommit" | "note"> {
	/** Shapes the rule: values are spread by their logarithm. */
	logarithmic?: boolean;
	onPreview: (value: number) => void;
	onCommit: (value: number) => void;
	says?: string;
}

/** Of a logarithmic rule: the share of it that a key goes by. */
const LOGARITHMIC_STEP = 0.004;

/** A number on a thin rule. Dragging previews, letting go commits. */
export function Rule({
	label,
	value,
	unit = "",
	min,
	max,
	step = 0.01,
	digits = 2,
	logarithmic,
	disabled,
	onPreview,
	onCommit,
	says,
}: RuleProps) {
	const to = (v: number) => (logarithmic ? Math.log(v / min) / Math.log(max / min) : (v - min) / (max - min));
	const from = (t: number) => {
		const v = logarithmic ? min * (max / min) ** t : min + t * (max - min);
		return logarithmic ? Number(v.toPrecision(3)) : Math.round(v / step) * step;
	};
	return (
		<div className="py-1">
			<NumberLine
				label={label}
				value={value}
				unit={unit}
				min={min}
				max={max}
				step={step}
				digits={digits}
				disabled={disabled}
				onCommit={onCommit}
			/>
			<Slider.Root
				className="relative flex h-4 touch-none select-none items-center"
				min={0}
				max={1}
				// A key goes by a step of the number itself.
				step={logarithmic ? LOGARITHMIC_STEP : Math.max(0.001, step / (max - min))}
				disabled={disabled}
				value={[Math.min(1, Math.max(0, to(Math.max(min, value))))]}
				onValueChange={([t]) => onPreview(Number(from(t).toFixed(6)))}
				onValueCommit={([t]) => onCommit(Number(from(t).toFixed(6)))}
				// Its keys are its own, and no keys of the room.
				onKeyDown={(e) => e.stopPropagation()}
			>
				<Slider.Track className="relative h-px grow bg-hair">
					<Slider.Range className="absolute -top-px h-[3px] bg-ink" />
				</Slider.Track>
				<Slider.Thumb aria-label={label} className="block h-4 w-2 rounded-[2px] border border-ink bg-paper" />
			</Slider.Root>
			{says && <p className="pt-0.5 text-second text-small">{says}</p>}
		</div>
	);
}

/** The name of a thing, typed over. What is empty leaves it as it was. */
export function NameLine({ label, name, onCommit }: { label: string; name: string; onCommit: (name: string) => void }) {
	const [text, setText] = useState(name);
	useEffect(() => setText(name), [name]);
	return (
		<input
			aria-label={label}
			className="min-w-0 flex-1 border-transparent border-b bg-transparent font-title text-[1.15rem] italic hover:border-hair focus:border-ink"
			value={text}
			maxLength={80}
			onChange={(e) => setText(e.target.value)}
			onKeyDown={(e) => (e.stopPropagation(), e.key === "Enter" && e.currentTarget.blur())}
			onBlur={() => (text.trim() ? text !== name && onCommit(text.trim()) : setText(name))}
		/>
	);
}

/** One of a few words. Arrows go from word to word, Enter and Space pick: each pick is an edit, arrows are none. */
export function Choice<T extends string>({
	label,
	options,
	value,
	onPick,
	small,
	columns,
	picture,
}: {
	label: string;
	options: readonly T[];
	value: T | null;
	onPick: (v: T) => void;
	small?: boolean;
	/** In rows of so many, where they do not fit in one. */
	columns?: number;
	/** What stands in a word's place; the word is told all the same. */
	picture?: (of: T, picked: boolean) => ReactNode;
}) {
	return (
		<ToggleGroup.Root
			type="single"
			role="radiogroup"
			aria-label={label}
			value={value ?? ""}
			// The word that is picked is told as none when it is pressed again.
			onValueChange={(picked) => onPick((picked || value) as T)}
			className={clsx(
				"overflow-hidden rounded-[5px] border border-ink/45",
				columns ? "grid w-full" : "inline-flex",
				!small && "w-full",
			)}
			style={columns ? { gridTemplateColumns: `repeat(${columns}, 1fr)` } : undefined}
		>
			{options.map((o, i) => (
				<ToggleGroup.Item
					key={o}
					value={o}
					aria-label={picture && o}
					title={picture && o}
					className={clsx(
						"flex-1 whitespace-nowrap py-[3px] text-small focus-visible:-outline-offset-2",
						!picture && (columns && columns > 4 ? "px-0" : "px-2"),
						(columns ? i % columns : i) > 0 && "border-hair border-l",
						columns && i >= columns && "border-hair border-t",
						o === value ? "bg-ink text-paper" : "bg-paper hover:bg-hair/40",
					)}
				>
					{picture ? picture(o, o === value) : o}
				</ToggleGroup.Item>
			))}
		</ToggleGroup.Root>
	);
}

/** One of many words, on a line with its name. `empty` is said while none of them is picked. */
export function PickLine<T extends string>({
	label,
	options,
	value,
	empty,
	onPick,
}: {
	label: string;
	options: readonly (readonly [value: T, word: string])[];
	value: T | null;
	empty?: string;
	onPick: (value: T) => void;
}) {
	const id = useId();
	return (
		<div className="flex items-baseline justify-between gap-2 py-1">
			<label htmlFor={id} className="min-w-0 truncate text-second text-small">
				{label}
			</label>
			<select
				id={id}
				className="min-w-0 max-w-[11rem] rounded-[3px] border border-ink/45 bg-paper text-small"
				value={value ?? ""}
				onChange={(e) => onPick(e.target.value as T)}
			>
				{value === null && (
					<option value="" disabled>
						{empty}
					</option>
				)}
				{options.map(([of, word]) => (
					<option key={of} value={of}>
						{word}
					</option>
				))}
			</select>
		</div>
	);
}

/** A line of words that acts. */
export function Act({
	children,
	onClick,
	disabled,
	strong,
}: {
	children: ReactNode;
	onClick: () => void;
	disabled?: boolean;
	strong?: boolean;
}) {
	return (
		<button
			type="button"
			onClick={onClick}
			disabled={disabled}
			className={clsx(
				"rounded-[5px] border px-2 py-[3px] text-small",
				strong ? "border-ink bg-ink text-paper" : "border-ink/45 bg-paper hover:bg-hair/40",
			)}
		>
			{children}
		</button>
	);
}

/** Yes or no, as words. */
export function YesNo({
	label,
	value,
	onPick,
	yes = "yes",
	no = "no",
}: {
	label: string;
	value: boolean;
	onPick: (v: boolean) => void;
	yes?: string;
	no?: string;
}) {
	return (
		<div className="flex items-baseline justify-between py-[3px]">
			<span className="text-second text-small">{label}</span>
			<button
				type="button"
				role="switch"
				aria-checked={value}
				aria-label={label}
				className="font-semibold underline decoration-hair underline-offset-4 hover:decoration-ink"
				onClick={() => onPick(!value)}
			>
				{value ? yes : no}
			</button>
		</div>
	);
}

const encode = (x: number) => Math.round(255 * encodeSrgb(x));
export const toHex = (c: readonly number[]): string =>
	`#${c
		.map((v) =>
			encode(Math.min(1, Math.max(0, v)))
				.toString(16)
				.padStart(2, "0"),
		)
		.join("")}`;
export const fromHex = (h: string): [number, number, number] =>
	[1, 3, 5].map((i) => Number(decodeSrgb(Number.parseInt(h.slice(i, i + 2), 16) / 255).toFixed(5))) as [
		number,
		number,
		number,
	];

/** A colour: linear in the document, sRGB for the eye. The colours aimed at lie beside it. */
export function Swatch({
	label,
	value,
	onPreview,
	onCommit,
}: {
	label: string;
	value: readonly number[];
	onPreview: (c: [number, number, number]) => void;
	onCommit: (c: [number, number, number]) => void;
}) {
	const offered = useContext(OfferedColours);
	return (
		<div className="py-[3px]">
			<label className="flex items-center justify-between">
				<span className="text-second text-small">{label}</span>
				<input
					type="color"
					aria-label={label}
					className="h-6 w-16 rounded-[3px] border border-ink/45 bg-transparent p-0"
					value={toHex(value)}
					onInput={(e) => onPreview(fromHex(e.currentTarget.value))}
					onBlur={(e) =>
						fromHex(e.currentTarget.value).some((v, i) => Math.abs(v - value[i]) > 0.004) &&
						onCommit(fromHex(e.currentTarget.value))
					}
					onChange={(e) => onCommit(fromHex(e.currentTarget.value))}
				/>
			</label>
			{offered.length > 0 && (
				<fieldset className="flex justify-end gap-[2px] pt-[2px]" aria-label={`${label}, from the palette aimed at`}>
					{offered.map((c) => (
						<button
							key={toHex(c)}
							type="button"
							className="h-[14px] w-[18px] border border-ink/45"
							style={{ background: toHex(c) }}
							aria-label={`${label}: ${toHex(c)} of the palette`}
							title={toHex(c)}
							onClick={() => onCommit(c.map((v) => Number(v.toFixed(5))) as [number, number, number])}
						/>
					))}
				</fieldset>
			)}
		</div>
	);
}
