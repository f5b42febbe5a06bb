import type { Schemas } from "../api/client";
import { measured, plain } from "../figures";
import { placeWords } from "../parts/fields/fields";
import { t, translated } from "./said";

/** A sentence of the program as it comes: a message of the catalogue, and what stands in it. */
type Said = Schemas["Said"];
type With = string | number | Said | { amount: number; unit: string } | { place: string };

function filled(with_: With): string {
  if (typeof with_ === "number") return plain(with_);
  if (typeof with_ === "string") return translated(with_);
  if ("says" in with_) return refusal(with_);
  if ("place" in with_) return placeWords(with_.place);
  return measured(with_.amount, with_.unit);
}

/** What was refused and why, in words and in the studio's units. */
export function refusal(said: Said): string {
  return t(said.says, ((said.with ?? []) as With[]).map(filled));
}

/** A sentence that comes in English, and as a message where it is one. */
export const inWords = (english: string, said?: Said): string => (said ? refusal(said) : translated(english));
