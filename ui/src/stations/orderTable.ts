import Papa from "papaparse";
import type { Schemas } from "../api/client";
import { t } from "../words/said";

type Known = Pick<Schemas["StudioView"], "flowers" | "colourways">;

/** The columns that a list of orders may have, by what they are called. */
export const orderColumns = () => ({
  name: t("order"),
  leaves: t("leaves"),
  leaving: t("how"),
  occasion: t("occasion"),
  quantity: t("how many"),
  flower: t("flower"),
  variant: t("variant"),
  colours: t("colours"),
  allergies: t("allergies"),
});

type Key = keyof ReturnType<typeof orderColumns>;

/** Orders as a list has them, and what of it could not be read, line by line as people count them. */
export interface OrderTable {
  orders: Schemas["OrderBody"][];
  unread: { line: number; says: string }[];
  unknown: string[];
}

const plain = (text: string) => text.toLowerCase().replace(/\s+/g, " ").trim();

/**
 * Reads a list of orders as a spreadsheet gives it, its first line the headings. Lines that name no order, or the same
 * one again, are further flowers of the order above them.
 */
export function ordersPasted(text: string, known: Known): OrderTable {
  const lines = Papa.parse<string[]>(text.trim(), { skipEmptyLines: "greedy" }).data;
  const names = Object.entries(orderColumns()) as [Key, string][];
  const heads = (lines[0] ?? []).map(
    (h) => names.find(([key, label]) => plain(label) === plain(h) || key === plain(h))?.[0],
  );
  const table: OrderTable = { orders: [], unread: [], unknown: (lines[0] ?? []).filter((_, i) => !heads[i]) };
  lines.slice(1).forEach((cells, i) => {
    const cell = (key: Key) => (cells[heads.indexOf(key)] ?? "").trim();
    const unread = (says: string) => table.unread.push({ line: i + 2, says });
    let order = table.orders.at(-1);
    if (cell("name") && cell("name") !== order?.name) {
      order = {
        name: cell("name"),
        occasion: cell("occasion"),
        leaves: cell("leaves").replace(/\s+/, "T"),
        leaving: cell("leaving"),
        importance: 10,
        allergies: cell("allergies").split(",").map(plain).filter(Boolean),
        state: "open",
        lines: [],
      };
      table.orders.push(order);
    }
    if (!order) return unread(t("names no order"));
    if (!/^\d{4}-\d\d-\d\dT\d\d:\d\d$/.test(order.leaves) && cell("name"))
      unread(t("“{text}” is no time; 2027-10-02 14:00 would be right", { text: cell("leaves") }));
    const flower = known.flowers.find((f) => plain(f.name) === plain(cell("flower")));
    if (!flower) return unread(t("“{text}” is not in the flower book", { text: cell("flower") }));
    const colours = known.colourways.find((c) => plain(c.name) === plain(cell("colours")));
    if (!colours && cell("colours")) return unread(t("“{text}” is no colourway", { text: cell("colours") }));
    if (!/^\d+$/.test(cell("quantity")))
      return unread(t("“{text}” is no number of flowers", { text: cell("quantity") }));
    order.lines!.push({
      recipe: flower.id,
      variant: cell("variant"),
      colourway: colours?.id ?? "",
      quantity: Number(cell("quantity")),
    });
  });
  return table;
}
