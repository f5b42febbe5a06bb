<script setup lang="ts">
import type { Schemas } from "../../api/client";
import { lasting, useTimes } from "../../format";

/** What cannot wait, in words; those of one person only, where one is named. */
defineProps<{ alerts: Schemas["AlertView"][]; now: number }>();
const times = useTimes();
function words(a: Schemas["AlertView"], now: number): string {
  const of = (a.of ?? "").toLowerCase();
  const by = a.by ? `, ${a.by}` : "";
  switch (a.kind) {
    case "closing":
      return `Take up ${of} within ${lasting(a.at - now)}, by ${times.value.clock(a.at)}${by}: later it is too dry to shape.`;
    case "closed":
      return `${a.of} should have been taken up by ${times.value.moment(a.at)}${by}. Touch it: what is too dry to shape is spoilt.`;
    case "out":
      return `The time of ${of} in the machine is over since ${times.value.clock(a.at)}: take it out and touch it.`;
    case "ready":
      return `${a.of} is ready and waited for${by}.`;
    case "stalled":
      return `The air${a.where ? ` in the ${a.where.toLowerCase()}` : ""} is too damp to dry ${of} ${a.at <= now ? "now" : `from ${times.value.clock(a.at)}`}.`;
    case "softens":
      return `${a.of} on the shelf ${a.at <= now ? "has lain in damp air too long: touch it" : `goes soft by ${times.value.moment(a.at)}`}. A closed box keeps the damp out.`;
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
