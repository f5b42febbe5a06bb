import type { QueryClient } from "@tanstack/vue-query";
import { ref } from "vue";
import { searchQuery } from "./queries";

/** False while the event stream is broken: what is shown may be old. */
export const connected = ref(true);

/** Refetches how far the search is; once it is over, what it may have found. */
async function searched(queries: QueryClient): Promise<void> {
  const search = await queries.fetchQuery({ ...searchQuery, staleTime: 0 });
  if (search.running) return;
  await Promise.all(["proposal", "plan", "versions"].map((key) => queries.invalidateQueries({ queryKey: [key] })));
}

/** Refetches what is shown whenever the journal has grown, also after a gap. */
export function listen(queries: QueryClient): void {
  let latest = "";
  const events = new EventSource("/api/events");
  events.addEventListener("journal", (event) => {
    connected.value = true;
    if (latest !== "" && event.data !== latest) void queries.invalidateQueries();
    latest = event.data;
  });
  events.addEventListener("search", () => void searched(queries));
  events.addEventListener("air", () => void queries.invalidateQueries({ queryKey: ["air"] }));
  events.onerror = () => {
    connected.value = false;
  };
}
