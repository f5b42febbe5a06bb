<script setup lang="ts">
import { computed } from "vue";
import { type Laid, laneHeight } from "../../drawings/board";
import WorkGlyph from "../../drawings/WorkGlyph.vue";
import { t } from "../../words/said";
import { useTimes } from "../../format";

/** A task in its maker's lane, as long as its minutes: glyph, count, the colour of its mix. */
const props = defineProps<{ laid: Laid; far: boolean }>();
const times = useTimes();
const block = computed(() => props.laid.block);
const colour = computed(() => block.value.colour || "#e9e2d6");
/** Below this width it is nothing but its colour. */
const narrow = computed(() => (props.far ? 12 : 7));
/** How much room its first part has for words. */
const room = computed(() => props.laid.parts[0]?.width ?? 0);
const y = computed(() => props.laid.y + 7);
const height = laneHeight - 15;
const amount = computed(() =>
  block.value.making === "mix" ? `${Math.round(block.value.quantity / 1000)} g` : block.value.quantity,
);
const begins = computed(() => times.value.moment(block.value.from));
const says = computed(
  () =>
    `${amount.value} ${block.value.of}, ${block.value.name}, ${begins.value} – ${times.value.clock(block.value.to)}` +
    (block.value.pin ? t(", pinned") : ""),
);
</script>

<template>
  <g
    class="block"
    :class="[block.state, { far }]"
    role="button"
    :data-block="block.person"
    :data-card="block.id"
    :data-name="`${block.name}, ${block.of}`"
    :aria-label="says"
  >
    <title>{{ says }}</title>
    <path v-if="laid.parts.length > 1" :d="`M${laid.x} ${laid.y + laneHeight / 2}h${laid.width}`" class="pause" />
    <template v-for="(p, i) in laid.parts" :key="i">
      <rect
        v-if="p.width < narrow"
        :x="p.x"
        :y="y"
        :width="Math.max(1, p.width - 0.8)"
        :height="height"
        :fill="colour"
        class="body sliver"
      />
      <template v-else>
        <rect :x="p.x + 0.6" :y="y + 0.6" :width="p.width - 2.2" :height="height - 1.2" rx="3" class="body" />
        <rect :x="p.x + 1.2" :y="y + 1.2" :width="p.width - 3.4" height="6.5" :fill="colour" />
      </template>
    </template>
    <g v-if="room > 21" :transform="`translate(${laid.x + (room < 40 ? (room - 19) / 2 : 3)} ${y + 13})`">
      <WorkGlyph :glyph="block.glyph" :size="18" />
    </g>
    <svg v-if="room > 44" :x="laid.x" :y="y" :width="room - 3" :height="height" overflow="hidden">
      <text aria-hidden="true" x="25" y="25" class="count">{{ amount }}</text>
      <text aria-hidden="true" v-if="room > 84" x="5" y="38" class="of">{{ block.of }}</text>
    </svg>
    <path
      v-if="block.pin"
      :d="`M${laid.x + Math.min(laid.width - 7, laid.width / 2)} ${laid.y + 2}v12m-4 -12h8`"
      class="pin"
    />
  </g>
</template>

<style scoped>
.block {
  cursor: pointer;
}
.block:focus {
  outline: none;
}
.body {
  stroke: var(--edge);
  stroke-width: 1.2;
}
.body:not(.sliver) {
  fill: var(--field);
}
.far .body {
  stroke-width: 0.7;
}
.block .sliver {
  stroke-width: 0.4;
}
.pause {
  stroke: var(--edge);
  stroke-dasharray: 2 3;
}
.started .body:not(.sliver) {
  fill: var(--petal-wash);
}
.paused .body:not(.sliver) {
  fill: var(--dust-wash);
}
.done {
  opacity: 0.45;
}
.count {
  font: 700 1.0667rem var(--count);
  fill: var(--ink);
}
.of {
  font: 0.7333rem var(--count);
  fill: var(--soft);
}
.dim {
  opacity: 0.14;
}
.lifted {
  opacity: 0.35;
}
.moved .body {
  stroke: var(--dust);
  stroke-width: 2.4;
}
.linked .body {
  stroke: var(--petal);
  stroke-width: 2;
}
.chosen .body,
.block:focus-visible .body {
  stroke: var(--petal);
  stroke-width: 3;
}
.pin {
  stroke: var(--petal);
  stroke-width: 2.4;
  stroke-linecap: round;
  fill: none;
}
</style>
