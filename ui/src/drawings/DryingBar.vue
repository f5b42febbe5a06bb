<script setup lang="ts">
import { computed } from "vue";
import type { Schemas } from "../api/client";
import { useTimes } from "../format";

/** When pieces will be firm and dry, as bands as wide as their spread, over the coming hours. */
const props = defineProps<{ lying: Schemas["LyingCard"]; now: number; hours?: number }>();
const times = useTimes();
const width = 200;
const across = computed(() => (props.hours ?? 24) * 60);
const x = (minute: number) => Math.max(0, Math.min(width, ((minute - props.now) / across.value) * width));
const shown = (minute?: number) => minute !== undefined && minute <= props.now + across.value;
const bands = computed(() =>
  [
    { what: "firm", when: props.lying.firm, y: 8, colour: "var(--dust)" },
    { what: "dry", when: props.lying.dry, y: 22, colour: "var(--leaf)" },
  ].filter(
    (b) =>
      b.when?.early !== undefined && b.when.early < props.now + across.value && (b.when.late ?? Infinity) > props.now,
  ),
);
const marks = computed(() => {
  const all: number[] = [];
  for (let at = Math.ceil(props.now / 60) * 60; at < props.now + across.value; at += 60)
    if (Number(times.value.clock(at).slice(0, 2)) % 6 === 0) all.push(at);
  return all;
});
const closes = computed(() => props.lying.next?.closes);
</script>

<template>
  <svg
    :viewBox="`0 0 ${width} 46`"
    class="bar"
    role="img"
    :aria-label="$t('When {name} is firm and dry', { name: lying.name })"
  >
    <line x1="0" :x2="width" y1="33" y2="33" stroke="var(--vein)" stroke-width="1.500" />
    <g v-for="m in marks" :key="m">
      <line :x1="x(m)" :x2="x(m)" y1="30" y2="36" stroke="var(--wire)" />
      <text :x="x(m)" y="45" text-anchor="middle">{{ times.clock(m) }}</text>
    </g>
    <rect v-if="!lying.class" x="0" y="18" :width="x(lying.over ?? now)" height="9" rx="4.500" fill="var(--vein)" />
    <g v-for="b in bands" :key="b.what">
      <rect
        :x="x(b.when!.early!)"
        :y="b.y - 4"
        :width="Math.max(4, x(b.when!.late ?? Infinity) - x(b.when!.early!))"
        height="9"
        rx="4.500"
        :fill="b.colour"
        opacity=".35"
      />
      <circle v-if="shown(b.when!.likely)" :cx="x(b.when!.likely!)" :cy="b.y + 0.5" r="4.500" :fill="b.colour" />
    </g>
    <g v-if="shown(closes)">
      <path :d="`M${x(closes!)} 2V33`" stroke="var(--late)" stroke-width="2" />
      <path :d="`M${x(closes!)} 2h-7l7 7z`" fill="var(--late)" />
    </g>
  </svg>
</template>

<style scoped>
.bar {
  display: block;
  width: 100%;
  overflow: visible;
}
text {
  font-size: 11px;
  fill: var(--soft);
  font-family: var(--count);
}
</style>
