import { useMutation, useQuery } from "@tanstack/vue-query";
import { computed, type MaybeRefOrGetter, toValue } from "vue";
import { answered, client, command, person } from "./client";

export const useStudio = () => useQuery({ queryKey: ["studio"], queryFn: () => answered(client.GET("/api/studio")) });
export const useOrders = () => useQuery({ queryKey: ["orders"], queryFn: () => answered(client.GET("/api/orders")) });
export const useBook = () =>
  useQuery({ queryKey: ["book"], queryFn: () => answered(client.GET("/api/book")), shallow: true });
export const useProposal = () =>
  useQuery({ queryKey: ["proposal"], queryFn: () => answered(client.GET("/api/proposal")) });
export const useCount = (wished: MaybeRefOrGetter<boolean>) =>
  useQuery({
    queryKey: ["count", wished],
    queryFn: () => answered(client.GET("/api/count", { params: { query: { wished: toValue(wished) } } })),
  });
export const useMixing = () => useQuery({ queryKey: ["mixing"], queryFn: () => answered(client.GET("/api/mixing")) });
export const useWires = () => useQuery({ queryKey: ["wires"], queryFn: () => answered(client.GET("/api/wires")) });
export const usePlan = () => useQuery({ queryKey: ["plan"], queryFn: () => answered(client.GET("/api/plan")) });
export const useJournal = (open: MaybeRefOrGetter<boolean>) =>
  useQuery({
    queryKey: ["journal"],
    queryFn: () => answered(client.GET("/api/journal")),
    enabled: computed(() => toValue(open)),
  });
export const useBench = () =>
  useQuery({
    queryKey: ["bench", person],
    queryFn: () => answered(client.GET("/api/bench/{person}", { params: { path: { person: person.value } } })),
    enabled: computed(() => person.value !== ""),
  });

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
    mutationFn: (n: number) =>
      answered(client.POST("/api/proposal/accept", { params: { header: command() }, body: { n } })),
  });

export const useStores = () => useQuery({ queryKey: ["stores"], queryFn: () => answered(client.GET("/api/stores")) });
export const useLedger = (of: MaybeRefOrGetter<string>, length: MaybeRefOrGetter<number>) =>
  useQuery({
    queryKey: ["ledger", of, length],
    queryFn: () =>
      answered(
        client.GET("/api/stores/{of}/ledger", {
          params: { path: { of: toValue(of) }, query: toValue(length) ? { length: toValue(length) } : {} },
        }),
      ),
  });
