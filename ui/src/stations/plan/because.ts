import { t } from "../../words/said";
/** What a task waited for, by cause; what caused it follows. */
export const because: Record<string, string> = {
  now: t("nothing: it begins at once"),
  step: t("the step before:"),
  input: t("what goes into it:"),
  person: t("its maker, who is at:"),
  hours: t("working hours, after:"),
  place: t("a free place, until then taken by:"),
  tool: t("a tool or machine, in use by:"),
  gate: t("what comes from outside:"),
  pin: t("the time it is pinned to"),
  window: t("what follows, which could not come sooner:"),
};

/** The same for a link of a chain, whose next link stands below it. */
export function waitedFor(cause: string, short?: string, toOrder?: boolean): string {
  switch (cause) {
    case "now":
      return t("it begins at once");
    case "step":
      return t("the step before it");
    case "input":
      return t("what goes into it");
    case "person":
      return short ? t("somebody free who can “{short}”", { short }) : t("its maker");
    case "hours":
      return t("working hours");
    case "place":
      return t("room in {short}", { short: short ?? t("a place") });
    case "tool":
      return short ?? t("a tool");
    case "gate":
      return toOrder ? t("{short}, which has to be ordered", { short }) : (short ?? t("a delivery"));
    case "pin":
      return t("the time it is pinned to");
  }
  return t("what follows, which could not come sooner");
}
