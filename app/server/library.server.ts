import { matingClash } from "~/core/fit/offers";
import { composeFitted } from "~/core/model/compose";
import { CoreError } from "~/core/model/errors";
import type { CarProfile, VariantProfile } from "~/core/model/profile";
import type { Account } from "~/db/accounts";
import { newestDocuments } from "~/db/profiles";
import { database } from "./db.server";

/** A car with one radio on which a document can be tried. */
export interface Reference {
  car: CarProfile;
  variant: VariantProfile | null;
  label: string;
}

export async function newestCars(account: Account): Promise<CarProfile[]> {
  const all = await newestDocuments(database(), account.shopId, "car");
  return all.flatMap((p) => (p.document === "car" ? [p] : []));
}

async function newestVariants(account: Account): Promise<VariantProfile[]> {
  const all = await newestDocuments(database(), account.shopId, "variant");
  return all.flatMap((p) => (p.document === "variant" ? [p] : []));
}

/** Names of the radios of the shop, for choosing one to try a document on. */
export async function referenceNames(account: Account): Promise<{ id: string; label: string }[]> {
  const cars = await newestCars(account);
  const variants = await newestVariants(account);
  return variants.flatMap((v) => {
    const car = cars.find((c) => c.id === v.car);
    return car ? [{ id: v.id, label: `${car.maker} ${car.model}: ${v.title}` }] : [];
  });
}

/** The radio of a name with its car. */
export async function referenceNamed(account: Account, variantId: string): Promise<Reference | null> {
  const variant = (await newestVariants(account)).find((v) => v.id === variantId);
  const car = (await newestCars(account)).find((c) => c.id === variant?.car);
  return variant && car ? { car, variant, label: `${car.maker} ${car.model}: ${variant.title}` } : null;
}

/** The first radio of the library on which a document makes sense: one the kit fits, or the radio's own car. */
export async function referenceCars(account: Account, document: unknown): Promise<Reference | null> {
  const profile = document as { document?: string; car?: string };
  const cars = await newestCars(account);
  if (profile.document === "variant" || profile.document === "busMap") {
    const car = cars.find((c) => c.id === profile.car);
    return car ? { car, variant: null, label: `${car.maker} ${car.model}` } : null;
  }
  if (profile.document !== "kit") return null;
  for (const variant of await newestVariants(account)) {
    const car = cars.find((c) => c.id === variant.car);
    if (!car) continue;
    try {
      const kit = document as Parameters<typeof composeFitted>[2];
      if (matingClash(composeFitted(car, variant, kit), kit) === null)
        return { car, variant, label: `${car.maker} ${car.model}: ${variant.title}` };
    } catch (error) {
      // A draft may be anything; one that cannot be composed simply has no reference.
      if (!(error instanceof CoreError) && !(error instanceof TypeError)) throw error;
    }
  }
  return null;
}
