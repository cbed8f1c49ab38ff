import { BEND_LIMITS, COPY_WIDTHS } from "@/core/brief/copies.ts";
import { BlobHash } from "@/core/doc/schema.ts";
import { blobResponse } from "@/server/blobs.ts";
import { database } from "@/server/database.ts";
import { HttpError, route } from "@/server/route.ts";
import { copyOf } from "@/store/copies.ts";

/** A scaled copy of a picture: `?width=` one of the widths that are made, `&bend=` what is taken out of it, in ten-thousandths. */
export const GET = route<{ file: string }>(async (request, { file }) => {
	const asked = new URL(request.url).searchParams;
	const width = COPY_WIDTHS.find((w) => String(w) === asked.get("width"));
	if (!width) throw new HttpError(400, "bad-width", `Copies are ${COPY_WIDTHS.join(", ")} pixels wide.`);
	const bend = Number(asked.get("bend") ?? 0);
	if (!Number.isInteger(bend) || bend < BEND_LIMITS.low || bend > BEND_LIMITS.high)
		throw new HttpError(
			400,
			"bad-bend",
			`A bend is a whole number of ten-thousandths from ${BEND_LIMITS.low} to ${BEND_LIMITS.high}.`,
		);
	const copy = BlobHash.safeParse(file).success ? await copyOf(database(), file, width, bend) : null;
	if (!copy) throw new HttpError(404, "no-picture", "There is no such picture.");
	return blobResponse(copy);
});
