<script setup lang="ts">
import { computed } from "vue";
import type { Schemas } from "../../api/client";
import { dayName, weekdays as inOrder } from "./days";
import { manner } from "../../manner";
import { t } from "../../words/said";

/** A person's week: seven days from six to ten at night, with the hours worked. */
const props = defineProps<{ person: Schemas["Person"] }>();
const minutes = (clock: string) => Number(clock.slice(0, 2)) * 60 + Number(clock.slice(3));
const weekdays = computed(() =>
  manner.value.week === "sunday" ? [...inOrder.slice(6), ...inOrder.slice(0, 6)] : inOrder,
);
const first = 360;
const last = 1320;
const y = (clock: string) => (36 * (Math.min(last, Math.max(first, minutes(clock))) - first)) / (last - first);
const bars = computed(() =>
  (props.person.hours ?? []).map((h) => ({
    x: weekdays.value.indexOf(h.day) * 16,
    y: y(h.from),
    height: Math.max(1, y(h.to) - y(h.from)),
  })),
);
const words = computed(
  () =>
    (props.person.hours ?? [])
      .map((h) => t("{day} {from} to {to}", { day: dayName(h.day, "long"), from: h.from, to: h.to }))
      .join(", ") || t("no usual hours"),
);
</script>

<template>
  <svg width="112" height="48" viewBox="0 0 112 48" role="img" :aria-label="words">
    <g v-for="(d, i) in weekdays" :key="d">
      <rect :x="i * 16" y="0" width="13" height="36" class="day" />
      <text :x="i * 16 + 6.5" y="46">{{ dayName(d, "narrow") }}</text>
    </g>
    <rect v-for="(b, i) in bars" :key="i" :x="b.x" :y="b.y" width="13" :height="b.height" rx="2" class="works" />
  </svg>
</template>

<style scoped>
.day {
  fill: var(--night);
}
.works {
  fill: var(--leaf);
}
text {
  font: 9px var(--count);
  fill: var(--soft);
  text-anchor: middle;
}
</style>
