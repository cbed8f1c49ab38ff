/** The page's side of the stage: starts the workers, sends documents, hands out scenes and proofs. */
import { differenceOf } from "../../core/doc/difference.ts";
import type { FramePart, ShotDocument } from "../../core/doc/schema.ts";
import type { LandPicture } from "../../core/formats/landPicture.ts";
import type { LandField } from "../../core/ground/field.ts";
import type { LandRead } from "../../core/ground/pictures.ts";
import type { ScenePart, SceneRoot } from "../../core/scene/scene.ts";
import type { Leeway } from "../../core/study/roomToMove.ts";
import type { Share } from "../../core/study/shares.ts";
import type { SmallFrame } from "../../core/study/smallFrame.ts";
import { type Moment, STILL } from "../../core/time/frames.ts";
import type { FromStage, ProofState, SetFile, ToStage } from "./messages.ts";

export interface StageListener {
	scene: (
		root: SceneRoot,
		parts: Map<string, ScenePart>,
		info: { number: number; compileMs: number; sameLight: boolean },
	) => void;
	proof: (state: ProofState) => void;
	shares: (shares: Share[]) => void;
	rooms: (rooms: Leeway[]) => void;
	small: (small: SmallFrame) => void;
	wearing: (share: number) => void;
	field: (key: string, id: string, field: LandField) => void;
	waters: (told: [id: string, told: string][]) => void;
	landPicture: (read: LandRead, picture: LandPicture) => void;
	trouble: (message: string) => void;
}

export interface Picked {
	/** Its id, or null for nothing. */
	thing: string | null;
	/** Metres along the ray; infinite for the sky. */
	distanceM: number;
}

export class StageClient {
	private worker: Worker;
	private tiles: Worker[] = [];
	private parts = new Map<string, ScenePart>();
	private number = 0;
	/** The document that the worker has. */
	private told: ShotDocument | null = null;
	private picks = new Map<number, (r: Picked) => void>();
	private sets = new Map<
		number,
		{ resolve: (bytes: Uint8Array<ArrayBuffer>) => void; reject: (error: Error) => void }
	>();
	private nextPick = 1;

	constructor(listener: StageListener) {
		this.worker = new Worker(new URL("./stage.worker.ts", import.meta.url), { type: "module" });
		this.worker.onmessage = ({ data }: MessageEvent<FromStage>) => {
			if (data.type === "scene") {
				for (const part of data.fresh) this.parts.set(part.key, part);
				const keep = new Set(data.keys);
				for (const key of this.parts.keys()) if (!keep.has(key)) this.parts.delete(key);
				listener.scene(data.root, this.parts, data);
			} else if (data.type === "proof") {
				listener.proof(data.state);
			} else if (data.type === "shares") {
				listener.shares(data.shares);
			} else if (data.type === "rooms") {
				listener.rooms(data.rooms);
			} else if (data.type === "small") {
				listener.small(data.small);
			} else if (data.type === "picked") {
				this.picks.get(data.id)?.(data);
				this.picks.delete(data.id);
			} else if (data.type === "wearing") {
				listener.wearing(data.share);
			} else if (data.type === "field") {
				listener.field(data.key, data.id, data.field);
			} else if (data.type === "waters") {
				listener.waters(data.told);
			} else if (data.type === "landPicture") {
				listener.landPicture(data.read, data.picture);
			} else if (data.type === "set") {
				const asked = this.sets.get(data.id);
				this.sets.delete(data.id);
				if (data.bytes) asked?.resolve(data.bytes);
				else asked?.reject(new Error(data.message));
			} else {
				listener.trouble(data.message);
			}
		};
		this.worker.onerror = () =>
			listener.trouble("The worker that compiles the shot has stopped. Reload the page; nothing is lost.");
		void this.start(listener);
	}

	private async start(listener: StageListener): Promise<void> {
		if (!crossOriginIsolated) {
			listener.trouble(
				"This page is not isolated, so proofs cannot be traced here. Open it at the address that the start command shows.",
			);
			return;
		}
		const [kernel, weights] = await Promise.all([
			WebAssembly.compileStreaming(fetch("/kernel.wasm")),
			fetch("/clean.bin").then((r) => r.arrayBuffer()),
		]);
		const ports: MessagePort[] = [];
		for (let i = 0; i < Math.max(1, Math.min(16, navigator.hardwareConcurrency || 2)); i++) {
			const tile = new Worker(new URL("./tile.worker.ts", import.meta.url), { type: "module" });
			const channel = new MessageChannel();
			tile.postMessage(null, [channel.port2]);
			ports.push(channel.port1);
			this.tiles.push(tile);
		}
		this.send({ type: "start", kernel, weights, ports }, ports);
	}

	private send(message: ToStage, transfer: Transferable[] = []): void {
		this.worker.postMessage(message, transfer);
	}

	/** Asks for a document to be compiled; the proof begins when the hands rest. Returns its number. */
	show(document: ShotDocument, resting: boolean, moment: Moment = STILL): number {
		this.number++;
		this.send({ type: "document", number: this.number, change: differenceOf(this.told, document), moment, resting });
		this.told = document;
		return this.number;
	}

	/** Stops the proof while a hand moves; the next document begins it again. */
	hold(): void {
		this.send({ type: "hold" });
	}

	setProof(on: boolean, width: number, height: number, clean: boolean): void {
		this.send({ type: "proof", on, width, height, clean });
	}

	/** Lets the proof rest while a print is traced, and go on. */
	rest(resting: boolean): void {
		this.send({ type: "rest", resting });
	}

	/** Small frames of the move that are to be traced as they now are, in their order, but those that are known to be so. */
	small(frames: number[], known: [number, string][] = []): void {
		this.send({ type: "small", frames, known });
	}

	/** Whether the room to move is to be told, from now on. */
	wantRooms(wanted: boolean): void {
		this.send({ type: "rooms", wanted });
	}

	/** Tells which part of the frame is seen enlarged: it is refined first. */
	look(part: FramePart | null): void {
		this.send({ type: "look", part });
	}

	/** What lies under a place of the frame (0 to 1). */
	pick(x: number, y: number): Promise<Picked> {
		return new Promise((resolve) => {
			const id = this.nextPick++;
			this.picks.set(id, resolve);
			this.send({ type: "pick", id, x, y });
		});
	}

	/** The set as it was last compiled, as a file for other programs. Rejects in words. */
	set(as: SetFile): Promise<Uint8Array<ArrayBuffer>> {
		return new Promise((resolve, reject) => {
			const id = this.nextPick++;
			this.sets.set(id, { resolve, reject });
			this.send({ type: "set", id, as });
		});
	}

	close(): void {
		this.worker.terminate();
		for (const t of this.tiles) t.terminate();
	}
}
