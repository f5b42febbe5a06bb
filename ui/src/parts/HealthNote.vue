<script setup lang="ts">
import { useQuery } from "@tanstack/vue-query";
import { computed } from "vue";
import { answered, client } from "../api/client";
import { lasting } from "../format";
import { t } from "../words/said";
import { inWords } from "../words/refusals";

/** What is not as it should be with the computer, its clock or this device's; asked every minute. */
const { data: health, dataUpdatedAt } = useQuery({
  queryKey: ["health"],
  queryFn: () => answered(client.GET("/api/health")),
  refetchInterval: 60_000,
  refetchOnWindowFocus: true,
  retry: false,
});
const mayDiffer = 3 * 60_000;
const says = computed(() => {
  const all = (health.value?.says ?? []).map((said) => inWords("", said));
  const at = health.value?.at;
  const off = at ? dataUpdatedAt.value - Date.parse(at) : 0;
  // the answer's time is of the whole minute
  if (off < -mayDiffer || off > mayDiffer + 60_000)
    all.push(
      t("This device's clock is {off} off. Bractum goes by its own, and nothing is lost; set the device's.", {
        off: lasting(Math.abs(off) / 60_000),
      }),
    );
  const here = Intl.DateTimeFormat().resolvedOptions().timeZone;
  if (at && health.value!.zone && offset(health.value!.zone) !== offset(here))
    all.push(t("All times here are those of {zone}, not of this device.", { zone: health.value!.zone }));
  return all;
});
/** What the clocks of a zone show now. */
function offset(zone: string): string {
  return new Intl.DateTimeFormat("en", { timeZone: zone, timeZoneName: "longOffset", hour: "2-digit" })
    .formatToParts(Date.now())
    .filter((part) => part.type === "timeZoneName")
    .map((part) => part.value)
    .join("");
}
</script>

<template>
  <p v-for="text in says" :key="text" class="health no-print" role="status" data-test="health">{{ text }}</p>
</template>

<style scoped>
.health {
  margin: 10px 26px 0;
  padding: 8px 14px;
  background: var(--dust-wash);
  border-left: 4px solid var(--dust);
}
.health::first-letter {
  text-transform: uppercase;
}
</style>
