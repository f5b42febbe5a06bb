import type { Schemas } from "../../api/client";
import { t } from "../../words/said";

type Lying = Schemas["LyingCard"];

/** When something next has to be done about what lies there: touched, taken out, or taken up before it is too stiff. */
export function nextAt(l: Lying, now: number): number {
  const times = [l.next?.closes, l.machine || !l.class ? l.over : undefined];
  if (!l.machine && l.class) {
    if (l.state === "dry") times.push(l.found?.found === "dry" ? l.over : now);
    else times.push(l.state === "firm" ? l.dry?.likely : l.firm?.likely);
  }
  return Math.min(Infinity, ...times.filter((at) => at !== undefined));
}

/** What lies there by when something next has to be done about it, soonest first, in a few groups. */
export function byNext(lying: Lying[], now: number, endOfDay: number) {
  const groups = [
    { name: t("Now"), until: now },
    { name: t("Within the hour"), until: now + 60 },
    { name: t("Later today"), until: endOfDay },
    { name: t("Another day"), until: Number.MAX_SAFE_INTEGER },
    { name: t("Not before the air is drier"), until: Infinity },
  ].map((g) => ({ ...g, trays: [] as Lying[] }));
  const sorted = lying.map((l) => ({ l, at: nextAt(l, now) })).sort((a, b) => a.at - b.at);
  for (const { l, at } of sorted) groups.find((g) => at <= g.until)!.trays.push(l);
  return groups.filter((g) => g.trays.length);
}
