import { parseWithZod } from "@conform-to/zod/v4";
import type { z } from "zod";
import { carFormSchema } from "./schema";

export type SheetForm = z.infer<typeof carFormSchema>;

/** The car sheet as it was typed, with what is wrong in it. */
export function checkSheet(form: FormData) {
  return parseWithZod(form, { schema: carFormSchema });
}
