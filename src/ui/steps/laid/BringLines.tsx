"use client";
/** A surface brought in as pictures: what each of them tells is known by its name, shown, and set right before they are taken. */
import { useEffect, useRef, useState } from "react";
import { ImageFile, ImageRole, ImageSurface, type Laid, MOST_IMAGE_SURFACES } from "../../../core/doc/schema.ts";
import { handedOf, laidAsBrought, roleOf } from "../../../core/surface/brought.ts";
import { Act, NameLine, NumberLine, PickLine } from "../../parts/controls.tsx";
import { newId } from "../../parts/words.ts";
import { keepLandPicture, nameOf } from "../../reference/references.ts";
import { useShot, useShown } from "../../store/shotStore.ts";

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

/** Keeps a picture and reads it. What tells of one thing alone is read as grey where it is a file of that, otherwise by its colours. */
async function kept(file: File, role: ImageRole): Promise<ImageFile> {
	const keep = async (as: ImageFile["as"]): Promise<ImageFile> => {
		const { file: blob, widthPx, heightPx, bits } = await keepLandPicture(file, as);
		return ImageFile.parse({ file: blob, name: nameOf(file, "Picture"), widthPx, heightPx, bits, as });
	};
	if (role === "colour" || role === "normal") return keep("colours");
	return /\.(png|exr)$/i.test(file.name) ? keep("heights").catch(() => keep("colours")) : keep("colours");
}

export function BringLines({ onPick }: { onPick: (laid: Laid) => void }) {
	const { imageSurfaces = [] } = useShown();
	const commit = useShot((s) => s.commit);
	const input = useRef<HTMLInputElement>(null);
	const [all, setAll] = useState<Brought[]>([]);
	return (
		<div className="pt-1 text-small">
			{imageSurfaces.map(({ id, name }) => (
				<div key={id} className="flex items-baseline justify-between gap-2 py-[2px]">
					<span className="min-w-0 truncate">{name}</span>
					<Act onClick={() => commit({ name: "imageSurface.remove", id })}>Take out of the shot</Act>
				</div>
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
	const [name, setName] = useState(() => nameOf((all.find((b) => b.role === "colour") ?? all[0]).file, "Pictures"));
	const [sideM, setSide] = useState(2);
	const [depthMm, setDepth] = useState(20);
	const normal = all.find((b) => b.role === "normal");
	const [handed, setHanded] = useState<ImageSurface["handed"] | null>(() =>
		normal ? handedOf(normal.file.name) : null,
	);
	const [reading, setReading] = useState<string | null>(null);
	const used = all.filter((b): b is Brought & { role: ImageRole } => b.role !== OUT);
	const missing = !used.some((b) => b.role === "colour")
		? "One of them has to tell the colour."
		: new Set(used.map((b) => b.role)).size < used.length
			? "Two of them tell the same: leave one out."
			: normal && !handed
				? "The file does not say which way green of its normals leans: bumps look like dents with the other one."
				: null;
	const take = async () => {
		try {
			const files: Partial<Record<ImageRole, ImageFile>> = {};
			for (const [n, { file, role }] of used.entries()) {
				setReading(`Reading ${n + 1} of ${used.length}: ${file.name}`);
				files[role] = await kept(file, role).catch((error: Error) => {
					throw new Error(`${file.name}: ${error.message}`);
				});
			}
			const surface = ImageSurface.parse({ id: newId(), name, sideM, depthMm, handed: handed ?? "up", files });
			if (!commit({ name: "imageSurface.set", surface })) return;
			const { widthPx, heightPx } = surface.files.colour;
			if (widthPx !== heightPx) say(`"${name}" is not square: its middle square is taken.`);
			onPick(laidAsBrought(surface));
			onChange([]);
		} catch (error) {
			say((error as Error).message);
		} finally {
			setReading(null);
		}
	};
	return (
		<section aria-label="Pictures brought in" className="border-hair border-t pt-1">
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
			<NameLine label="Name of the surface" name={name} onCommit={setName} />
			<div className="grid grid-cols-2 gap-x-3">
				<NumberLine label="Shows" value={sideM} unit="m" min={0.02} max={200} step={0.1} onCommit={setSide} />
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
			</div>
			{normal && (
				<PickLine
					label="Green of normals leans"
					value={handed}
					empty="not known"
					options={[
						["up", "up the picture"],
						["down", "down the picture"],
					]}
					onPick={setHanded}
				/>
			)}
			<p className="py-1 text-second" role="status">
				{reading ?? missing ?? ""}
			</p>
			<div className="flex gap-1">
				<Act onClick={() => void take()} disabled={reading !== null || missing !== null}>
					Take them
				</Act>
				<Act onClick={() => onChange([])} disabled={reading !== null}>
					Leave them
				</Act>
			</div>
		</section>
	);
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
