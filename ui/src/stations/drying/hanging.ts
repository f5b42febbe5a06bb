import { useMutation } from "@tanstack/vue-query";
import { answered, client, useCommands } from "../../api/client";

/** Says where a sensor hangs: in surroundings, in the room if empty; nowhere takes it down. */
export function useHanging() {
  const send = useCommands();
  return useMutation({
    mutationFn: (wish: { sensor: number; in?: string }) =>
      send([wish], (header) =>
        answered(
          client.POST("/api/sensors/{sensor}/hang", {
            params: { header, path: { sensor: wish.sensor } },
            body: { in: wish.in },
          }),
        ),
      ),
  });
}
