/** A video from finished frames, made by Debian's ffmpeg: H.264 in MP4, VP9 in WebM. */
import { type ChildProcess, spawn } from "node:child_process";
import { once } from "node:events";
import type { VideoKind } from "../core/doc/records.ts";
import { RATES, type Rate } from "../core/doc/schema.ts";

export const VIDEO_FILES = {
	mp4: {
		mediaType: "video/mp4",
		codec: ["-c:v", "libx264", "-preset", "medium", "-crf", "15", "-movflags", "+faststart"],
	},
	webm: {
		mediaType: "video/webm",
		codec: ["-c:v", "libvpx-vp9", "-b:v", "0", "-crf", "22", "-row-mt", "1", "-deadline", "good", "-cpu-used", "3"],
	},
} as const satisfies Record<VideoKind, { mediaType: string; codec: string[] }>;

export const isVideoKind = (kind: string): kind is VideoKind => Object.hasOwn(VIDEO_FILES, kind);

/** A video that could not be made; the frames that it was to be made of are untouched. */
export class VideoError extends Error {
	readonly code: string;
	constructor(code: string, message: string) {
		super(message);
		this.code = code;
	}
}

export interface VideoPlan {
	width: number;
	height: number;
	rate: Rate;
	kind: VideoKind;
	/** Frames a second as a fraction of the move's own, when only every n-th was printed. */
	step?: number;
}

/** Both codecs want even sides: a side that is odd gets one more row or column, of the colour of its neighbour. */
export const isPadded = ({ width, height }: Pick<VideoPlan, "width" | "height">): boolean =>
	width % 2 === 1 || height % 2 === 1;

/** Takes frames of eight bits, RGB, rows from the top. */
export class VideoWriter {
	private program: ChildProcess;
	private said = "";
	private ended: Promise<number | null>;
	private failed: VideoError | null = null;

	private constructor(program: ChildProcess) {
		this.program = program;
		program.stderr?.on("data", (bytes) => {
			this.said = `${this.said}${bytes}`.slice(-2000);
		});
		// What is written to a program that has ended is told by its end.
		program.stdin?.on("error", () => {});
		this.ended = new Promise((resolve) => {
			program.on("error", (error: NodeJS.ErrnoException) => {
				this.failed =
					error.code === "ENOENT"
						? new VideoError(
								"no-ffmpeg",
								"ffmpeg is not installed, so no video can be made. Install Debian's package ffmpeg, then make the video again; the frames are kept.",
							)
						: new VideoError("video", `ffmpeg cannot be started: ${error.message}`);
				resolve(-1);
			});
			program.on("exit", (code) => resolve(code));
		});
	}

	/** `ffmpeg` names the program, for tests. */
	static start(path: string, plan: VideoPlan, ffmpeg = process.env.INQUADRA_FFMPEG ?? "ffmpeg"): VideoWriter {
		const [many, seconds] = RATES[plan.rate];
		const rate = `${many}/${seconds * (plan.step ?? 1)}`;
		const fill = isPadded(plan)
			? `pad=ceil(iw/2)*2:ceil(ih/2)*2:0:0,fillborders=right=${plan.width % 2}:bottom=${plan.height % 2}:mode=smear,`
			: "";
		const program = spawn(
			ffmpeg,
			[
				...["-hide_banner", "-loglevel", "error", "-y", "-f", "rawvideo", "-pix_fmt", "rgb24"],
				...["-s", `${plan.width}x${plan.height}`, "-framerate", rate, "-i", "pipe:0"],
				...[
					"-vf",
					`${fill}scale=out_color_matrix=bt709:out_range=tv:flags=accurate_rnd+full_chroma_int,format=yuv420p`,
				],
				...["-color_primaries", "bt709", "-color_trc", "iec61966-2-1", "-colorspace", "bt709", "-color_range", "tv"],
				...VIDEO_FILES[plan.kind].codec,
				...["-f", plan.kind, path],
			],
			{ stdio: ["pipe", "ignore", "pipe"] },
		);
		return new VideoWriter(program);
	}

	/** Throws {@link VideoError} when the program is gone. */
	async frame(rgb: Uint8Array): Promise<void> {
		const { stdin } = this.program;
		if (this.failed || this.program.exitCode !== null || this.program.signalCode !== null || !stdin)
			throw await this.why();
		if (stdin.write(rgb)) return;
		await Promise.race([once(stdin, "drain").catch(() => {}), this.ended]);
		if (this.failed || this.program.exitCode !== null || this.program.signalCode !== null) throw await this.why();
	}

	private async why(): Promise<VideoError> {
		const code = await this.ended;
		if (this.failed) return this.failed;
		if (/No space left/.test(this.said))
			return new VideoError(
				"disk-full",
				"The disk is full: the video could not be written. Make room, then make it again; the frames are kept.",
			);
		const how = code === null ? "was ended from outside" : `ended with code ${code}`;
		const last = this.said.trim().split("\n").pop();
		return new VideoError(
			"video",
			`ffmpeg ${how} before the video was whole${last ? `: ${last}` : ""}. Make it again; the frames are kept.`,
		);
	}

	/** Ends the file. */
	async end(): Promise<void> {
		this.program.stdin?.end();
		if ((await this.ended) !== 0 || this.failed) throw await this.why();
	}

	/** Lets go of a video that will not be ended. */
	stop(): void {
		this.program.kill("SIGKILL");
	}
}
