/** Files that a shot refers to by their hash, and what they are to it. */
import type { Candidate, Clip, ImageSurface, LandEntry, Reference, ShotDocument, SkyPicture } from "./schema.ts";

export interface NamedFile {
	blob: string;
	/** As a message calls it. */
	what: string;
}

export const filesOfReference = ({ name, blob, clip }: Reference): NamedFile[] => [
	{ blob, what: `picture of the reference "${name}"` },
	...(clip ? [{ blob: clip.blob, what: `clip that the reference "${name}" was pulled from` }] : []),
];

export const filesOfClip = ({ name, blob }: Clip): NamedFile[] => [{ blob, what: `clip "${name}"` }];

export const filesOfCandidate = ({ name, thumbnail }: Candidate): NamedFile[] =>
	thumbnail ? [{ blob: thumbnail, what: `thumbnail of the camera "${name}"` }] : [];

export const filesOfSky = (picture: SkyPicture | null | undefined): NamedFile[] =>
	picture ? [{ blob: picture.file, what: `sky picture "${picture.name}"` }] : [];

export const filesOfEntry = (entry: LandEntry): NamedFile[] =>
	"files" in entry
		? Object.values(entry.files).flatMap((own) => (own ? [{ blob: own.file, what: `land picture "${own.name}"` }] : []))
		: [];

export const filesOfImageSurface = ({ name, files, sequence }: ImageSurface): NamedFile[] =>
	[...Object.values(files), ...(sequence?.frames ?? []).flatMap(({ colour, cut }) => [colour, cut])].flatMap((own) =>
		own ? [{ blob: own.file, what: `picture "${own.name}" of the surface "${name}"` }] : [],
	);

export const filesOf = ({
	references,
	clips = [],
	candidates = [],
	air,
	ground,
	imageSurfaces = [],
}: ShotDocument): NamedFile[] => [
	...references.flatMap(filesOfReference),
	...clips.flatMap(filesOfClip),
	...candidates.flatMap(filesOfCandidate),
	...filesOfSky(air.picture),
	...(ground.ledger ?? []).flatMap(filesOfEntry),
	...imageSurfaces.flatMap(filesOfImageSurface),
];
