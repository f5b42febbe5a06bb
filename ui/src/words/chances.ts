import type { Schemas } from "../api/client";
import { t } from "./said";

/** How sure it is that an order is in time, in so many of a hundred, with what that may be out by. */
export function sure(c: Schemas["ChanceView"]): string {
  const hundred = (share: number) => Math.round(share / 10);
  if (!c.replays) return t("Nothing is known of it yet.");
  const words = {
    in: Math.floor((100 * c.inTime) / c.replays),
    least: hundred(c.leastPerMille),
    most: hundred(c.mostPerMille),
    n: c.replays,
  };
  return t("In time {in} times of 100 ({least} to {most}; {n} replays)", words);
}

const causes: Record<string, string> = {
  drying: t("dries longer than planned"),
  minutes: t("takes longer than planned"),
  breakage: t("breaks beyond its spares and is made again"),
  delivery: t("waits for a delivery that is late"),
  away: t("waits for somebody who is not there"),
  waiting: t("waits for people or places"),
};

/** What most often makes an order late. */
export function lateBy(c: { causes: { name: string; cause: string }[] }): string {
  const first = c.causes[0];
  return first
    ? t("Where it is late, most often {name} {cause}.", { name: first.name, cause: causes[first.cause] ?? "" })
    : "";
}

/** What one more hour would give. */
export function hourGives(c: Schemas["ChanceView"]): string {
  const more = c.withHour - c.inTime;
  return c.replays && more * 100 >= c.replays
    ? t("An hour more before it leaves: {in} of 100.", { in: Math.floor((100 * c.withHour) / c.replays) })
    : "";
}
