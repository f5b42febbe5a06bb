<script setup lang="ts">
import { computed } from "vue";
import type { Schemas } from "../api/client";
import { useTimes } from "../format";

/** The damp of a place hour by hour: measured, bridged and expected, with the damp in which nothing dries. */
const props = defineProps<{ air: Schemas["PlaceAir"]; now: number; stall: number; days: number }>();
const times = useTimes();
const width = 324;
const height = 168;
const left = 30;
const bottom = 24;
const first = computed(() => Math.max(props.air.from, Math.floor(props.now / 60) - 24 * props.days));
const last = computed(() => Math.min(props.air.from + props.air.curve.length, Math.floor(props.now / 60) + 48));
const x = (hour: number) => left + ((hour - first.value) / (last.value - first.value)) * (width - left - 6);
const range = computed(() => {
  const shown = points.value.map((p) => p.humidity);
  return { low: Math.min(50, ...shown) - 4, high: Math.max(82, ...shown) + 3 };
});
const y = (percent: number) =>
  6 + ((range.value.high - percent) / (range.value.high - range.value.low)) * (height - bottom - 6);
const points = computed(() =>
  props.air.curve
    .map((p, i) => ({ hour: props.air.from + i + 0.5, humidity: p.humidityPerMille / 10, ...p }))
    .filter((p) => p.hour >= first.value && p.hour < last.value),
);
/** One line for each stretch of hours that are known in the same way. */
const lines = computed(() => {
  const all: { kind: string; d: string }[] = [];
  points.value.forEach((p, i) => {
    const at = `${x(p.hour)} ${y(p.humidity)}`;
    const before = points.value[i - 1];
    if (before?.kind === p.kind) all[all.length - 1].d += `L${at}`;
    else all.push({ kind: p.kind, d: before ? `M${x(before.hour)} ${y(before.humidity)}L${at}` : `M${at}` });
  });
  return all;
});
const band = computed(() => {
  const ahead = points.value.filter((p) => p.kind !== "measured");
  const edge = (sign: number) => (p: (typeof ahead)[0]) =>
    `${x(p.hour)} ${y(p.humidity + (sign * p.spreadPerMille) / 10)}`;
  return ahead.length ? `M${[...ahead.map(edge(1)), ...ahead.reverse().map(edge(-1))].join("L")}Z` : "";
});
/** Where days begin, as many of them as there is room to name. */
const begins = computed(() => {
  const all = points.value
    .filter((p, i) => i > 0 && times.value.date(p.hour * 60) !== times.value.date(points.value[i - 1].hour * 60))
    .map((p) => p.hour - 0.5)
    .filter((hour) => x(hour) < width - 60);
  const each = Math.ceil(all.length / 4);
  return all.filter((_, i) => i % each === 0);
});
const ticks = computed(() => [50, 60, 70, 80].filter((t) => t > range.value.low && t < range.value.high));
</script>

<template>
  <svg
    :viewBox="`0 0 ${width} ${height}`"
    class="curve"
    role="img"
    :aria-label="$t('Relative humidity, {name}', { name: air.name })"
  >
    <rect :x="left" y="6" :width="x(now / 60) - left" :height="height - bottom - 6" fill="var(--marble)" />
    <g v-for="t in ticks" :key="t">
      <line :x1="left" :x2="width - 6" :y1="y(t)" :y2="y(t)" stroke="var(--vein)" />
      <text :x="left - 5" :y="y(t) + 4" text-anchor="end">{{ t }}</text>
    </g>
    <path :d="band" fill="var(--water)" opacity=".14" />
    <line :x1="left" :x2="width - 6" :y1="y(stall)" :y2="y(stall)" stroke="var(--late)" stroke-dasharray="7 3" />
    <text :x="width - 8" :y="y(stall) - 4" text-anchor="end" class="stall">nothing dries above {{ stall }} %</text>
    <path
      v-for="(l, i) in lines"
      :key="i"
      :d="l.d"
      fill="none"
      stroke="var(--water)"
      stroke-width="2.200"
      :stroke-dasharray="l.kind === 'measured' ? '' : l.kind === 'bridged' ? '1.500 3' : '6 4'"
    />
    <line :x1="x(now / 60)" :x2="x(now / 60)" y1="6" :y2="height - bottom" stroke="var(--petal)" stroke-width="1.500" />
    <g v-for="d in begins" :key="d">
      <line :x1="x(d)" :x2="x(d)" y1="6" :y2="height - bottom + 5" stroke="var(--soft)" stroke-width=".7" />
      <text :x="x(d) + 4" :y="height - 8">{{ times.dayShort(d * 60) }}</text>
    </g>
  </svg>
</template>

<style scoped>
.curve {
  display: block;
  width: 100%;
}
text {
  font-size: 11px;
  fill: var(--soft);
  font-family: var(--count);
}
.stall {
  fill: var(--late);
}
</style>
