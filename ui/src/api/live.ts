import type { QueryClient } from "@tanstack/vue-query";
import { ref } from "vue";
import { answered, client } from "./client";

/**
 * How what is shown follows the studio: by the event stream; by asking now and then, where
 * there is no stream; or not at all, while nothing answers.
 */
export const following = ref<"live" | "asking" | "lost">("live");

/** What is shown by what a fact is about: the first words of query keys. */
const shownBy: Record<string, string[]> = {
  journal: ["journal", "studio"],
  orders: ["orders", "past", "proposal", "plan", "count", "cell", "stores", "book", "page"],
  work: [
    "bench",
    "drying",
    "plan",
    "task",
    "orders",
    "mixing",
    "mix",
    "count",
    "cell",
    "stores",
    "ledger",
    "wires",
    "log",
    "closed",
  ],
  stores: ["workshop", "stores", "ledger", "closed", "count", "cell", "mixing", "wires"],
  wishes: ["proposal", "count", "cell", "plan", "task"],
  plan: ["plan", "versions", "proposal", "orders"],
  standards: ["log", "page", "book", "workshop", "studio", "plan", "bench"],
  timers: ["drying"],
  air: ["air", "drying", "log", "workshop"],
  clock: ["bench", "drying", "plan", "air", "orders"],
  drafts: ["book"],
  scenes: ["scenes"],
  book: ["book", "page", "drying", "plan", "stores", "log", "workshop"],
};

/** What is worked out, and so is another once that is done. */
const workedOut =
  "studio workshop orders chances proposal count cell mixing mix wires plan task chain versions bench drying stores effect".split(
    " ",
  );

interface Told {
  event: string;
  n: number;
  topics: string[];
}

/** What tabs of one browser tell each other, and how often the one with the stream says that it has it. */
const channelName = "bractum";
const beat = 10_000;
const askEach = 8_000;

/**
 * Keeps what is shown up to date. A browser has one stream, whatever the number of its tabs:
 * the visible tab that holds a lock has it and tells the others. A tab that is hidden or left
 * lets go of it, so that no stream outlives its page. Without a stream the tab asks now and
 * then, and says so.
 */
export function listen(queries: QueryClient): void {
  let heard = 0;
  let source: EventSource | undefined;
  let release: (() => void) | undefined;
  let wanted: AbortController | undefined;
  const tabs = "BroadcastChannel" in window ? new BroadcastChannel(channelName) : undefined;

  const everything = () => refetch(() => true);
  const named = (keys: string[]) => refetch((key) => keys.includes(key));
  /** Queries that were under way, and may bring what was before: they are asked once more when they have come. */
  const again = new Set<string>();
  function refetch(whether: (key: string) => boolean) {
    for (const query of queries.getQueryCache().getAll()) {
      if (!whether(String(query.queryKey[0])) || again.has(query.queryHash)) continue;
      const ask = () => queries.invalidateQueries({ queryKey: query.queryKey, exact: true });
      if (query.state.fetchStatus === "idle") {
        void ask();
        continue;
      }
      again.add(query.queryHash);
      const come = () => {
        again.delete(query.queryHash);
        void ask();
      };
      Promise.resolve(query.promise).then(come, come);
    }
  }

  function told({ event, topics }: Told) {
    heard = Date.now();
    following.value = "live";
    if (event === "beat") return;
    if (event === "hello") {
      everything(); // what came before the stream was not told
    } else if (event === "facts") {
      if (topics.includes("all")) everything();
      else named(["studio", ...topics.flatMap((t) => shownBy[t] ?? [])]);
    } else if (event === "planned") {
      named(workedOut);
    } else {
      named([event]); // air, search
    }
  }

  function open() {
    source = new EventSource("/api/events");
    for (const event of ["hello", "facts", "planned", "search", "air"])
      source.addEventListener(event, (message) => {
        const now: Told = { event, ...JSON.parse((message as MessageEvent<string>).data) };
        tabs?.postMessage(now);
        told(now);
      });
  }
  function shut() {
    source?.close();
    source = undefined;
  }

  /** Becomes the tab with the stream as soon as no other visible tab has it. */
  function join() {
    if (wanted) return;
    wanted = new AbortController();
    heard = Date.now();
    if (!("locks" in navigator)) return open();
    navigator.locks
      .request(`${channelName}-stream`, { signal: wanted.signal }, () => {
        open();
        return new Promise<void>((done) => (release = done));
      })
      .catch(() => undefined); // it was left before its turn came
  }
  function leave() {
    wanted?.abort();
    wanted = undefined;
    shut();
    release?.();
    release = undefined;
  }

  /** Asks whether anything has happened, and shows it. */
  async function ask() {
    try {
      const studio = await answered(client.GET("/api/studio"));
      if (following.value !== "live") following.value = "asking";
      const before = queries.getQueryData<typeof studio>(["studio"]);
      const same = (what: "n" | "now" | "behind" | "worked") => before?.[what] === studio[what];
      if (!same("n") || !same("now") || !same("behind") || !same("worked")) everything();
    } catch {
      following.value = "lost";
    }
  }

  tabs?.addEventListener("message", (message: MessageEvent<Told>) => told(message.data));
  document.addEventListener("visibilitychange", () => {
    if (document.visibilityState === "hidden") return leave();
    join();
    void ask();
  });
  addEventListener("pagehide", leave);
  addEventListener("pageshow", (event) => {
    if (document.visibilityState === "visible") join();
    if (event.persisted) void ask();
  });
  setInterval(() => {
    if (source?.readyState === EventSource.OPEN) {
      tabs?.postMessage({ event: "beat", n: 0, topics: [] } satisfies Told);
      heard = Date.now();
    }
    if (source?.readyState === EventSource.CLOSED) {
      shut(); // refused: it is tried again
      open();
    }
  }, beat);
  setInterval(() => {
    if (document.visibilityState === "hidden" || Date.now() - heard < 2.5 * beat) return;
    if (following.value === "live") following.value = "asking";
    void ask();
  }, askEach);
  if (document.visibilityState === "visible") join();
}
