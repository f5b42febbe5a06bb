import type { Schemas } from "../../api/client";
import { t, word } from "../../words/said";

/** How far something is, in a word: what was found by touch, or what the clock says. */
export function stateWord(lying: Schemas["LyingCard"]): string {
  if (lying.machine) return t("in the machine");
  if (lying.kept) return t("to be kept soft");
  if (!lying.class) return t("resting");
  return word(lying.state);
}

/** How fast something dries beside standard air, in words. */
export function speedWord(thousandths: number): string {
  if (thousandths === 0) return t("nothing dries in it");
  if (thousandths < 200) return t("hardly anything dries in it");
  if (thousandths < 420) return t("things take three times as long as in standard air");
  if (thousandths < 620) return t("things take twice as long as in standard air");
  if (thousandths < 850) return t("things take half as long again as in standard air");
  if (thousandths < 1150) return t("things dry as in standard air");
  return t("things dry faster than in standard air");
}
