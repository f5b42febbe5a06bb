<script setup lang="ts">
import { computed } from "vue";
import type { Schemas } from "../api/client";
import { useTimes } from "../format";
import { t } from "../words/said";

/** When an order may be ready: a grain for a replay, dense where it is likely, and the hand-over as a line through them. */
const props = defineProps<{ chance: Schemas["ChanceView"] }>();
const times = useTimes();

const width = 360;
const height = 46;
const row = 4.4;
const base = 34;

const from = computed(() => Math.min(props.chance.grains[0] ?? props.chance.leaves, props.chance.leaves));
const to = computed(() => Math.max(props.chance.grains.at(-1) ?? props.chance.leaves, props.chance.leaves));
const span = computed(() => Math.max(60, to.value - from.value));
const x = (m: number) => 8 + ((m - from.value) / span.value) * (width - 16);
/** Grains stand on one another where they are at the same place. */
const grains = computed(() => {
  const heights = new Map<number, number>();
  const most = Math.max(1, Math.ceil(props.chance.grains.length / 30));
  return props.chance.grains.map((at) => {
    const column = Math.round(x(at) / row);
    const up = (heights.get(column) ?? 0) + 1;
    heights.set(column, up);
    return { x: column * row, y: base - ((up / most) % 7.2) * row, late: at > props.chance.leaves };
  });
});
const says = computed(() =>
  t("Ready {early} in one of ten, {late} in nine of ten; leaves {leaves}", {
    early: times.value.full(props.chance.early),
    late: times.value.full(props.chance.late),
    leaves: times.value.full(props.chance.leaves),
  }),
);
</script>

<template>
  <svg :viewBox="`0 0 ${width} ${height}`" role="img" :aria-label="says">
    <title>{{ says }}</title>
    <line class="base" x1="4" :x2="width - 4" :y1="base + 3" :y2="base + 3" />
    <circle v-for="(g, i) in grains" :key="i" :cx="g.x" :cy="g.y" r="1.8" :class="{ late: g.late }" />
    <line class="leaves" :x1="x(chance.leaves)" :x2="x(chance.leaves)" y1="2" :y2="base + 3" />
    <text class="when" x="4" :y="height - 1">{{ times.moment(from) }}</text>
    <text class="when" :x="width - 4" :y="height - 1" text-anchor="end">{{ times.moment(to) }}</text>
  </svg>
</template>

<style scoped>
svg {
  width: 100%;
  max-width: 420px;
  display: block;
}
circle {
  fill: var(--leaf);
}
circle.late {
  fill: var(--late);
}
.base {
  stroke: var(--wire);
}
.leaves {
  stroke: var(--ink);
  stroke-width: 2;
}
.when {
  font-size: 9px;
  fill: var(--soft);
}
</style>
