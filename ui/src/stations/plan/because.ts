/** What a task waited for, by cause; what caused it follows. */
export const because: Record<string, string> = {
  now: "nothing: it begins at once",
  step: "the step before:",
  input: "what goes into it:",
  person: "its maker, who is at:",
  hours: "working hours, after:",
  place: "a free place, until then taken by:",
  tool: "a tool or machine, in use by:",
  gate: "what comes from outside:",
  pin: "the time it is pinned to",
  window: "what follows, which could not come sooner:",
};

/** The same for a link of a chain, whose next link stands below it. */
export function waitedFor(cause: string, short?: string, toOrder?: boolean): string {
  switch (cause) {
    case "now":
      return "it begins at once";
    case "step":
      return "the step before it";
    case "input":
      return "what goes into it";
    case "person":
      return short ? `somebody free who can “${short}”` : "its maker";
    case "hours":
      return "working hours";
    case "place":
      return `room in ${short ?? "a place"}`;
    case "tool":
      return short ?? "a tool";
    case "gate":
      return toOrder ? `${short}, which has to be ordered` : (short ?? "a delivery");
    case "pin":
      return "the time it is pinned to";
  }
  return "what follows, which could not come sooner";
}
