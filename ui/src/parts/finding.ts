import type { RouteLocationRaw } from "vue-router";
import type { Schemas } from "../api/client";
import { t } from "../words/said";

type Thing = Schemas["Hit"];

/** Where a thing that was found is seen. */
export function whereIs(thing: Thing): RouteLocationRaw {
  switch (thing.kind) {
    case "order":
      return { path: "/orders", query: { open: thing.id } };
    case "lot":
      return { path: "/drying", query: { lot: thing.id } };
    case "material":
      return { path: "/stores", query: { view: "Materials", text: thing.name } };
    case "person":
      return { path: "/studio", query: { of: "people", id: thing.id } };
    case "place":
      return { path: "/studio", query: { of: "places", id: thing.id } };
    case "supplier":
      return { path: "/studio", query: { of: "suppliers", id: thing.id } };
    default:
      return { path: `/book/pages/${thing.id}` };
  }
}

/** What else may be done about a thing that was found. */
export function whatOf(thing: Thing): { says: string; to: RouteLocationRaw }[] {
  if (thing.kind === "mix")
    return [
      { says: t("weigh in {name}", { name: thing.name }), to: { path: "/mixing", query: { weigh: thing.name } } },
    ];
  if (thing.kind === "order")
    return [{ says: t("pack {name}", { name: thing.name }), to: `/orders/${thing.id}/sheet` }];
  if (thing.kind === "person")
    return [
      {
        says: t("{name} is away", { name: thing.name }),
        to: { path: "/studio", query: { of: "people", id: thing.id } },
      },
    ];
  return [];
}

/** What can be done from anywhere, by its words. */
export const deeds: { says: string; to: RouteLocationRaw; needs: string }[] = [
  { says: t("Enter an order"), to: { path: "/orders", query: { new: "" } }, needs: "enter-order" },
  { says: t("Begin a recipe"), to: { path: "/book", query: { new: "" } }, needs: "begin-recipe" },
  { says: t("Somebody is away"), to: { path: "/studio", query: { of: "people" } }, needs: "write-thing" },
  { says: t("Take stock"), to: { path: "/stores", query: { view: "Materials" } }, needs: "get-stores" },
  { says: t("What has to be bought"), to: { path: "/stores", query: { view: "To buy" } }, needs: "get-stores" },
  {
    says: t("A client changed their mind"),
    to: { path: "/stores", query: { view: "Change of mind" } },
    needs: "get-stores",
  },
  { says: t("My day on paper"), to: "/bench/day", needs: "get-day" },
  { says: t("What would be if"), to: "/what-if", needs: "list-scenes" },
  { says: t("What was recorded"), to: "/journal", needs: "get-journal" },
  { says: t("Colourways"), to: { path: "/book", query: { colourways: "" } }, needs: "get-book" },
];
