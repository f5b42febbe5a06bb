<script setup lang="ts">
import type { Schemas } from "../../api/client";
import { lasting, useTimes } from "../../format";
import { t } from "../../words/said";

/** What cannot wait, in words; those of one person only, where one is named. */
defineProps<{ alerts: Schemas["AlertView"][]; now: number }>();
const times = useTimes();
function words(a: Schemas["AlertView"], now: number): string {
  const of = (a.of ?? "").toLowerCase();
  const by = a.by ? `, ${a.by}` : "";
  switch (a.kind) {
    case "closing":
      return t("Take up {of} within {now}, by {a}{by}: later it is too dry to shape.", {
        of,
        now: lasting(a.at - now),
        a: times.value.clock(a.at),
        by,
      });
    case "closed":
      return t("{of} should have been taken up by {a}{by}. Touch it: what is too dry to shape is spoilt.", {
        of: a.of,
        a: times.value.moment(a.at),
        by,
      });
    case "out":
      return t("The time of {of} in the machine is over since {a}: take it out and touch it.", {
        of,
        a: times.value.clock(a.at),
      });
    case "ready":
      return t("{of} is ready and waited for{by}.", { of: a.of, by });
    case "stalled":
      return t("The air{toLowerCase} is too damp to dry {of} {a}.", {
        toLowerCase: a.where ? t(" in the {toLowerCase}", { toLowerCase: a.where.toLowerCase() }) : "",
        of,
        a: a.at <= now ? t("now") : t("from {a}", { a: times.value.clock(a.at) }),
      });
    case "softens":
      return t("{of} on the shelf {now}. A closed box keeps the damp out.", {
        of: a.of,
        now: a.at <= now ? t("has lain in damp air too long: touch it") : `goes soft by ${times.value.moment(a.at)}`,
      });
    default:
      return `The sensor ${a.quiet} is silent since ${times.value.moment(a.at)}; what is shown is expected, not measured.`;
  }
}
const grave = (kind: string) => ["closing", "closed", "softens", "out"].includes(kind);
</script>

<template>
  <ul v-if="alerts.length" class="alerts" data-test="alerts">
    <li
      v-for="(a, i) in alerts"
      :key="i"
      class="word"
      :class="grave(a.kind) ? 'late' : a.kind === 'ready' ? 'safe' : 'tight'"
    >
      {{ words(a, now) }}
    </li>
  </ul>
</template>

<style scoped>
.alerts {
  list-style: none;
  margin: 0 0 12px;
  padding: 10px 14px;
  background: var(--sheet);
  border: 1px solid var(--vein);
  border-left: 4px solid var(--dust);
  display: grid;
  gap: 5px;
}
</style>
