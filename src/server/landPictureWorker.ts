/** A thread for pictures of land: reading a large one takes seconds. */
import { prepareLandPicture } from "../store/landPictures.ts";
import { answerAside } from "./answerAside.ts";

answerAside(prepareLandPicture, ({ picture }) => [picture.values.buffer as ArrayBuffer]);
