import { parseWithZod } from "@conform-to/zod/v4";
import { carFormSchema } from "./schema";

/** The car sheet as it was typed, with what is wrong in it. */
export function checkSheet(form: FormData) {
  return parseWithZod(form, { schema: carFormSchema });
}
