import type { OrderView, Schemas } from "../../api/client";
import type { useTimes } from "../../format";
import { lasting } from "../../format";
import { fellBy } from "../../words/falls";
import { t } from "../../words/said";

type Times = ReturnType<typeof useTimes>["value"];
export type Kind = "late" | "tight" | "safe" | "plain";

/** Less slack than a day is tight. */
const dayMinutes = 24 * 60;

/** How safe an order is, as a kind with a shape of its own and in words. */
export function standing(outcome?: Schemas["Outcome"]): { kind: Kind; text: string } {
  if (!outcome) return { kind: "plain", text: t("not planned") };
  if (outcome.slack === undefined) return { kind: "late", text: t("cannot be finished") };
  if (outcome.late > 0) return { kind: "late", text: t("{late} late", { late: lasting(outcome.late) }) };
  return {
    kind: outcome.slack < dayMinutes ? "tight" : "safe",
    text: t("{slack} slack", { slack: lasting(outcome.slack) }),
  };
}

/** Why the lead has to look at an order, in a few words each. */
export function asksWords(o: OrderView, times: Times): string[] {
  return o.asks.map((ask) => {
    switch (ask) {
      case "late":
        return o.earliestLeave
          ? t("could leave {at} at the earliest", { at: times.wall(o.earliestLeave) })
          : t("cannot be finished");
      case "allergy":
        return o.met.length
          ? t("{allergen} is in it", { allergen: o.met[0].allergen })
          : t("{what}: no material says", { what: o.uncompared.join(", ") });
      case "accept":
        return o.order.state === "cancelled" ? t("cancelled, awaits acceptance") : t("awaits acceptance");
      case "approval":
        return t("a sample awaits the client's word");
      case "lapsed":
        return t("what was said of the quote holds no longer");
      default:
        return o.fell ? fellBy(o.fell) : "";
    }
  });
}

/** Whether all words that were typed are in an order: its name, occasion, client, place or flowers. */
export function holds(o: OrderView, typed: string): boolean {
  const all = [
    o.order.name,
    o.order.occasion,
    o.order.goes,
    o.order.client?.name,
    ...o.order.allergies,
    ...o.lines.map((l) => l.name),
  ]
    .join(" ")
    .toLocaleLowerCase();
  return typed
    .toLocaleLowerCase()
    .split(/\s+/)
    .every((word) => all.includes(word));
}

/** The Monday of the week of a local time such as 2027-10-02T14:00. */
export function weekOf(wall: string): string {
  const day = new Date(`${wall.slice(0, 10)}T00:00:00Z`);
  day.setUTCDate(day.getUTCDate() - ((day.getUTCDay() + 6) % 7));
  return day.toISOString().slice(0, 10);
}
