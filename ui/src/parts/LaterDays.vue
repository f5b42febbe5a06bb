<script setup lang="ts">
import { useTimes } from "../format";

/** Days that are not shown, a line each with what they come to. */
defineProps<{ days: { day: string; says: string }[]; title: string }>();
const times = useTimes();
const most = 30;
</script>

<template>
  <details v-if="days.length" class="sheet later" data-test="later">
    <summary>
      {{ title }}
    </summary>
    <ul>
      <li v-for="d in days.slice(0, most)" :key="d.day">
        <b>{{ times.wallDay(`${d.day}T00:00`) }}</b> <span>{{ d.says }}</span>
      </li>
    </ul>
    <p v-if="days.length > most" class="quiet">{{ $t("and {n} more days", { n: days.length - most }) }}</p>
  </details>
</template>

<style scoped>
.later {
  padding: 10px 20px;
  margin-bottom: 20px;
}
summary {
  cursor: pointer;
  font-weight: 600;
}
ul {
  list-style: none;
  padding: 0;
  margin: 8px 0 0;
  columns: 3 220px;
}
li {
  display: flex;
  gap: 12px;
  padding: 3px 0;
}
li b {
  min-width: 92px;
}
</style>
