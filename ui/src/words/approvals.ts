import type { Schemas } from "../api/client";
import type { useTimes } from "../format";
import { t } from "./said";

/** How far a client's approval of a colour is, and until when their word is in time. */
export function approvalWords(a: Schemas["ApprovalView"], times: ReturnType<typeof useTimes>["value"]): string {
  const name = a.name;
  if (a.state === "approved") return t("{name} is approved.", { name });
  if (a.state === "another") return t("Instead of {name} they want another.", { name });
  const by = times.wall(a.by);
  const so =
    a.state === "sent"
      ? t("A sample of {name} is with the client: their word by {by}.", { name, by })
      : t("A sample of {name} is to be made and approved by {by}.", { name, by });
  if (a.until === undefined) return so;
  return t("{so} It is in time until {until}.", { so, until: times.full(a.until) });
}
