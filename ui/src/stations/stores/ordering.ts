import { useMutation } from "@tanstack/vue-query";
import { answered, client, useCommands } from "../../api/client";

/** Orders packs of materials, by their ids, from a supplier. */
export function useOrdering() {
  const send = useCommands();
  return useMutation({
    mutationFn: (body: { supplier: string; packs: Record<string, number> }) =>
      send(body, (header) => answered(client.POST("/api/purchases", { params: { header }, body }))),
  });
}
