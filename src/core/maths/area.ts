/** Sizes and areas of pictures, in pixels or in shares of a frame. */

export interface Size {
	width: number;
	height: number;
}

/** From its left and top; it may reach beyond what it is an area of. */
export interface Area extends Size {
	x: number;
	y: number;
}

/** An area as shares of a frame. */
export const sharesOf = ({ x, y, width, height }: Area, frame: Size): Area => ({
	x: x / frame.width,
	y: y / frame.height,
	width: width / frame.width,
	height: height / frame.height,
});

/** An area counted from the corner of another. */
export const within = (of: Area, { x, y, width, height }: Area): Area => ({ x: x - of.x, y: y - of.y, width, height });

/** Whether an area lies in another, but for so much on each side. */
export const lies = (area: Area, of: Area, but = 0): boolean =>
	area.x >= of.x - but &&
	area.y >= of.y - but &&
	area.x + area.width <= of.x + of.width + but &&
	area.y + area.height <= of.y + of.height + but;
