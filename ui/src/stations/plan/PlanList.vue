<script setup lang="ts">
import { computed } from "vue";
import type { PlanView } from "../../api/client";
import { useTimes } from "../../format";
import { word } from "../../words/said";

/** The days of a plan as a list: when, who, what, how many, for whom. */
const props = defineProps<{ plan: PlanView; shows: (block: PlanView["blocks"][number]) => boolean }>();
const emit = defineEmits<{ open: [task: string] }>();
const times = useTimes();
/** More is not read; a day less, or a word more, is. */
const most = 200;
const who = (id?: string) => props.plan.people.find((p) => p.id === id)?.name ?? "";
const whom = (ids: string[]) => ids.map((id) => props.plan.orders.find((o) => o.id === id)?.name ?? "").join(", ");
const work = computed(() =>
  props.plan.blocks.filter((b) => b.kind === "work" && props.shows(b)).sort((a, b) => a.from - b.from),
);
const days = computed(() => {
  const named = new Map<string, typeof work.value>();
  for (const b of work.value.slice(0, most)) {
    const day = times.value.day(b.from);
    named.set(day, [...(named.get(day) ?? []), b]);
  }
  return [...named];
});
</script>

<template>
  <div class="list" data-test="plan-list">
    <section v-for="[day, blocks] in days" :key="day">
      <h2>{{ day }}</h2>
      <table class="ledger">
        <thead>
          <tr>
            <th>when</th>
            <th>who</th>
            <th>work</th>
            <th>of</th>
            <th class="n">how many</th>
            <th>for</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="b in blocks" :key="b.id">
            <td>{{ times.clock(b.from) }}–{{ times.clock(b.to) }}</td>
            <td>{{ who(b.person) }}</td>
            <td>
              <button class="bare" @click="emit('open', b.id)">{{ b.name }}</button>
              <span v-if="b.state !== 'planned'" class="quiet"> {{ word(b.state) }}</span>
            </td>
            <td>{{ b.of }}</td>
            <td class="n">{{ b.making === "mix" ? `${Math.round(b.quantity / 1000)} g` : b.quantity }}</td>
            <td class="quiet">{{ whom(b.orders) }}</td>
          </tr>
        </tbody>
      </table>
    </section>
    <p v-if="work.length > most" class="quiet">
      {{ $t("and {n} more in these days: choose fewer days, or type a word.", { n: work.length - most }) }}
    </p>
    <p v-if="!work.length" class="quiet">Nothing like that is planned in these days.</p>
  </div>
</template>

<style scoped>
.list {
  grid-column: 1 / 3;
  padding: 12px 20px;
  max-height: 70vh;
  overflow-y: auto;
}
section + section {
  margin-top: 16px;
}
</style>
