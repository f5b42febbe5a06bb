import type { Schemas } from "../api/client";
import { length } from "../figures";
import { t } from "./said";

type Finding = Schemas["Finding"];

const millimetres = (value: number) => length(value * 1000);

/** What is amiss with a place on a cake, in words with its figure. */
export function findingWords(f: Finding): string {
  const over = millimetres(f.working.result.value);
  const figure = (name: string) => millimetres(f.working.inputs.find((i) => i.name === name)?.value ?? 0);
  switch (f.case) {
    case "more-laid":
      return t("{n} more of it are laid on cakes than are ordered.", { n: f.working.result.value });
    case "over-edge":
      return t("Its tip stands {over} over the edge of its tier.", { over });
    case "past-top":
      return t("Its tip stands {over} over the top of its tier.", { over });
    case "past-foot":
      return t("Its tip hangs {over} below the foot of its tier.", { over });
    case "under-tier":
      return t("It runs {over} into the tier above.", { over });
    case "no-holder":
      return t("Its wires go in with no holder round them: give it one, or keep it out of the cake.");
    case "holder-deep":
      return t("Its holder is {over} deeper than the tier has room for.", { over });
    case "holder-short":
      return t("Its stem goes in {over} deeper than its holder is.", { over });
    case "stem-short":
      return t("Its stem is {over} too short to go in {in}.", { over, in: figure("goes-in") });
    case "stem-weak":
      return t("Held level, its head pulls the stem down.");
    case "no-box":
      return t("No box has room for it: the best lacks {over}.", { over });
  }
  return f.case;
}
