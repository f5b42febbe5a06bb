import type { OrderView, Schemas } from "../../api/client";
import { t } from "../../words/said";

export type If = Schemas["If"];
export interface Option {
  title: string;
  value: string;
}

/** What a change of a kind asks for, in the order in which it is said. */
export interface Ask {
  key: "of" | "line" | "colourway" | "number" | "from" | "until" | "leaves" | "begins" | "ends" | "skill" | "air";
  label: string;
  among?: Option[];
}

/** What there is to choose from. */
export interface Around {
  people: Option[];
  places: Option[];
  machines: Option[];
  tools: Option[];
  suppliers: Option[];
  materials: Option[];
  skills: Option[];
  orders: Option[];
  lines: Option[];
  colourways: Option[];
}

/** The airs that can be said, in thousandths of humidity more than expected. */
export const airs: Option[] = [
  { title: t("damp"), value: "80" },
  { title: t("very damp"), value: "160" },
  { title: t("dry"), value: "-80" },
];

/** Kinds of what may be otherwise, and what each asks for. */
export function kinds(a: Around): Record<string, { title: string; asks: Ask[] }> {
  const days: Ask[] = [
    { key: "from", label: t("from") },
    { key: "until", label: t("until") },
  ];
  const times: Ask[] = [
    { key: "begins", label: t("from") },
    { key: "ends", label: t("until") },
  ];
  const more: Ask = { key: "number", label: t("more") };
  return {
    air: { title: t("the air is otherwise"), asks: [{ key: "air", label: t("it is"), among: airs }, ...days] },
    away: { title: t("somebody is away"), asks: [{ key: "of", label: t("who"), among: a.people }, ...days] },
    stays: { title: t("somebody stays or comes"), asks: [{ key: "of", label: t("who"), among: a.people }, ...times] },
    helps: { title: t("a helper comes"), asks: [{ key: "skill", label: t("who can"), among: a.skills }, ...times] },
    places: { title: t("there is more room"), asks: [{ key: "of", label: t("where"), among: a.places }, more] },
    machines: {
      title: t("a machine has more room"),
      asks: [{ key: "of", label: t("which"), among: a.machines }, more],
    },
    tools: { title: t("there are more tools"), asks: [{ key: "of", label: t("which"), among: a.tools }, more] },
    moved: {
      title: t("an order leaves otherwise"),
      asks: [
        { key: "of", label: t("which"), among: a.orders },
        { key: "leaves", label: t("leaves") },
      ],
    },
    grown: {
      title: t("an order is of another number"),
      asks: [
        { key: "line", label: t("of which flowers"), among: a.lines },
        { key: "number", label: t("how many") },
      ],
    },
    recolour: {
      title: t("an order is recoloured"),
      asks: [
        { key: "line", label: t("which flowers"), among: a.lines },
        { key: "colourway", label: t("in"), among: a.colourways },
      ],
    },
    cancelled: { title: t("an order is cancelled"), asks: [{ key: "of", label: t("which"), among: a.orders }] },
    late: {
      title: t("a supplier is late"),
      asks: [
        { key: "of", label: t("who"), among: a.suppliers },
        { key: "number", label: t("days") },
      ],
    },
    prices: { title: t("prices change"), asks: [{ key: "number", label: t("percent of what they were") }] },
  };
}

/** Lines of open orders, by both their ids. */
export const linesOf = (orders: OrderView[], flower: (recipe: string) => string): Option[] =>
  orders
    .filter((o) => o.order.state === "open")
    .flatMap((o) =>
      o.order.lines.map((l) => ({
        title: `${o.order.name}: ${l.quantity} ${flower(l.recipe)}`,
        value: `${o.order.id} ${l.id}`,
      })),
    );

/** A change of what was chosen and typed; undefined while something is missing. */
export function changeOf(
  kind: string,
  asks: Ask[],
  typed: Record<string, string>,
  minute: (wall: string) => number,
): If | undefined {
  const change: If = { kind };
  for (const { key } of asks) {
    const value = typed[key]?.trim();
    if (!value) return undefined;
    const number = Number(value.replace(",", "."));
    switch (key) {
      case "number":
      case "air":
        if (!Number.isFinite(number)) return undefined;
        change.number = Math.round(kind === "prices" ? number * 10 : number);
        break;
      case "line":
        [change.of, change.line] = value.split(" ") as [string, string];
        break;
      case "skill":
        change.skills = [value];
        change.name = t("A helper");
        break;
      case "begins":
        change.spans = [{ from: minute(value), to: minute(value) + 60 }];
        break;
      case "ends":
        change.spans = [{ from: change.spans![0]!.from, to: minute(value) }];
        break;
      default:
        change[key] = value;
    }
  }
  return change;
}

interface Times {
  full: (minute: number) => string;
  wall: (text: string) => string;
  wallDay: (text: string) => string;
}

/** A change in words. */
export function said(c: If, asks: Ask[], title: string, times: Times): string {
  const among = (key: Ask["key"], value?: string) =>
    asks.find((a) => a.key === key)?.among?.find((o) => o.value === value)?.title ?? value ?? "";
  const words = asks.map(({ key }) => {
    switch (key) {
      case "line":
        return among("line", `${c.of} ${c.line}`);
      case "number":
        return String(c.kind === "prices" ? (c.number ?? 0) / 10 : (c.number ?? 0));
      case "air":
        return among("air", String(c.number));
      case "skill":
        return (c.skills ?? []).join(", ");
      case "begins":
        return times.full(c.spans?.[0]?.from ?? 0);
      case "ends":
        return times.full(c.spans?.[0]?.to ?? 0);
      case "from":
      case "until":
        return c[key] ? times.wallDay(`${c[key]}T12:00`) : "";
      case "leaves":
        return c.leaves ? times.wall(c.leaves) : "";
      default:
        return among(key, c[key]);
    }
  });
  return `${title}: ${words.join(" · ")}`;
}
