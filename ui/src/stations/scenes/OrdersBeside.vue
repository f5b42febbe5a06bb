<script setup lang="ts">
import { computed } from "vue";
import type { Schemas } from "../../api/client";
import SafetyWord from "../../parts/SafetyWord.vue";
import { useTimes } from "../../format";
import { t } from "../../words/said";

/** Orders as they are planned, and as they would be, over the same weeks: those that differ. */
const props = defineProps<{ orders: Schemas["SceneOrder"][]; now: number }>();
const times = useTimes();
const width = 420;

const differs = (o: Schemas["SceneOrder"]) => o.was?.ready !== o.is?.ready || o.was?.readyBy !== o.is?.readyBy;
const shown = computed(() => props.orders.filter(differs));
const same = computed(() => props.orders.length - shown.value.length);
const until = computed(() =>
  Math.max(
    props.now + 1440,
    ...shown.value.flatMap((o) => [o.was?.ready, o.is?.ready, o.was?.readyBy, o.is?.readyBy]).map((m) => m ?? 0),
  ),
);
const x = (m: number) => 8 + ((m - props.now) / (until.value - props.now)) * (width - 16);
const says = (o: Schemas["SceneOrder"]) =>
  t("{name}: ready {was}, would be {is}", {
    name: o.name,
    was: o.was?.ready === undefined ? t("never") : times.value.full(o.was.ready),
    is: o.is?.ready === undefined ? t("never") : times.value.full(o.is.ready),
  });
</script>

<template>
  <table class="beside">
    <thead>
      <tr>
        <th scope="col">Order</th>
        <th scope="col" class="when">
          <span>{{ times.dayShort(now) }}</span>
          <span>as planned <i class="was" /> and if so <i class="is" /></span>
          <span>{{ times.dayShort(until) }}</span>
        </th>
        <th scope="col">then</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="o in shown" :key="o.order" :data-test="`beside-${o.name}`">
        <th scope="row">{{ o.name }}</th>
        <td>
          <svg :viewBox="`0 0 ${width} 22`" role="img" :aria-label="says(o)">
            <title>{{ says(o) }}</title>
            <line class="base" x1="4" :x2="width - 4" y1="11" y2="11" />
            <line v-if="o.is" class="by" :x1="x(o.is.readyBy)" :x2="x(o.is.readyBy)" y1="2" y2="20" />
            <line
              v-if="o.was?.ready !== undefined && o.is?.ready !== undefined"
              class="moves"
              :class="{ later: o.is.ready > o.was.ready }"
              :x1="x(o.was.ready)"
              :x2="x(o.is.ready)"
              y1="11"
              y2="11"
            />
            <circle v-if="o.was?.ready !== undefined" class="was" :cx="x(o.was.ready)" cy="11" r="4.5" />
            <circle v-if="o.is?.ready !== undefined" class="is" :cx="x(o.is.ready)" cy="11" r="4.5" />
          </svg>
        </td>
        <td><SafetyWord v-if="o.is" :outcome="o.is" /><span v-else class="quiet">not made</span></td>
      </tr>
    </tbody>
  </table>
  <p class="quiet">
    {{ $t("{n} order stays as it is planned | {n} orders stay as they are planned", same) }}. The line across is by when
    it is to be ready.
  </p>
</template>

<style scoped>
.beside {
  width: 100%;
  border-collapse: collapse;
}
th {
  text-align: left;
  font-weight: 600;
  padding: 4px 10px 4px 0;
  white-space: nowrap;
}
thead th {
  color: var(--soft);
  font-weight: 500;
  font-size: 0.8667rem;
}
.when {
  display: flex;
  justify-content: space-between;
}
td {
  padding: 4px 10px 4px 0;
}
svg {
  width: 100%;
  display: block;
}
.base {
  stroke: var(--vein);
}
.by {
  stroke: var(--ink);
  stroke-width: 1.5;
}
.moves {
  stroke: var(--leaf);
  stroke-width: 3;
}
.moves.later {
  stroke: var(--late);
}
circle.was {
  fill: var(--sheet);
  stroke: var(--ink);
  stroke-width: 1.5;
}
circle.is {
  fill: var(--ink);
}
i {
  display: inline-block;
  width: 9px;
  height: 9px;
  border-radius: 50%;
  border: 1.5px solid var(--ink);
}
i.is {
  background: var(--ink);
}
</style>
