<script setup lang="ts">
import { ref, watch } from "vue";
import type { Schemas } from "../../api/client";
import { dayName, weekdays } from "./days";

/** The days on which somebody usually works, from when to when, and their break. */
const week = defineModel<Pick<Schemas["Person"], "hours" | "breaks">>({ required: true });
const first = week.value.hours?.[0];
const rest = week.value.breaks?.[0];
const days = ref(new Set<string>(week.value.hours?.map((h) => h.day)));
const from = ref(first?.from ?? "09:00");
const to = ref(first?.to ?? "17:00");
const rests = ref(rest?.from ?? "");
const rested = ref(rest?.to ?? "");
function toggle(day: string) {
  const next = new Set(days.value);
  if (!next.delete(day)) next.add(day);
  days.value = next;
}
watch([days, from, to, rests, rested], () => {
  week.value = {
    hours: weekdays
      .filter((d) => days.value.has(d))
      .map((day) => ({ day: day as "monday", from: from.value, to: to.value })),
    breaks: rests.value && rested.value ? [{ from: rests.value, to: rested.value }] : [],
  };
});
</script>

<template>
  <div>
    <button
      v-for="d in weekdays"
      :key="d"
      type="button"
      class="toggle"
      :aria-pressed="days.has(d)"
      :class="{ on: days.has(d) }"
      :data-test="`works-${d}`"
      @click="toggle(d)"
    >
      {{ dayName(d, "short") }}
    </button>
    <label>from <input v-model="from" type="time" class="own" data-test="works-from" /></label>
    <label>to <input v-model="to" type="time" class="own" data-test="works-to" /></label>
    <span class="together">
      <label>with a break from <input v-model="rests" type="time" class="own" /></label>
      <label>to <input v-model="rested" type="time" class="own" /></label>
    </span>
  </div>
</template>

<style scoped>
label {
  margin-right: 10px;
}
.together {
  white-space: nowrap;
}
</style>
