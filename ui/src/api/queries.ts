import { keepPreviousData, useInfiniteQuery, useMutation, useQuery } from "@tanstack/vue-query";
import { computed, type MaybeRefOrGetter, ref, toValue } from "vue";
import { createSharedComposable, useNow } from "@vueuse/core";
import { useAccess } from "./access";
import { answered, client, command, person } from "./client";
import { foretold } from "./foretold";
import { following } from "./live";
import { waiting } from "./outbox";
import { remembered } from "./tablet";

/** One for all who look at it: there are hundreds on a page. */
export const useStudio = createSharedComposable(() =>
  useQuery({
    queryKey: ["studio"],
    queryFn: async () => (await remembered("studio", () => answered(client.GET("/api/studio")))).what,
  }),
);
export const useOrders = () => useQuery({ queryKey: ["orders"], queryFn: () => answered(client.GET("/api/orders")) });
/** How sure each order is, where somebody wants to know: it is dear. */
export const useChances = (wanted: MaybeRefOrGetter<boolean>) =>
  useQuery({
    queryKey: ["chances"],
    queryFn: () => answered(client.GET("/api/chances")),
    enabled: computed(() => toValue(wanted)),
    placeholderData: keepPreviousData,
  });
/** How sure an order is that was asked for. */
export const usePromiseChance = (id: MaybeRefOrGetter<string | undefined>) =>
  useQuery({
    queryKey: ["promise-chance", id],
    queryFn: () => answered(client.GET("/api/promise/{id}/chance", { params: { path: { id: toValue(id) ?? "" } } })),
    enabled: computed(() => !!toValue(id)),
  });
/** What the studio would be if, by name. */
export const useScenes = () => useQuery({ queryKey: ["scenes"], queryFn: () => answered(client.GET("/api/scenes")) });
export const useBook = () =>
  useQuery({ queryKey: ["book"], queryFn: () => answered(client.GET("/api/book")), shallow: true });
export const useProposal = (plan: MaybeRefOrGetter<string> = "") =>
  useQuery({
    queryKey: ["proposal", plan],
    queryFn: () => answered(client.GET("/api/proposal", { params: { query: { plan: toValue(plan) } } })),
    placeholderData: keepPreviousData,
  });
/** Where something is, by a few letters of it. */
export const useFound = (text: MaybeRefOrGetter<string>) =>
  useQuery({
    queryKey: ["found", text],
    queryFn: () => answered(client.GET("/api/find", { params: { query: { text: toValue(text) } } })),
    enabled: computed(() => !!toValue(text).trim()),
    placeholderData: keepPreviousData,
    gcTime: 0,
  });

/** What has to be made that must begin within so many days, with words in it; 0 days are as many as are seen at once. */
export const useCount = (
  wished: MaybeRefOrGetter<boolean>,
  days: MaybeRefOrGetter<number>,
  text: MaybeRefOrGetter<string>,
) =>
  useQuery({
    queryKey: ["count", wished, days, text],
    queryFn: () =>
      answered(
        client.GET("/api/count", {
          params: { query: { wished: toValue(wished), days: toValue(days), text: toValue(text) } },
        }),
      ),
    placeholderData: keepPreviousData,
  });

/** A cell of the count, opened. */
export const useCell = (wished: MaybeRefOrGetter<boolean>, key: MaybeRefOrGetter<string | undefined>) =>
  useQuery({
    queryKey: ["cell", wished, key],
    queryFn: () =>
      answered(
        client.GET("/api/count/cell", { params: { query: { wished: toValue(wished), key: toValue(key) ?? "" } } }),
      ),
    enabled: computed(() => !!toValue(key)),
    placeholderData: keepPreviousData,
  });

/** What to weigh on so many days, today among them. */
export const useMixing = (days: MaybeRefOrGetter<number>) =>
  useQuery({
    queryKey: ["mixing", days],
    queryFn: () => answered(client.GET("/api/mixing", { params: { query: { days: toValue(days) } } })),
    placeholderData: keepPreviousData,
  });
export const useMix = (lot: MaybeRefOrGetter<string | undefined>) =>
  useQuery({
    queryKey: ["mix", lot],
    queryFn: () => answered(client.GET("/api/mixing/{lot}", { params: { path: { lot: toValue(lot) ?? "" } } })),
    enabled: computed(() => !!toValue(lot)),
  });
/** What to cut on so many days, today among them. */
export const useWires = (days: MaybeRefOrGetter<number>) =>
  useQuery({
    queryKey: ["wires", days],
    queryFn: () => answered(client.GET("/api/wires", { params: { query: { days: toValue(days) } } })),
    placeholderData: keepPreviousData,
  });

/** A plan from today to its end, without its tasks, where it is wanted. */
export const useWholePlan = (of: MaybeRefOrGetter<string>, wanted: MaybeRefOrGetter<boolean>) =>
  useQuery({
    queryKey: ["plan", of, "whole"],
    queryFn: () => answered(client.GET("/api/plan/whole", { params: { query: { of: toValue(of) } } })),
    enabled: computed(() => toValue(wanted)),
    placeholderData: keepPreviousData,
  });

/** Some days of a plan; whose, from which minute (that of today's morning is 0), and how many. */
export const usePlan = (of: MaybeRefOrGetter<string>, from: MaybeRefOrGetter<number>, days: MaybeRefOrGetter<number>) =>
  useQuery({
    queryKey: ["plan", of, from, days],
    queryFn: () =>
      answered(
        client.GET("/api/plan", { params: { query: { of: toValue(of), from: toValue(from), days: toValue(days) } } }),
      ),
    placeholderData: keepPreviousData,
    shallow: true,
  });

/** One task of a plan with all that is known of it. */
export const useTask = (of: MaybeRefOrGetter<string>, task: MaybeRefOrGetter<string>) =>
  useQuery({
    queryKey: ["task", of, task],
    queryFn: () =>
      answered(
        client.GET("/api/tasks/{task}", { params: { path: { task: toValue(task) }, query: { of: toValue(of) } } }),
      ),
    enabled: computed(() => toValue(task) !== ""),
  });

/** What sets an order's date. */
export const useChain = (of: MaybeRefOrGetter<string>, order: MaybeRefOrGetter<string>) =>
  useQuery({
    queryKey: ["chain", of, order],
    queryFn: () =>
      answered(
        client.GET("/api/orders/{id}/chain", { params: { path: { id: toValue(order) }, query: { of: toValue(of) } } }),
      ),
    enabled: computed(() => toValue(order) !== ""),
  });

export const useSearch = () => useQuery({ queryKey: ["search"], queryFn: () => answered(client.GET("/api/search")) });

export const useVersions = (open: MaybeRefOrGetter<boolean>) =>
  useQuery({
    queryKey: ["versions"],
    queryFn: () => answered(client.GET("/api/plan/versions")),
    enabled: computed(() => toValue(open)),
  });
/** What is looked for in a history: words in it, and days, as 2027-09-20; all may be empty. */
export interface Sought {
  text: string;
  from: string;
  to: string;
}

/** A history that is asked for page by page, the newest lines first. */
function useHistory<T>(
  key: MaybeRefOrGetter<unknown>[],
  ask: (query: Partial<Sought> & { after?: string }) => Promise<{ lines: T[]; next: string }>,
  open: MaybeRefOrGetter<boolean> = true,
) {
  const sought = ref<Sought>({ text: "", from: "", to: "" });
  const pages = useInfiniteQuery({
    queryKey: [...key, sought],
    queryFn: ({ pageParam }) =>
      ask(
        Object.fromEntries(Object.entries({ ...sought.value, after: pageParam }).filter(([, value]) => value !== "")),
      ),
    initialPageParam: "",
    getNextPageParam: (last) => last.next || undefined,
    enabled: computed(() => toValue(open)),
    placeholderData: keepPreviousData,
  });
  return {
    sought,
    lines: computed(() => pages.data.value?.pages.flatMap((page) => page.lines) ?? []),
    more: pages.hasNextPage,
    busy: pages.isFetching,
    error: pages.error,
    earlier: () => pages.fetchNextPage(),
  };
}

/** Whether whoever is here may take a line of the journal back: a maker only their own. */
export function useMayUndo() {
  const { data: access } = useAccess();
  const { data: studio } = useStudio();
  return (line: { person: string; undone: boolean; final: boolean }) =>
    !line.undone &&
    !line.final &&
    (access.value?.role !== "maker" || studio.value?.people.find((p) => p.id === person.value)?.name === line.person);
}
export const useJournal = (open: MaybeRefOrGetter<boolean>) =>
  useHistory(["journal"], (query) => answered(client.GET("/api/journal", { params: { query } })), open);
export const usePastOrders = (open: MaybeRefOrGetter<boolean>) =>
  useHistory(["past"], (query) => answered(client.GET("/api/orders/past", { params: { query } })), open);
export const useClosedLots = (open: MaybeRefOrGetter<boolean>) =>
  useHistory(["closed"], (query) => answered(client.GET("/api/log/lots", { params: { query } })), open);
/** The bench of who sits here: as heard last, with what waits on the tablet done. */
export function useBench() {
  const { data: studio } = useStudio();
  const heard = useQuery({
    queryKey: ["bench", person],
    queryFn: () =>
      remembered(`bench ${person.value}`, () =>
        answered(client.GET("/api/bench/{person}", { params: { path: { person: person.value } } })),
      ),
    enabled: computed(() => person.value !== ""),
  });
  const clock = useNow({ interval: 15_000 });
  const data = computed(() => {
    const h = heard.data.value;
    if (!h) return undefined;
    const cut = following.value === "lost" && !studio.value?.standing;
    const passed = cut ? Math.max(0, Math.floor((clock.value.getTime() - h.at) / 60_000)) : 0;
    const mine = waiting.value.filter((k) => k.person === person.value && !k.refused);
    return foretold(h.what, mine, passed);
  });
  return { data, error: heard.error };
}

/** A maker's day, asked for as it is looked at. */
export const useDay = (of: MaybeRefOrGetter<string>, days: MaybeRefOrGetter<number> = 1) =>
  useQuery({
    queryKey: ["bench", of, "day", days],
    queryFn: async () => {
      const path = { person: toValue(of) };
      const query = toValue(days) > 1 ? { days: toValue(days) } : {};
      return (
        await remembered(`day ${path.person} ${query.days ?? ""}`.trim(), () =>
          answered(client.GET("/api/bench/{person}/day", { params: { path, query } })),
        )
      ).what;
    },
    enabled: computed(() => toValue(of) !== ""),
  });

/** A task with its whole bench card. */
export const useCard = (task: MaybeRefOrGetter<string>) =>
  useQuery({
    queryKey: ["bench", "card", task],
    queryFn: () => answered(client.GET("/api/tasks/{task}/card", { params: { path: { task: toValue(task) } } })),
  });

/** What leaves with an order, how far it is packed, and its sheet. */
export const useSheet = (id: MaybeRefOrGetter<string>) =>
  useQuery({
    queryKey: ["orders", "sheet", id],
    queryFn: () => answered(client.GET("/api/orders/{id}/sheet", { params: { path: { id: toValue(id) } } })),
  });

/** Who does what now. */
export const useBenches = () =>
  useQuery({ queryKey: ["bench", "all"], queryFn: () => answered(client.GET("/api/benches")) });

/** People, places, tools, materials and settings. */
export const useWorkshop = () =>
  useQuery({ queryKey: ["workshop"], queryFn: () => answered(client.GET("/api/workshop")) });

/** What the interface can be read in, besides English. */
export const useLanguages = () =>
  useQuery({
    queryKey: ["languages"],
    queryFn: async () => (await answered(client.GET("/api/words"))).languages,
    staleTime: 0,
  });

/** What a workshop usually has, and this one has not. */
export const useUsual = () =>
  useQuery({ queryKey: ["workshop", "usual"], queryFn: () => answered(client.GET("/api/workshop/usual")) });

export const useDryingRoom = () =>
  useQuery({
    queryKey: ["drying"],
    queryFn: async () => (await remembered("drying", () => answered(client.GET("/api/drying-room")))).what,
  });
export const useAir = (days: MaybeRefOrGetter<number>) =>
  useQuery({
    queryKey: ["air", days],
    queryFn: () => answered(client.GET("/api/air", { params: { query: { days: toValue(days) } } })),
    placeholderData: keepPreviousData,
  });

export const useFalls = () =>
  useQuery({ queryKey: ["log", "falls"], queryFn: () => answered(client.GET("/api/log/falls")) });

/** What was found not as it should be. */
export const useRemarks = () =>
  useQuery({ queryKey: ["log", "remarks"], queryFn: () => answered(client.GET("/api/log/remarks")) });

export const useLog = () => useQuery({ queryKey: ["log"], queryFn: () => answered(client.GET("/api/log")) });

export type ClockStep = "quarter" | "hour" | "next" | "morning";

export const useMoveClock = () =>
  useMutation({
    mutationFn: (by: ClockStep) => answered(client.POST("/api/clock", { params: { header: command() }, body: { by } })),
  });

export const useUndo = () =>
  useMutation({
    mutationFn: (n: number) =>
      answered(client.POST("/api/journal/{n}/undo", { params: { header: command(), path: { n } } })),
  });

export const useAccept = () =>
  useMutation({
    mutationFn: (seen: { n: number; plan: string }) =>
      answered(client.POST("/api/proposal/accept", { params: { header: command() }, body: seen })),
  });

export const useStores = () => useQuery({ queryKey: ["stores"], queryFn: () => answered(client.GET("/api/stores")) });
export const useLedger = (of: MaybeRefOrGetter<string>, length: MaybeRefOrGetter<number>) =>
  useHistory(["ledger", of, length], (query) =>
    answered(
      client.GET("/api/stores/{of}/ledger", {
        params: { path: { of: toValue(of) }, query: toValue(length) ? { ...query, length: toValue(length) } : query },
      }),
    ),
  );
