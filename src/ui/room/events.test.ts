import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { hear } from "./events.ts";

/** A browser's tabs: its streams, its channels, and who has the lock. */
class Browser {
	streams: FakeSource[] = [];
	channels: FakeChannel[] = [];
	private waiting: { act: () => Promise<unknown>; signal: AbortSignal }[] = [];
	private held = false;

	request = (_name: string, { signal }: { signal: AbortSignal }, act: () => Promise<unknown>): Promise<void> => {
		this.waiting.push({ act, signal });
		this.next();
		return Promise.resolve();
	};

	private next(): void {
		if (this.held) return;
		this.waiting = this.waiting.filter(({ signal }) => !signal.aborted);
		const first = this.waiting.shift();
		if (!first) return;
		this.held = true;
		void first.act().then(() => {
			this.held = false;
			this.next();
		});
	}

	open(): FakeSource[] {
		return this.streams.filter((s) => !s.closed);
	}
}

let browser: Browser;

class FakeSource {
	closed = false;
	onmessage: (event: { data: string }) => void = () => {};
	onerror = () => {};
	readonly address: string;
	constructor(address: string) {
		this.address = address;
		browser.streams.push(this);
	}
	tell(event: object): void {
		this.onmessage({ data: JSON.stringify(event) });
	}
	close(): void {
		this.closed = true;
	}
}

class FakeChannel {
	onmessage: (event: { data: unknown }) => void = () => {};
	constructor() {
		browser.channels.push(this);
	}
	postMessage(data: unknown): void {
		for (const other of browser.channels) if (other !== this) other.onmessage({ data });
	}
	close(): void {
		browser.channels = browser.channels.filter((c) => c !== this);
	}
}

const edit = { kind: "shot", id: "s", sequence: 4 };

beforeEach(() => {
	browser = new Browser();
	vi.stubGlobal("EventSource", FakeSource);
	vi.stubGlobal("BroadcastChannel", FakeChannel);
	vi.stubGlobal("navigator", { locks: { request: browser.request } });
});
afterEach(() => void vi.unstubAllGlobals());

describe("the stream of news", () => {
	it("is one for all tabs, and each hears everything once", () => {
		const heard: [unknown[], unknown[], unknown[]] = [[], [], []];
		for (const list of heard) hear((event) => list.push(event));
		expect(browser.open()).toHaveLength(1);
		browser.open()[0].tell(edit);
		for (const list of heard) expect(list).toEqual([edit]);
	});

	it("is taken over when its tab closes, with all that may have been missed", async () => {
		const first = hear(() => {});
		const heard: unknown[] = [];
		hear((event) => heard.push(event));
		first();
		await vi.waitFor(() => expect(browser.open()).toHaveLength(1));
		// As the server begins each stream.
		const start = { kind: "gap", id: "start" };
		for (const event of [start, edit]) browser.open()[0].tell(event);
		expect(heard).toEqual([start, edit]);
	});

	it("is not opened by a tab that closed while it waited", async () => {
		const first = hear(() => {});
		const second = hear(() => {});
		second();
		first();
		await Promise.resolve();
		await Promise.resolve();
		expect(browser.streams).toHaveLength(1);
		expect(browser.open()).toHaveLength(0);
	});

	it("tells of a server that went away, and lets pass what it does not know", () => {
		const heard: unknown[] = [];
		hear((event) => heard.push(event));
		const [source] = browser.open();
		source.onerror();
		source.tell({ kind: "weather", id: "x" });
		expect(heard).toEqual([{ kind: "gap", id: "away" }]);
	});

	it("is each tab's own where a browser has neither locks nor channels", () => {
		vi.stubGlobal("BroadcastChannel", undefined);
		vi.stubGlobal("navigator", {});
		const ends = [hear(() => {}), hear(() => {})];
		expect(browser.open()).toHaveLength(2);
		for (const end of ends) end();
		expect(browser.open()).toHaveLength(0);
	});
});
