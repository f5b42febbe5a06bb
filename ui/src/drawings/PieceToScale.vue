<script setup lang="ts">
import { computed } from "vue";
import type { Schemas } from "../api/client";
import { length, lengthFigure } from "../format";
import { lobes, outline } from "./outlines";

/**
 * A piece as it is worked: cut, ball or rope with its wire as deep as it goes in, all to one scale beside a
 * rule of millimetres.
 */
const props = defineProps<{
  form: string;
  paste?: Schemas["CardPaste"];
  wire?: Schemas["CardWire"];
  colour?: string;
  size: number;
}>();

const shape = computed(() => props.paste?.shape);
const round = computed(() => ["ball", "rope"].includes(shape.value?.shape ?? ""));
const wide = computed(() => {
  const s = shape.value;
  return (round.value ? s?.diameterMicrometres : s?.widthMicrometres || s?.lengthMicrometres) ?? 0;
});
const high = computed(() => {
  const s = shape.value;
  if (s?.shape === "ball") return s.diameterMicrometres ?? 0;
  return s?.lengthMicrometres ?? 0;
});
const depth = computed(() => props.wire?.depthMicrometres ?? 0);
/** How much of the wire shows below: enough to see that it goes on. */
const tail = computed(() => (props.wire ? Math.min(props.wire.stemMicrometres, 0.3 * high.value) : 0));
/** Micrometres that one unit of the drawing stands for. */
const room = 150;
const scale = computed(() => Math.max(high.value + tail.value, wide.value, 4000) / room);
const u = (micrometres: number) => micrometres / scale.value;
const foot = computed(() => 165 - u(tail.value));
const many = computed(() => lobes(props.form));
const ring = (count: number) => Array.from({ length: count }, (_, i) => (360 / count) * i);
/** The rule: 1, 2, 5, 10, 20 or 50 mm, about a third of the drawing. */
const rule = computed(() => [50, 20, 10, 5, 2, 1].find((mm) => u(mm * 1000) <= 70) ?? 1);
</script>

<template>
  <svg
    :width="size"
    :height="size * 1.05"
    viewBox="0 0 190 200"
    role="img"
    :aria-label="$t('to scale: {high} by {wide}', { high: lengthFigure(high), wide: length(wide) })"
  >
    <g :transform="`translate(95 ${foot})`">
      <path v-if="wire" :d="`M0 ${u(tail)}V0`" class="wire" />
      <g :fill="colour || '#e9e2d6'" stroke="var(--edge)" stroke-width="1.6" stroke-linejoin="round">
        <template v-if="shape?.shape === 'ball'">
          <circle :cy="-u(high) / 2" :r="u(high) / 2" />
        </template>
        <rect
          v-else-if="shape?.shape === 'rope'"
          :x="-u(wide) / 2"
          :y="-u(high)"
          :width="u(wide)"
          :height="u(high)"
          :rx="u(wide) / 2"
        />
        <g v-else-if="many.count" :transform="`translate(0 ${-u(high) / 2})`">
          <path
            v-for="a in ring(many.count)"
            :key="a"
            :d="outline(many.of, (u(high) * 2.6) / many.count, u(high) / 2)"
            :transform="`rotate(${a})`"
          />
        </g>
        <path v-else :d="outline(form, u(wide), u(high))" />
      </g>
      <path v-if="wire && depth" :d="`M0 0V${-u(depth)}`" class="inside" />
      <path v-if="wire?.hook && wire.hook !== 'straight'" :d="`M0 ${-u(depth)}q3 -7 6 0`" class="inside" />
    </g>
    <g transform="translate(12 190)" class="rule">
      <path :d="`M0 -6V0H${u(rule * 1000)}V-6`" />
      <text :x="u(rule * 1000) + 6" y="0">{{ rule }} mm</text>
    </g>
  </svg>
</template>

<style scoped>
.wire {
  stroke: var(--wire);
  stroke-width: 2.6;
}
.inside {
  stroke: var(--edge);
  stroke-width: 1.8;
  stroke-dasharray: 4 3;
  fill: none;
}
.rule path {
  fill: none;
  stroke: var(--soft);
  stroke-width: 1.2;
}
.rule text {
  font: 600 11px var(--count);
  fill: var(--soft);
}
</style>
