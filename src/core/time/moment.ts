/** What of a shot depends on the moment, or on where the lens is, besides what is keyed: sequences of pictures, and what turns to the lens. */
import type { ImageSurface, Piece, ShotDocument } from "../doc/schema.ts";
import type { Vec3 } from "../maths/vec.ts";
import { headingToLens, type Turning } from "../shape/place.ts";
import { turnsToLens } from "../shape/shapes.ts";

type Sequenced = ImageSurface & { sequence: NonNullable<ImageSurface["sequence"]> };

const isSequence = (own: ImageSurface): own is Sequenced => own.sequence !== undefined;

/** Number of a sequence's frame at a time, seconds: the first is 0, and comes again after the last. */
export function frameOf({ perS, frames }: Sequenced["sequence"], timeS: number): number {
	const all = frames.length + 1;
	const n = Math.floor(timeS * perS + 1e-6) % all;
	return n < 0 ? n + all : n;
}

const frames = new WeakMap<ImageSurface, Map<number, ImageSurface>>();

/** A surface with the pictures of one of its frames; the same object when it is asked for again. */
function atFrame(own: Sequenced, n: number): ImageSurface {
	if (n === 0) return own;
	const known = frames.get(own) ?? new Map<number, ImageSurface>();
	frames.set(own, known);
	const { colour, cut } = own.sequence.frames[n - 1];
	const made = known.get(n) ?? { ...own, files: { ...own.files, colour, cut } };
	known.set(n, made);
	return made;
}

const lists = new WeakMap<readonly ImageSurface[], Map<string, ImageSurface[]>>();

function withSequences(doc: ShotDocument, timeS: number): ShotDocument {
	const { imageSurfaces } = doc;
	if (!imageSurfaces?.some(isSequence)) return doc;
	const numbers = imageSurfaces.map((own) => (isSequence(own) ? frameOf(own.sequence, timeS) : 0));
	const known = lists.get(imageSurfaces) ?? new Map<string, ImageSurface[]>();
	lists.set(imageSurfaces, known);
	const name = numbers.join();
	const now = known.get(name) ?? imageSurfaces.map((own, i) => (isSequence(own) ? atFrame(own, numbers[i]) : own));
	known.set(name, now);
	return { ...doc, imageSurfaces: now };
}

const turnedPieces = new WeakMap<Piece, { lens: readonly number[]; made: Piece | Turning }>();

/** The same object for the same lens, so that what is made from pieces is made once. Of a repeat each copy turns by itself. */
function turned(piece: Piece, lens: Vec3): Piece {
	const known = turnedPieces.get(piece);
	if (known?.lens.every((v, c) => v === lens[c])) return known.made;
	const made = piece.repeat ? { ...piece, lens } : { ...piece, headingDeg: headingToLens(piece.position, lens) };
	turnedPieces.set(piece, { lens, made });
	return made;
}

function withCards(doc: ShotDocument): ShotDocument {
	if (!doc.pieces.some(({ shape }) => turnsToLens(shape))) return doc;
	const { position } = doc.camera;
	return {
		...doc,
		pieces: doc.pieces.map((piece) => (turnsToLens(piece.shape) ? turned(piece, position) : piece)),
	};
}

const stills = new WeakMap<ShotDocument, ShotDocument>();

/** The document as it is seen at a moment, seconds; the same one where nothing of it depends on that. Null is the still. */
export function atMoment(doc: ShotDocument, timeS: number | null): ShotDocument {
	if (timeS !== null) return withCards(withSequences(doc, timeS));
	const known = stills.get(doc);
	if (known) return known;
	const now = withCards(doc);
	stills.set(doc, now);
	return now;
}
