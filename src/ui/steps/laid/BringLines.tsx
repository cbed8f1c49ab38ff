"use client";
/** A surface brought in as pictures: what each of them tells is known by its name, shown, and set right before they are taken. */
import { useEffect, useMemo, useRef, useState } from "react";
import {
	ImageFile,
	ImageRole,
	type ImageSequence,
	ImageSurface,
	type Laid,
	MOST_IMAGE_SURFACES,
	MOST_SEQUENCE,
} from "../../../core/doc/schema.ts";
import { millimetres } from "../../../core/maths/functions.ts";
import { handedOf, laidAsBrought, roleOf } from "../../../core/surface/brought.ts";
import { Act, NameLine, NumberLine, PickLine } from "../../parts/controls.tsx";
import { newId } from "../../parts/words.ts";
import { keepLandPicture, nameOf } from "../../reference/references.ts";
import { useShot } from "../../store/shotStore.ts";
import { standUp } from "./standUp.ts";

const TAKES = "image/png,image/jpeg,image/webp,image/tiff,.exr";
const OUT = "left out" as const;

interface Brought {
	file: File;
	role: ImageRole | typeof OUT;
}

/** Roles by the files' names; a second one of a kind is left out, and one alone is the colour. */
function known(files: readonly File[]): Brought[] {
	const taken = new Set<string>();
	const all = files.map((file): Brought => {
		const role = roleOf(file.name) ?? OUT;
		if (taken.has(role)) return { file, role: OUT };
		if (role !== OUT) taken.add(role);
		return { file, role };
	});
	const first = all.find(({ role }) => role === OUT);
	return taken.has("colour") || !first ? all : all.map((one) => (one === first ? { ...one, role: "colour" } : one));
}

/** What a picture tells, kept and read. */
interface Kept {
	file: ImageFile;
	/** The channel that was read, where there were others. */
	channel: string | null;
}

async function keep(file: File, as: ImageFile["as"]): Promise<Kept> {
	const { file: blob, widthPx, heightPx, bits, channel } = await keepLandPicture(file, as);
	return {
		file: ImageFile.parse({ file: blob, name: nameOf(file, "Picture"), widthPx, heightPx, bits, as }),
		channel,
	};
}

/** What tells of one thing alone is read as grey where it is a file of that, otherwise by its colours. */
async function kept(file: File, role: ImageRole): Promise<ImageFile> {
	if (role === "cut") return (await keep(file, "cut")).file;
	if (role === "colour" || role === "normal" || !/\.(png|exr)$/i.test(file.name))
		return (await keep(file, "colours")).file;
	return (await keep(file, "heights").catch(() => keep(file, "colours"))).file;
}

/** What of a picture of colours is seen through, where it says so itself. */
async function ownCut(file: File): Promise<ImageFile | undefined> {
	if (!/\.(png|webp|tiff?)$/i.test(file.name)) return undefined;
	const { file: cut, channel } = await keep(file, "cut");
	return channel === "alpha" ? cut : undefined;
}

/** Frames of a sequence, in the order of the numbers that end their names; null where the files are no such. */
function framesOf(files: readonly File[]): File[] | null {
	const told = files.map((file) => ({ file, match: /^(.*?)(\d+)\.[a-z]+$/i.exec(file.name) }));
	const [stem] = told.map(({ match }) => match?.[1]);
	if (files.length < 3 || stem === undefined || told.some(({ match }) => match?.[1] !== stem)) return null;
	return told.sort((a, b) => Number(a.match?.[2]) - Number(b.match?.[2])).map(({ file }) => file);
}

const STANDS = { repeats: "repeats", once: "stands once, whole" } as const;

export function BringLines({ onPick }: { onPick: (laid: Laid) => void }) {
	// As they are kept: at a moment of a move a sequence stands as one of its frames.
	const imageSurfaces = useShot((s) => s.whole.imageSurfaces) ?? [];
	const input = useRef<HTMLInputElement>(null);
	const [all, setAll] = useState<Brought[]>([]);
	return (
		<div className="pt-1 text-small">
			{imageSurfaces.map((own) => (
				<BroughtLines key={own.id} own={own} />
			))}
			{all.length === 0 ? (
				<Act onClick={() => input.current?.click()} disabled={imageSurfaces.length >= MOST_IMAGE_SURFACES}>
					Bring in pictures
				</Act>
			) : (
				<Taking all={all} onChange={setAll} onPick={onPick} />
			)}
			<input
				ref={input}
				type="file"
				multiple
				hidden
				accept={TAKES}
				data-testid="bring-pictures"
				onChange={(e) => {
					setAll(known([...(e.target.files ?? [])]));
					e.target.value = "";
				}}
			/>
		</div>
	);
}

/** One that has been taken: what of it can be set right later, and its way out. */
function BroughtLines({ own }: { own: ImageSurface }) {
	const commit = useShot((s) => s.commit);
	const { id, name, sequence, files, handed } = own;
	const set = (change: Partial<ImageSurface>) => commit({ name: "imageSurface.set", surface: { ...own, ...change } });
	return (
		<div className="py-[2px]">
			<div className="flex items-baseline justify-between gap-2">
				<span className="min-w-0 truncate">{name}</span>
				<Act onClick={() => commit({ name: "imageSurface.remove", id })}>Take out of the shot</Act>
			</div>
			{sequence && <PerSecond perS={sequence.perS} onCommit={(perS) => set({ sequence: { ...sequence, perS } })} />}
			{files.normal && <Leans handed={handed} onPick={(leans) => set({ handed: leans })} />}
		</div>
	);
}

const PerSecond = ({ perS, onCommit }: { perS: number; onCommit: (perS: number) => void }) => (
	<NumberLine
		label="Frames a second"
		value={perS}
		unit=""
		min={0.1}
		max={120}
		step={1}
		digits={1}
		onCommit={onCommit}
	/>
);

const Leans = ({
	handed,
	onPick,
}: {
	handed: ImageSurface["handed"] | null;
	onPick: (handed: ImageSurface["handed"]) => void;
}) => (
	<PickLine
		label="Green of normals leans"
		value={handed}
		empty="not known"
		options={[
			["up", "up the picture"],
			["down", "down the picture"],
		]}
		onPick={onPick}
	/>
);

function Taking({
	all,
	onChange,
	onPick,
}: {
	all: readonly Brought[];
	onChange: (all: Brought[]) => void;
	onPick: (laid: Laid) => void;
}) {
	const { commit, say } = useShot.getState();
	const frames = useMemo(() => framesOf(all.map((b) => b.file)), [all]);
	const used = frames
		? [{ file: frames[0], role: "colour" as const }]
		: all.filter((b): b is Brought & { role: ImageRole } => b.role !== OUT);
	const tells = (role: ImageRole) => used.find((b) => b.role === role)?.file;
	const shows = tells("colour") ?? tells("height");
	const [name, setName] = useState(() => nameOf(frames?.[0] ?? tells("colour") ?? all[0].file, "Pictures"));
	const [once, setOnce] = useState(() => frames !== null || !!tells("cut") || !tells("colour"));
	const [sideM, setSide] = useState(2);
	const [perS, setPerS] = useState(24);
	const [depthMm, setDepth] = useState(() => (tells("height") ? 20 : 0));
	const aspect = useAspect(shows);
	const normal = tells("normal");
	const [handed, setHanded] = useState<ImageSurface["handed"] | null>(() => (normal ? handedOf(normal.name) : null));
	const [reading, setReading] = useState<string | null>(null);
	const missing = !shows
		? "One of them has to tell the colour, or the height."
		: !once && !tells("colour")
			? "What repeats has a colour: one of them has to tell it."
			: new Set(used.map((b) => b.role)).size < used.length
				? "Two of them tell the same: leave one out."
				: normal && !handed
					? "The file does not say which way green of its normals leans: bumps look like dents with the other one."
					: frames && frames.length > MOST_SEQUENCE
						? `A sequence has up to ${MOST_SEQUENCE} frames; these are ${frames.length}.`
						: null;
	const read = async (): Promise<ImageSurface> => {
		const files: Partial<Record<ImageRole, ImageFile>> = {};
		const reads = <T,>(file: File, n: number, of: number, act: () => Promise<T>): Promise<T> => {
			setReading(`Reading ${n + 1} of ${of}: ${file.name}`);
			return act().catch((error: Error) => {
				throw new Error(`${file.name}: ${error.message}`);
			});
		};
		const many = frames?.length ?? used.length;
		for (const [n, { file, role }] of used.entries()) files[role] = await reads(file, n, many, () => kept(file, role));
		const colour = tells("colour");
		if (once && colour) files.cut ??= await ownCut(colour);
		const later: ImageSequence["frames"] = [];
		for (const [n, file] of (frames ?? []).slice(1).entries())
			later.push(
				await reads(file, n + 1, many, async () => ({ colour: await kept(file, "colour"), cut: await ownCut(file) })),
			);
		const { widthPx, heightPx } = files.colour ?? (files.height as ImageFile);
		const highM = Math.min(200, Math.max(0.02, millimetres((sideM * heightPx) / widthPx)));
		return ImageSurface.parse({
			...{ id: newId(), name, sideM, depthMm, handed: handed ?? "up", files },
			...(once && { highM }),
			...(later.length > 0 && { sequence: { perS, frames: later } }),
		});
	};
	/** Reads them, and goes on with what they are. */
	const take = async (then: (surface: ImageSurface) => void) => {
		try {
			const surface = await read();
			if (!commit({ name: "imageSurface.set", surface })) return;
			const of = surface.files.colour;
			if (!once && of && of.widthPx !== of.heightPx) say(`"${name}" is not square: its middle square is taken.`);
			then(surface);
			onChange([]);
		} catch (error) {
			say((error as Error).message);
		} finally {
			setReading(null);
		}
	};
	return (
		<section aria-label="Pictures brought in" className="border-hair border-t pt-1">
			{frames ? (
				<div className="flex items-center gap-2 py-[2px]">
					<Glance file={frames[0]} />
					<span className="min-w-0 flex-1">{`${frames.length} frames, ${frames[0].name} to ${frames[frames.length - 1].name}`}</span>
				</div>
			) : (
				<ul>
					{all.map((one, i) => (
						<li key={one.file.name} className="flex items-center gap-2 py-[2px]">
							<Glance file={one.file} />
							<span className="min-w-0 flex-1">
								<PickLine
									label={one.file.name}
									value={one.role}
									options={[OUT, ...ImageRole.options].map((role) => [role, role] as const)}
									onPick={(role) => onChange(all.map((b, k) => (k === i ? { ...b, role } : b)))}
								/>
							</span>
						</li>
					))}
				</ul>
			)}
			<NameLine label="Name of the surface" name={name} onCommit={setName} />
			<PickLine
				label="It"
				value={once ? STANDS.once : STANDS.repeats}
				options={[STANDS.repeats, STANDS.once].map((word) => [word, word] as const)}
				onPick={(word) => setOnce(word === STANDS.once)}
			/>
			<div className="grid grid-cols-2 gap-x-3">
				<NumberLine
					label={once ? "Wide" : "Shows"}
					value={sideM}
					unit="m"
					min={0.02}
					max={200}
					step={0.1}
					onCommit={setSide}
				/>
				{once && aspect && <p className="self-center text-second">{`${(sideM * aspect || 0).toFixed(2)} m high`}</p>}
				<NumberLine
					label="Depth"
					value={depthMm}
					unit="mm"
					min={0}
					max={2000}
					step={1}
					digits={1}
					onCommit={setDepth}
				/>
				{frames && <PerSecond perS={perS} onCommit={setPerS} />}
			</div>
			{normal && <Leans handed={handed} onPick={setHanded} />}
			<p className="py-1 text-second" role="status">
				{reading ?? missing ?? ""}
			</p>
			<div className="flex flex-wrap gap-1">
				<Act
					onClick={() => void take((surface) => onPick(laidAsBrought(surface)))}
					disabled={reading !== null || missing !== null}
				>
					Take them
				</Act>
				{once && tells("colour") && (
					<Act onClick={() => void take(standUp)} disabled={reading !== null || missing !== null}>
						Stand it up as a card
					</Act>
				)}
				<Act onClick={() => onChange([])} disabled={reading !== null}>
					Leave them
				</Act>
			</div>
		</section>
	);
}

/** Height of a picture over its width, once the browser has read it; null where it cannot. */
function useAspect(file: File | undefined): number | null {
	const [aspect, setAspect] = useState<number | null>(null);
	useEffect(() => {
		let gone = false;
		setAspect(null);
		if (file)
			createImageBitmap(file).then(
				({ width, height }) => gone || setAspect(height / width),
				() => {},
			);
		return () => {
			gone = true;
		};
	}, [file]);
	return aspect;
}

/** A picture before it is taken; nothing where this browser cannot show it. */
function Glance({ file }: { file: File }) {
	const [src, setSrc] = useState<string | null>(null);
	useEffect(() => {
		const address = URL.createObjectURL(file);
		setSrc(address);
		return () => URL.revokeObjectURL(address);
	}, [file]);
	return src && !/\.(exr|tiff?)$/i.test(file.name) ? (
		// biome-ignore lint/performance/noImgElement: a file of the person's own, not on any server yet.
		<img src={src} alt="" className="size-10 shrink-0 border border-hair object-cover" />
	) : (
		<i className="size-10 shrink-0 border border-hair" />
	);
}
