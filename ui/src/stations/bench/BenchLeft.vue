<script setup lang="ts">
import { computed } from "vue";
import { useDay } from "../../api/queries";
import { useTimes } from "../../format";
import HandOn from "./HandOn.vue";

/** What somebody still has to do today, for the lead: any of it can be handed on. */
const props = defineProps<{ person: string }>();
const { data: day } = useDay(() => props.person);
const times = useTimes();
const tasks = computed(() => day.value?.sittings.flatMap((s) => s.tasks) ?? []);
</script>

<template>
  <ul class="tasks" data-test="left-today">
    <li v-for="t in tasks" :key="t.id">
      {{ times.clock(t.start) }} <b>{{ t.of }}</b>, {{ t.name }}
      <HandOn v-if="t.state === 'planned'" :task="t" :of="person" :test="`hand-${t.of}`" />
    </li>
  </ul>
</template>

<style scoped>
.tasks {
  list-style: none;
  padding: 0;
  margin: 0.4rem 0 0;
}
.tasks li {
  padding: 0.4rem 0;
  border-top: 1px solid var(--vein);
}
</style>
