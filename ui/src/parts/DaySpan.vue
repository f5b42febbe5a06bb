<script setup lang="ts">
import { useRouteQuery } from "@vueuse/router";
import { computed, watch } from "vue";
import { t } from "../words/said";

/** How many days a station shows, today among them: kept in the address. Of 0 it is said what was chosen instead. */
const props = defineProps<{ chosen?: number }>();
const days = defineModel<number>({ required: true });
const kept = useRouteQuery("days", String(days.value), { transform: Number, mode: "push" });
watch(kept, (so) => (days.value = so), { immediate: true });
const shown = computed(() => days.value || props.chosen);
const spans = [
  { days: 1, name: t("Today") },
  { days: 2, name: t("Today and tomorrow") },
  { days: 7, name: t("A week") },
  { days: 400, name: t("All that is planned") },
];
</script>

<template>
  <p class="spans no-print">
    <button
      v-for="s in spans"
      :key="s.days"
      type="button"
      class="bare"
      :class="{ here: shown === s.days }"
      :aria-pressed="shown === s.days"
      :data-test="`days-${s.days}`"
      @click="kept = s.days"
    >
      {{ s.name }}
    </button>
  </p>
</template>

<style scoped>
.spans {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 20px;
  margin: 6px 0;
}
</style>
