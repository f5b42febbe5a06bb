import { useMutation } from "@tanstack/vue-query";
import { answered, client, useCommands } from "../../api/client";
import type { Row } from "../../parts/fields/fields";

/** A thing as it was and is to be; what is new was not. */
export interface Write {
  was?: Row;
  is: Row;
}

/** Writes things of one kind after the other, each kind all or none; the kinds that have nothing are left out. */
export function useMany() {
  const send = useCommands();
  return useMutation({
    mutationFn: async (all: Record<string, Write[]>) => {
      for (const [kind, writes] of Object.entries(all)) {
        if (!writes.length) continue;
        const body = { things: writes.map((w) => ({ id: w.is.id, ...w })) } as never;
        await send([kind, body], (header) =>
          answered(client.POST("/api/workshop/{kind}/many", { params: { header, path: { kind } }, body })),
        );
      }
    },
  });
}
