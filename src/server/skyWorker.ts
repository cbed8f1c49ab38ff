/** A thread for sky pictures: reading a large one takes seconds. */
import { prepareSky } from "../store/skies.ts";
import { answerAside } from "./answerAside.ts";

answerAside(prepareSky, ({ table }) => [table.texels.buffer as ArrayBuffer]);
