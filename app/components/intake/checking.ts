import { ahead } from "~/app/lib/later";

/** The check of the car sheet in the browser; its schema comes after the page. */
export const checking = ahead(() => import("./check-sheet"));
