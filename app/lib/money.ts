import { useRouteLoaderData } from "react-router";
import type { loader } from "~/app/routes/signed-in";

/** A price in whole units of a currency (ISO 4217), as people write it. */
export function money(amount: number, currency: string): string {
  return new Intl.NumberFormat("en", { style: "currency", currency, maximumFractionDigits: 0 }).format(amount);
}

/** Writes prices in the currency of the shop. */
export function useMoney(): (amount: number) => string {
  const currency = useRouteLoaderData<typeof loader>("routes/signed-in")?.currency ?? "EUR";
  return (amount) => money(amount, currency);
}
