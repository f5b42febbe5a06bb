import type { Schemas } from "../../api/client";

/** How far something is, in a word: what was found by touch, or what the clock says. */
export function stateWord(lying: Schemas["LyingCard"]): string {
  if (lying.machine) return "in the machine";
  if (lying.kept) return "to be kept soft";
  if (!lying.class) return "resting";
  return lying.state;
}

/** How fast something dries beside standard air, in words. */
export function speedWord(thousandths: number): string {
  if (thousandths === 0) return "nothing dries in it";
  if (thousandths < 200) return "hardly anything dries in it";
  if (thousandths < 420) return "things take three times as long as in standard air";
  if (thousandths < 620) return "things take twice as long as in standard air";
  if (thousandths < 850) return "things take half as long again as in standard air";
  if (thousandths < 1150) return "things dry as in standard air";
  return "things dry faster than in standard air";
}
