<script setup lang="ts">
import { computed } from "vue";
import type { Schemas } from "../api/client";

/** Single findings as multiples of the standard, with what they come to and how sure that is. */
const props = defineProps<{ record: Schemas["RecordView"] }>();
const width = 300;
const height = 74;
const rate = computed(() => props.record.kind === "breakage");
const base = computed(() => (rate.value ? Math.max(1, props.record.standard) : 1000));
const least = Math.log(1 / 3);
const most = Math.log(3);
const x = (multiple: number) =>
  ((Math.max(least, Math.min(most, Math.log(Math.max(0.01, multiple)))) - least) / (most - least)) * width;
const found = computed(() => {
  const r = props.record;
  const multiple = r.found / Math.max(1, r.standard);
  return r.kind === "pace" ? 1 / multiple : multiple;
});
const unsure = computed(() =>
  rate.value ? props.record.unsurePerMille / Math.max(1, props.record.standard) : props.record.unsurePerMille / 1000,
);
const shown = computed(() =>
  props.record.points.slice(-40).map((p, i, all) => ({
    ...p,
    y: 8 + (i / Math.max(1, all.length - 1)) * (height - 32),
    from: p.low ? x(p.low / base.value) : 0,
    to: p.high ? x(p.high / base.value) : width,
  })),
);
</script>

<template>
  <svg
    :viewBox="`0 0 ${width} ${height}`"
    class="chart"
    role="img"
    :aria-label="$t('What was recorded of {of}, {what}', { of: record.of, what: record.what })"
  >
    <rect
      :x="x(found * Math.exp(-2 * unsure))"
      y="2"
      :width="Math.max(2, x(found * Math.exp(2 * unsure)) - x(found * Math.exp(-2 * unsure)))"
      :height="height - 20"
      fill="var(--petal)"
      opacity=".16"
    />
    <line :x1="x(1)" :x2="x(1)" y1="0" :y2="height - 16" stroke="var(--ink)" stroke-width="1.500" />
    <line
      :x1="x(found)"
      :x2="x(found)"
      y1="0"
      :y2="height - 16"
      stroke="var(--petal)"
      stroke-width="2"
      stroke-dasharray="5 2"
    />
    <g v-for="(p, i) in shown" :key="i">
      <line
        v-if="p.low !== p.high"
        :x1="p.from"
        :x2="p.to"
        :y1="p.y"
        :y2="p.y"
        stroke="var(--water)"
        stroke-width="2"
        opacity=".6"
      />
      <circle
        v-else
        :cx="p.from"
        :cy="p.y"
        :r="Math.min(4.5, 1.5 + Math.sqrt(p.weight) / 3)"
        fill="var(--water)"
        opacity=".65"
      />
    </g>
    <text :x="x(0.5)" :y="height - 3" text-anchor="middle">half</text>
    <text :x="x(1)" :y="height - 3" text-anchor="middle">standard</text>
    <text :x="x(2)" :y="height - 3" text-anchor="middle">twice</text>
  </svg>
</template>

<style scoped>
.chart {
  display: block;
  width: 100%;
  max-width: 320px;
}
text {
  font-size: 11px;
  fill: var(--soft);
  font-family: var(--count);
}
</style>
