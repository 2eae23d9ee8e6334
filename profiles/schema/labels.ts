/** The small things of which every document is made: identifiers, references, texts, the head. */
import { z } from "zod";

export const id = z
  .string()
  .regex(/^[A-Za-z0-9_+-]+$/, "letters, digits, - + _ only, no dots")
  .max(60);
export const place = z.string().regex(/^[A-Za-z0-9_+-]+\.[A-Za-z0-9_+-]+$/, "must read port.contact");
export const portRef = z.string().regex(/^[A-Za-z0-9_+-]+\.[A-Za-z0-9_+-]+$/, "must read part.port");
export const contactRef = z
  .string()
  .regex(/^[A-Za-z0-9_+-]+\.[A-Za-z0-9_+-]+\.[A-Za-z0-9_+-]+$/, "must read part.port.contact");
export const text = z.string().trim().min(1).max(600);
export const attributes = z.record(z.string(), z.string());
export const version = z
  .string()
  .regex(/^[A-Za-z0-9][A-Za-z0-9._-]*$/, "a version such as 3.12 or R2-410")
  .max(40);

export const minutes = z.number().min(0).max(3000);
export const head = { id, version: z.int().positive(), title: text, sourceNote: text };
