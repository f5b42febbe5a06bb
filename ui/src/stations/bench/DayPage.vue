<script setup lang="ts">
import { computed } from "vue";
import { useRoute } from "vue-router";
import { person } from "../../api/client";
import { useDay } from "../../api/queries";
import { useTimes } from "../../format";
import BenchDay from "./BenchDay.vue";
import PaperFoot from "./PaperFoot.vue";

/** The whole day of who sits here, or their week, to look at or to print. */
const route = useRoute();
const week = computed(() => route.query.days === "7");
const { data: day } = useDay(
  person,
  computed(() => (week.value ? 7 : 1)),
);
const times = useTimes();
/** The days on which there is something to do, each with its sittings; what dries is of today. */
const days = computed(() => {
  const all = day.value;
  if (!all) return [];
  const named = new Map<string, typeof all.sittings>();
  for (const s of all.sittings) {
    const name = times.value.day(s.from);
    named.set(name, [...(named.get(name) ?? []), s]);
  }
  return [...named].map(([name, sittings], i) => ({ name, day: { ...all, sittings, dry: i ? [] : all.dry } }));
});
const print = () => window.print();
</script>

<template>
  <div class="station paper">
    <h1>
      {{
        week ? $t("{name}, the coming week", { name: day?.name ?? "" }) : $t("{name}, today", { name: day?.name ?? "" })
      }}
    </h1>
    <p v-if="!person">Say who is here first.</p>
    <template v-if="week">
      <section v-for="d in days" :key="d.name" data-test="week-day">
        <h2>{{ d.name }}</h2>
        <BenchDay :day="d.day" />
      </section>
    </template>
    <BenchDay v-else-if="day" :day="day" />
    <div class="no-print ways">
      <button class="bare add" data-test="print-day" @click="print">Print it</button>
      <RouterLink class="add" data-test="week" :to="week ? '/bench/day' : '/bench/day?days=7'">{{
        week ? $t("Today alone") : $t("The whole week")
      }}</RouterLink>
      <RouterLink class="add" to="/bench">To the bench</RouterLink>
    </div>
    <PaperFoot :path="route.fullPath" />
  </div>
</template>

<style scoped>
.ways {
  display: flex;
  gap: 1.6rem;
  font-size: 1.1rem;
}
.ways > * {
  min-height: 56px;
  align-content: center;
}
</style>
