import type { Schemas } from "../api/client";
import { lasting } from "../format";

type Fall = Schemas["FallView"];

/** By how much an order lost slack. */
export function fellBy(f: Fall): string {
  if (f.is === undefined) return "lost its date";
  return `lost ${lasting(f.was! - f.is)}`;
}

/** What made an order lose slack. */
export function fellBecause(f: Fall): string {
  const task = f.of ? `“${f.doing}” of ${f.pieces ? `${f.pieces} ` : ""}${f.of}` : "a task that is gone by now";
  const who = f.who ? ` by ${f.who}` : "";
  const much = f.minutes ? lasting(f.minutes) : "a little";
  switch (f.why) {
    case "no-date":
      return f.of ? `${task} has no place in the plan` : "something it needs has no place in the plan";
    case "made-again":
      return `${f.of ?? "something"} has to be made again`;
    case "took-longer":
      return `${task}${who} took ${much} longer`;
    case "begun-late":
      return `${task}${who} was begun ${much} later`;
    case "not-begun":
      return `${task}${who} was to be begun, and is not`;
    case "dries-longer":
      return `${f.of ?? "something"} dries ${much} longer`;
    case "waits-for":
      return `${task} waits for ${f.byName || "a delivery"}`;
    case "busy":
      return `${task}: ${f.who ?? "its maker"} is at ${f.byName || "something else"} first`;
    case "away":
      return `${task}: ${f.who ?? "its maker"} is not there in time`;
    case "full":
      return `${task} waits for room${f.byName ? `, taken by ${f.byName}` : ""}`;
  }
  return `${task} comes later in the order of work`;
}
