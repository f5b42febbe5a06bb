<script setup lang="ts">
import { computed } from "vue";
import type { PlanView, TaskCard } from "../api/client";
import Swatch from "../drawings/Swatch.vue";
import WorkGlyph from "../drawings/WorkGlyph.vue";
import WorkingSheet from "../parts/WorkingSheet.vue";
import { grams, lasting, useTimes } from "../format";

/** One task of the plan, and the chain of what it waited for. */
const props = defineProps<{ card: TaskCard; cards: Map<string, TaskCard>; plan: PlanView }>();
const emit = defineEmits<{ close: []; go: [id: string] }>();
const times = useTimes();

const who = (id?: string) => props.plan.people.find((p) => p.id === id)?.name;
const names = computed(() =>
  props.card.orders
    .map((id) => props.plan.orders.find((o) => o.order.id === id)?.order.name)
    .filter(Boolean)
    .join(", "),
);
const because: Record<string, string> = {
  now: "nothing: it can begin at once",
  step: "the step before",
  input: "what goes into it",
  person: "its maker, who is at",
  hours: "working hours, after",
  place: "a free place, taken by",
};
const chain = computed(() => {
  const links: { card?: TaskCard; cause: string }[] = [];
  const seen = new Set<string>();
  for (let c: TaskCard | undefined = props.card; c && !seen.has(c.id) && links.length < 8;) {
    seen.add(c.id);
    const next: TaskCard | undefined = props.cards.get(c.causedBy ?? "");
    links.push({ cause: because[c.cause ?? "now"] ?? "", card: next });
    c = next;
  }
  return links;
});
</script>

<template>
  <aside class="drawer" data-test="task-drawer">
    <button class="bare shut" aria-label="Close" @click="emit('close')">✕</button>
    <h2><WorkGlyph :glyph="card.glyph" :size="24" /> {{ card.name }}</h2>
    <p>
      <Swatch :colour="card.colour" /> {{ card.of }}<template v-if="names">, for {{ names }}</template>
    </p>
    <p class="figure">
      {{ card.making === "mix" ? grams(card.quantity) : card.quantity
      }}<span class="unit"
        >{{ card.making === "mix" ? " g" : " pieces" }},
        {{ card.need && card.making !== "mix" ? `${card.need} needed` : "" }}</span
      >
    </p>
    <p>
      {{ who(card.person) ?? "Nobody: it waits by itself" }}, {{ times.moment(card.resume ?? card.start) }} to
      {{ times.moment(card.end) }} <span class="quiet">({{ lasting(card.end - (card.resume ?? card.start)) }})</span>
    </p>
    <p v-for="h in card.holds" :key="h.place" class="quiet">
      Holds {{ h.slots }} of {{ plan.places.find((p) => p.id === h.place)?.name }} until {{ times.moment(h.to) }}
    </p>
    <WorkingSheet v-if="card.working" :workings="[card.working]" />
    <h3>It waited for</h3>
    <ol>
      <li v-for="(l, i) in chain" :key="i">
        {{ l.cause }}
        <button v-if="l.card" class="bare" @click="emit('go', l.card.id)">
          {{ l.card.name }}, {{ l.card.of }} <span class="quiet">until {{ times.moment(l.card.end) }}</span>
        </button>
      </li>
    </ol>
  </aside>
</template>

<style scoped>
.drawer {
  width: 300px;
  padding: 18px 20px;
  border-left: 1px solid var(--ink);
  position: relative;
}
.shut {
  position: absolute;
  right: 14px;
  top: 12px;
  padding: 6px;
}
p {
  margin: 6px 0;
}
h2 {
  padding-right: 20px;
}
h3 {
  margin-top: 16px;
}
ol {
  margin: 6px 0 0;
  padding-left: 18px;
}
li {
  margin-bottom: 8px;
  font-size: 14px;
}
li button {
  color: var(--leaf);
  font-weight: 600;
}
</style>
