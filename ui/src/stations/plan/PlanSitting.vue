<script setup lang="ts">
import { computed } from "vue";
import { laneHeight, type Sitting } from "../../drawings/board";
import type { Block } from "../../api/client";
import WorkGlyph from "../../drawings/WorkGlyph.vue";
import { useTimes } from "../../format";
import { t } from "../../words/said";

/** Tasks of one batch, or of one kind of work, in one maker's lane, as one block that opens; open, a line that closes it. */
const props = defineProps<{ sitting: Sitting; open: boolean; far: boolean }>();
const times = useTimes();
const first = computed(() => props.sitting.blocks[0].block);
const batch = computed(() => (props.sitting.glyph ? undefined : first.value.batch));
const y = computed(() => props.sitting.y + 7);
const height = laneHeight - 15;
const which = computed(() => {
  const b = batch.value;
  return b && b.of > 1 ? t("{number} of {of}", { number: b.number, of: b.of }) : "";
});
const each = (of: (b: Block) => string) => [...new Set(props.sitting.blocks.map((b) => of(b.block)))].join(", ");
const name = computed(() => batch.value?.name ?? each((b) => b.of));
const says = computed(() => {
  const head = batch.value
    ? `${name.value}${which.value && t(", batch {which}", { which: which.value })}: ${each((b) => b.name)}`
    : t("{blocks} tasks in one sitting, {of}: {names}", {
        blocks: props.sitting.blocks.length,
        name: each((b) => b.name),
        name2: name.value,
      });
  const to = props.sitting.blocks.at(-1)!.block.to;
  const seen = props.sitting.glyph ? `${props.sitting.blocks.length}× ${name.value}. ` : "";
  return (
    seen + t("{head}, {from} to {to}", { head, from: times.value.moment(first.value.from), to: times.value.moment(to) })
  );
});
</script>

<template>
  <g
    class="sitting"
    :class="{ far }"
    role="button"
    :aria-expanded="open"
    :aria-label="says"
    :data-card="open ? undefined : first.id"
    :data-test="open ? 'sitting-open' : 'sitting'"
  >
    <title>{{ says }}</title>
    <template v-if="open">
      <rect :x="sitting.x" :y="sitting.y - 1" :width="sitting.width" height="8" class="grip" />
      <path :d="`M${sitting.x + 1} ${sitting.y + 6}v-4h${Math.max(1, sitting.width - 3)}v4`" class="bracket" />
    </template>
    <template v-else>
      <rect
        :x="sitting.x + 0.6"
        :y="y + 0.6"
        :width="Math.max(2, sitting.width - 2.2)"
        :height="height - 1.2"
        rx="3"
        class="body"
      />
      <rect
        v-for="b in sitting.blocks"
        :key="b.block.id"
        :x="b.x + 1.2"
        :y="y + 1.2"
        :width="Math.max(1, b.width - 2.6)"
        height="6.5"
        :fill="b.block.colour || '#e9e2d6'"
      />
      <path
        v-for="b in far ? [] : sitting.blocks.slice(1)"
        :key="`t${b.block.id}`"
        :d="`M${b.x - 0.4} ${y + 8}v${sitting.glyph ? 4 : height - 9}`"
        class="turn"
      />
      <text
        aria-hidden="true"
        v-if="which && sitting.width > 15 && sitting.width <= 60"
        :x="sitting.x + sitting.width / 2 - 0.5"
        :y="y + 36"
        class="which"
        text-anchor="middle"
      >
        {{ sitting.width > 34 ? which : batch?.number }}
      </text>
      <svg
        v-if="sitting.width > 34"
        :x="sitting.x"
        :y="y"
        :width="sitting.width - 3"
        :height="height"
        overflow="hidden"
      >
        <template v-if="sitting.glyph">
          <WorkGlyph :glyph="sitting.glyph" :size="18" x="3" y="11" />
          <text aria-hidden="true" v-if="sitting.width > 52" x="25" y="25" class="count">
            {{ sitting.blocks.length }}×
          </text>
        </template>
        <text aria-hidden="true" v-else x="5" y="25" class="count">{{ first.quantity }}</text>
        <text aria-hidden="true" v-if="sitting.width > 60" x="5" y="38" class="of">
          {{ which ? `${which} · ` : "" }}{{ name }}
        </text>
      </svg>
    </template>
  </g>
</template>

<style scoped>
.sitting {
  cursor: pointer;
}
.sitting:focus {
  outline: none;
}
.body {
  fill: var(--field);
  stroke: var(--edge);
  stroke-width: 1.8;
}
.far .body {
  stroke-width: 0.9;
}
.turn {
  stroke: var(--edge);
  stroke-dasharray: 1.5 2.5;
}
.grip {
  fill: transparent;
}
.bracket {
  fill: none;
  stroke: var(--edge);
  stroke-width: 1.6;
}
.count {
  font: 700 1.0667rem var(--count);
  fill: var(--ink);
}
.which {
  font: 600 0.7333rem var(--count);
  fill: var(--soft);
  paint-order: stroke;
  stroke: var(--field);
  stroke-width: 3px;
}
.of {
  font: 0.7333rem var(--count);
  fill: var(--soft);
}
.dim {
  opacity: 0.14;
}
.sitting:focus-visible .body,
.sitting:focus-visible .bracket {
  stroke: var(--petal);
  stroke-width: 3;
}
</style>
