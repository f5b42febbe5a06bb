<script setup lang="ts">
import { computed } from "vue";
import type { Schemas } from "../../api/client";
import Swatch from "../../drawings/Swatch.vue";
import WorkGlyph from "../../drawings/WorkGlyph.vue";
import { lasting, mass, useTimes } from "../../format";

/** A maker's day: sittings that open into their tasks, who waits for what, what becomes dry meanwhile. */
const props = defineProps<{ day: Schemas["DayView"] }>();
const times = useTimes();
const many = (t: Schemas["DayTask"]) => (t.making === "mix" ? `${mass(t.quantity)}` : t.quantity);
const names = (tasks: Schemas["DayTask"][]) => [...new Set(tasks.map((t) => t.of))].join(", ");
const awaited = (tasks: Schemas["DayTask"][]) => [...new Set(tasks.flatMap((t) => t.awaited))].join(", ");
const dry = computed(() => [...props.day.dry].sort((a, b) => a.ends - b.ends));
</script>

<template>
  <p v-if="!day.sittings.length">Nothing more is planned for today.</p>
  <template v-for="s in day.sittings" :key="s.from">
    <div v-if="s.tasks.length === 1" class="sitting row" data-test="day-sitting">
      <span class="at">{{ times.clock(s.from) }}–{{ times.clock(s.to) }}</span>
      <WorkGlyph :glyph="s.glyph" />
      <span>
        <b>{{ many(s.tasks[0]!) }} {{ s.tasks[0]!.of }}</b
        >: {{ s.tasks[0]!.name }}
        <Swatch :colour="s.tasks[0]!.colour" :size="14" />
        <small v-if="awaited(s.tasks)">{{ awaited(s.tasks) }} waits for it</small>
      </span>
    </div>
    <details v-else class="sitting" data-test="day-sitting">
      <summary class="row">
        <span class="at">{{ times.clock(s.from) }}–{{ times.clock(s.to) }}</span>
        <WorkGlyph :glyph="s.glyph" />
        <span>
          <b>{{ s.tasks.length }} of a kind</b>: {{ names(s.tasks) }}
          <small v-if="awaited(s.tasks)">{{ awaited(s.tasks) }} waits for it</small>
        </span>
      </summary>
      <p v-for="t in s.tasks" :key="t.id">
        <Swatch :colour="t.colour" :size="14" /> <b>{{ many(t) }}</b> {{ t.of }}, {{ t.name }}
        <span class="quiet"
          >{{ times.clock(t.start) }}, {{ lasting(t.end - t.start)
          }}<template v-if="t.batch && t.batch.of > 1">, batch {{ t.batch.number }} of {{ t.batch.of }}</template></span
        >
      </p>
    </details>
  </template>
  <template v-if="dry.length">
    <h3>Becomes dry meanwhile</h3>
    <p v-for="d in dry" :key="d.of + d.ends + d.then">
      <b>{{ times.clock(d.ends) }}</b> {{ d.of }}, then {{ d.then }}
    </p>
  </template>
</template>

<style scoped>
.row {
  display: grid;
  grid-template-columns: 7.4rem 26px 1fr;
  gap: 0.4rem;
  align-items: start;
  min-height: 2.8rem;
  font-size: 1.05rem;
  padding: 0.35rem 0;
  border-top: 1px solid var(--vein);
}
summary.row {
  cursor: pointer;
}
@media print {
  .row {
    min-height: 0;
    break-inside: avoid;
  }
  .sitting::details-content {
    content-visibility: visible;
    block-size: auto;
  }
}
.at {
  font-weight: 640;
}
small {
  display: block;
  color: var(--petal);
}
.sitting p {
  margin: 0.3rem 0 0.3rem 1rem;
}
</style>
