/** A key of the room: what it does, and how the person is told. */
export interface Key {
	/** As the person reads it. */
	keys: string;
	does: string;
	/** Names of the key in lower case, as the browser tells them. */
	on: readonly string[];
	control?: boolean;
	shift?: boolean;
	/** What it does; false leaves the key to others. */
	act: (event: KeyboardEvent) => unknown;
	/** What its release does: it is held. */
	release?: () => void;
	/** It acts again while it is held down. */
	repeats?: boolean;
	/** It acts while a sheet lies over the room, too. */
	overSheets?: boolean;
}
