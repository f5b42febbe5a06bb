<script setup lang="ts">
import { useMutation } from "@tanstack/vue-query";
import { computed } from "vue";
import { useRoute, useRouter } from "vue-router";
import { person, type Schemas } from "../../api/client";
import { record } from "../../api/outbox";
import { useCard, useStudio } from "../../api/queries";
import ProblemNote from "../../parts/ProblemNote.vue";
import BenchCard from "./BenchCard.vue";
import PaperFoot from "./PaperFoot.vue";
import StepDetail from "./StepDetail.vue";

/** One task's whole card, to look at, to print, or to begin: what a code on paper opens. */
const route = useRoute();
const router = useRouter();
const { data: studio } = useStudio();
const { data: whole, error } = useCard(computed(() => String(route.params.task)));
const bench = computed(
  () =>
    whole.value &&
    studio.value &&
    ({
      n: studio.value.n,
      now: studio.value.now,
      card: whole.value.card,
      next: [],
      sitting: [],
      early: [],
      drying: [],
      eyes: [],
      loads: [],
      rests: [],
      ahead: [],
      remarks: 0,
    } satisfies Schemas["BenchView"]),
);
const others = computed(() => whole.value?.card.steps.slice(1) ?? []);
const begin = useMutation({
  mutationFn: () => record("start", whole.value!.task.id, whole.value!.task.of, { foundReady: false }),
  onSuccess: () => router.push("/bench"),
});
const print = () => window.print();
</script>

<template>
  <div class="station paper">
    <ProblemNote :error="error ?? begin.error.value" />
    <template v-if="bench && whole">
      <BenchCard :bench="bench" :task="whole.task" :step="0" />
      <section v-for="s in others" :key="s.key" class="sheet step">
        <h2>{{ s.pieces }} {{ s.name }}</h2>
        <StepDetail :step="s" />
      </section>
      <div class="ways no-print">
        <button v-if="person && whole.task.state === 'planned'" data-test="begin-card" @click="begin.mutate()">
          Begin it here
        </button>
        <button data-test="print-card" @click="print">Print it</button>
        <RouterLink class="add" to="/bench">To the bench</RouterLink>
      </div>
      <PaperFoot :path="`/bench/card/${whole.task.id}`" />
    </template>
  </div>
</template>

<style scoped>
.step {
  padding: 0.8rem 1.8rem;
  margin-top: 0.8rem;
  break-inside: avoid;
}
.ways {
  display: flex;
  gap: 1rem;
  align-items: center;
  margin: 1rem 0;
}
.ways button {
  min-height: 56px;
  padding: 0 1.4rem;
  font: 600 1.15rem var(--count);
  color: var(--ink);
  background: var(--sheet);
  border: 2px solid var(--ink);
  border-radius: 3px 14px;
  cursor: pointer;
}
</style>
