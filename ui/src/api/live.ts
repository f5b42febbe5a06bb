import type { QueryClient } from "@tanstack/vue-query";
import { ref } from "vue";

/** False while the event stream is broken: what is shown may be old. */
export const connected = ref(true);

/** Refetches what is shown whenever the journal has grown, also after a gap. */
export function listen(queries: QueryClient): void {
  let latest = "";
  const events = new EventSource("/api/events");
  events.addEventListener("journal", (event) => {
    connected.value = true;
    if (latest !== "" && event.data !== latest) void queries.invalidateQueries();
    latest = event.data;
  });
  events.onerror = () => {
    connected.value = false;
  };
}
