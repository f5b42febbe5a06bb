import { useQuery, useQueryClient } from "@tanstack/vue-query";
import { ref } from "vue";
import { answered, client, type Schemas, sitDown } from "./client";

export type Access = Schemas["AccessView"];

/** Whether people sign in here, and who has in this browser. Without a connection it stays as it was. */
export const useAccess = () =>
  useQuery({
    queryKey: ["access"],
    queryFn: async () => {
      const is = await answered(client.GET("/api/access"));
      if (is.locked) sitDown(is.person ?? "");
      return is;
    },
    staleTime: 0,
    retry: false,
  });

/** Whether whoever has come in here may give an operation; it is refused anyway where not. */
export const mayGive = (access: Access | undefined, operation: string): boolean =>
  !access?.may?.length || access.may.includes(operation);

/** Who is to give a PIN before they sit down here. */
export const givesPin = ref("");

/** Sits down: at a tablet that is told, and may take a PIN first. */
export function useSeat() {
  const queries = useQueryClient();
  const access = () => queries.getQueryData<Access>(["access"]);
  const changed = (is: Access) => {
    queries.setQueryData(["access"], is);
    sitDown(is.person ?? "");
  };
  return {
    async sit(id: string, pin?: string) {
      const is = access();
      if (is?.kind !== "tablet") {
        if (!is?.locked) sitDown(id);
        return;
      }
      if (is.withPin.includes(id) && pin === undefined) {
        givesPin.value = id;
        return;
      }
      // without a connection somebody who sat here before goes on, and is told when it is sent if that was too long ago
      sitDown(id);
      changed(await answered(client.POST("/api/access/seat", { body: { person: id, ...(pin ? { pin } : {}) } })));
    },
    async leave() {
      sitDown("");
      changed(await answered(client.POST("/api/access/leave")));
    },
  };
}
