import type { Schemas } from "../api/client";
import { t } from "./said";

/** What an order's allergies name and its flowers hold, with the ways that do without. */
export function metWords(m: Schemas["AllergyMet"]): string {
  const what = m.of
    ? t("{allergen}: {material} is in {into}, which goes into {of}.", { ...m, of: m.of })
    : t("{allergen}: {material} is in {into}.", { allergen: m.allergen, material: m.material, into: m.into });
  const ways = m.avoided.map((a) => t("{of}, {question}: {school}", { ...a }));
  return ways.length ? t("{what} Without it: {ways}.", { what, ways: ways.join("; ") }) : what;
}
