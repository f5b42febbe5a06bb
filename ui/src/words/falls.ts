import type { Schemas } from "../api/client";
import { lasting } from "../format";
import { t } from "./said";

type Fall = Schemas["FallView"];

/** By how much an order lost slack. */
export function fellBy(f: Fall): string {
  if (f.is === undefined) return t("lost its date");
  return t("lost {is}", { is: lasting(f.was! - f.is) });
}

/** What made an order lose slack. */
export function fellBecause(f: Fall): string {
  const task = f.of
    ? t("“{doing}” of {pieces}{of}", { doing: f.doing, pieces: f.pieces ? `${f.pieces} ` : "", of: f.of })
    : t("a task that is gone by now");
  const who = f.who ? t(" by {who}", { who: f.who }) : "";
  const much = f.minutes ? lasting(f.minutes) : t("a little");
  switch (f.why) {
    case "no-date":
      return f.of ? t("{task} has no place in the plan", { task }) : t("something it needs has no place in the plan");
    case "made-again":
      return t("{of} has to be made again", { of: f.of ?? t("something") });
    case "took-longer":
      return t("{task}{who} took {much} longer", { task, who, much });
    case "begun-late":
      return t("{task}{who} was begun {much} later", { task, who, much });
    case "not-begun":
      return t("{task}{who} was to be begun, and is not", { task, who });
    case "dries-longer":
      return t("{of} dries {much} longer", { of: f.of ?? t("something"), much });
    case "waits-for":
      return t("{task} waits for {byName}", { task, byName: f.byName || t("a delivery") });
    case "busy":
      return t("{task}: {who} is at {byName} first", {
        task,
        who: f.who ?? t("its maker"),
        byName: f.byName || t("something else"),
      });
    case "away":
      return t("{task}: {who} is not there in time", { task, who: f.who ?? t("its maker") });
    case "full":
      return t("{task} waits for room{byName}", {
        task,
        byName: f.byName ? t(", taken by {byName}", { byName: f.byName }) : "",
      });
  }
  return t("{task} comes later in the order of work", { task });
}
