import { finishedPrint } from "@/server/printFiles.ts";
import { route } from "@/server/route.ts";

export const GET = route<{ id: string }>(async (_request, { id }) => {
	const { file } = await finishedPrint(id);
	return new Response(new Uint8Array(file), { headers: { "Content-Type": "image/x-exr", "Content-Disposition": `attachment; filename="print-${id}.exr"` } });
});
