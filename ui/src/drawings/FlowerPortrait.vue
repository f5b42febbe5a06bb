<script setup lang="ts">
import { computed } from "vue";
import { drawn, frame, type Portrait, size } from "./portrait";

/**
 * A recipe as what it makes: its parts to scale around the middle, or along their stem,
 * in the colours of a colourway. A part is drawn alone, with its wire.
 */
const props = defineProps<{ of: Portrait; selected?: number; plain?: boolean }>();
const emit = defineEmits<{ choose: [input: number] }>();

const marks = computed(() => drawn(props.of));
const alone = computed(() => props.of.rings.length === 0);
const box = computed(() => frame(props.of));
/** A length on the scale bar that is about a quarter of the picture. */
const across = computed(() => Math.max(box.value.width, box.value.height));
const bar = computed(() => [5, 10, 20, 50, 100].findLast((l) => l < box.value.width / 3) ?? 5);
const stroke = computed(() => Math.max(0.25, across.value / 300));
const total = computed(() => (props.of.shares ?? []).reduce((sum, s) => sum + s.parts, 0));
const shares = computed(() => {
  let from = 0;
  return (props.of.shares ?? []).map((s) => {
    const one = { ...s, from, width: (s.parts / total.value) * 180 };
    from += one.width;
    return one;
  });
});
</script>

<template>
  <svg v-if="of.kind === 'mix'" viewBox="-110 -90 220 180" class="portrait" role="img" :aria-label="of.name">
    <path
      d="M-70-20c0-32 30-50 70-48s72 18 68 52-30 44-70 44-68-14-68-48z"
      :fill="of.colour || '#e9e2d6'"
      stroke="var(--edge)"
      stroke-width="1.4"
    />
    <g v-for="(s, i) in shares" :key="i" :transform="`translate(${s.from - 90} 48)`">
      <rect :width="s.width" height="12" :fill="s.colour || '#fdfcf9'" stroke="var(--edge)" stroke-width=".7" />
      <text v-if="!plain" x="2" :y="i % 2 ? 33 : 23" class="word">{{ s.name }} {{ s.parts }}</text>
    </g>
  </svg>
  <svg
    v-else
    :viewBox="`${box.x} ${box.y} ${box.width} ${box.height}`"
    class="portrait"
    role="img"
    :aria-label="$t('{name}, drawn to scale', { name: of.name })"
  >
    <line
      v-if="alone && of.stemMicrometres"
      x1="0"
      :y1="-size(of).height * 0.3"
      x2="0"
      :y2="box.y + box.height - 2"
      stroke="var(--wire)"
      :stroke-width="stroke * 3"
    />
    <g
      v-for="(m, i) in marks"
      :key="i"
      :transform="m.at || undefined"
      :class="{
        dim: selected !== undefined && m.ring !== selected,
      }"
      @click="m.ring >= 0 && emit('choose', m.ring)"
    >
      <path v-if="m.line" :d="m.d" fill="none" :stroke="m.fill" :stroke-width="m.width" />
      <template v-else>
        <path
          :d="m.d"
          :fill="m.fill"
          stroke="var(--edge)"
          :stroke-width="stroke * (m.ring === selected ? 2 : 1)"
          stroke-linejoin="round"
        />
        <path v-if="m.shade" :d="m.d" fill="var(--edge)" :opacity="m.shade" />
      </template>
    </g>
    <g v-if="!plain" :transform="`translate(${box.x + box.width * 0.03} ${box.y + box.height * 0.965})`">
      <path
        :d="`M0 ${-stroke * 4}V0H${bar}V${-stroke * 4}`"
        fill="none"
        stroke="var(--soft)"
        :stroke-width="stroke * 1.4"
      />
      <text :x="bar + stroke * 5" y="0" :font-size="across / 30" fill="var(--soft)">{{ bar }} mm</text>
    </g>
  </svg>
</template>

<style scoped>
.portrait {
  display: block;
  width: 100%;
  height: 100%;
}
.word {
  font-size: 9px;
  fill: var(--soft);
}
g.dim path {
  stroke-opacity: 0.3;
}
</style>
