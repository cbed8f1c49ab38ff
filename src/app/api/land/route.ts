import { landPictureAside } from "@/server/aside.ts";
import { database } from "@/server/database.ts";
import { HttpError, readBytes, route } from "@/server/route.ts";
import { checkLandPictureHead, keepLandPicture } from "@/store/landPictures.ts";
import { type KeptLandPicture, LandPictureAsWord, MOST_BYTES } from "@/wire/contracts.ts";

/** Takes the bytes of a picture of land, keeps them, and reads of them what land is made from. */
export const POST = route(async (request) => {
	const as = LandPictureAsWord.safeParse(new URL(request.url).searchParams.get("as"));
	if (!as.success) throw new HttpError(400, "bad-input", "as: it is heights, smoothed, colours or cut.");
	const data = await readBytes(request, MOST_BYTES, checkLandPictureHead(as.data));
	const kept: KeptLandPicture = await keepLandPicture(database(), data, as.data, landPictureAside);
	return Response.json(kept, { status: 201 });
});
