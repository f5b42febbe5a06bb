<script setup lang="ts">
import { computed } from "vue";
import type { Schemas } from "../api/client";
import { length } from "../format";

/**
 * A cake from above and from the front, to one scale: plain outlines of its tiers, and on them what stands where, as
 * long and as broad as it is, its tip the way it points. What is amiss is dashed.
 */
const props = withDefaults(
  defineProps<{
    cake: Schemas["Cake"];
    wrong?: string[]; // ids of placings
    colour?: (line: string) => string | undefined;
    chosen?: number;
    numbers?: boolean;
    width?: number;
  }>(),
  { wrong: () => [], colour: undefined, chosen: undefined, numbers: true, width: 520 },
);
const tiers = computed(() => props.cake.tiers ?? []);
const placings = computed(() => (props.cake.placings ?? []).map((p, i) => ({ ...p, number: i + 1 })));
const widest = computed(() => Math.max(...tiers.value.map((t) => Math.max(t.acrossMicrometres, depth(t))), 100_000));
const high = computed(() => tiers.value.reduce((sum, t) => sum + t.heightMicrometres, 0));
function depth(t: Schemas["Tier"]) {
  return t.shape === "other" && t.deepMicrometres ? t.deepMicrometres : t.acrossMicrometres;
}
/** How far what stands on the uppermost tier, or anything else, goes beyond the cake. */
const beyond = computed(() => Math.max(20_000, ...placings.value.map((p) => p.lengthMicrometres ?? 0)));
/** Micrometres that one unit of the drawing stands for; each view is 200 wide, and 166 high over the board. */
const scale = computed(() => Math.max((widest.value + 1.4 * beyond.value) / 210, (high.value + beyond.value) / 172));
const u = (micrometres: number) => micrometres / scale.value;
const foot = (tier: number) => 178 - u(tiers.value.slice(0, tier).reduce((sum, t) => sum + t.heightMicrometres, 0));
const sin = (degrees: number) => Math.sin((degrees * Math.PI) / 180);
const cos = (degrees: number) => Math.cos((degrees * Math.PI) / 180);
/** The rule below: 200, 100, 50 or 20 mm, whichever is about a quarter of a view. */
const rule = computed(() => [200_000, 100_000, 50_000, 20_000].find((l) => u(l) <= 60) ?? 20_000);

/** Where a place is seen from above (0, 0 is the middle, the front below), and which way its tip lies. */
function above(p: Schemas["Placing"]) {
  const tier = tiers.value[p.tier];
  const out = p.on === "side" && tier ? tier.acrossMicrometres / 2 : p.outMicrometres;
  const points = p.on === "side" ? p.atDegrees : p.pointsDegrees;
  return { x: -u(out) * sin(p.atDegrees), y: u(out) * cos(p.atDegrees), turn: points };
}
/** Where it is seen from the front, if it is not behind the cake, and which way its tip lies. */
function front(p: Schemas["Placing"]) {
  const tier = tiers.value[p.tier];
  if (!tier) return undefined;
  if (p.on === "side") {
    if (cos(p.atDegrees) < 0) return undefined;
    return {
      x: -u(tier.acrossMicrometres / 2) * sin(p.atDegrees),
      y: foot(p.tier) - u(p.outMicrometres),
      turn: p.pointsDegrees,
    };
  }
  return { x: -u(p.outMicrometres) * sin(p.atDegrees), y: foot(p.tier + 1), turn: -90 * sin(p.pointsDegrees) };
}
const laid = computed(() => placings.value.filter((p) => p.on !== "loose"));
const long = (p: Schemas["Placing"]) => Math.max(4, u(p.lengthMicrometres ?? 0));
const broad = (p: Schemas["Placing"]) => Math.max(4, u(p.breadthMicrometres || (p.lengthMicrometres ?? 0) / 2));
/** A spray or flower as a leaf: from where its stem goes in to its tip, as broad as it is. */
const leaf = (p: Schemas["Placing"]) =>
  `M0 0C${-broad(p)} ${-0.3 * long(p)} ${-0.5 * broad(p)} ${-long(p)} 0 ${-long(p)}C${0.5 * broad(p)} ${-long(p)} ${broad(p)} ${-0.3 * long(p)} 0 0Z`;
</script>

<template>
  <svg
    :width="width"
    viewBox="0 0 460 224"
    class="cake"
    role="img"
    :aria-label="$t('{name}, from above and from the front', { name: cake.name })"
  >
    <g transform="translate(112 100)">
      <template v-for="(tier, i) in tiers" :key="i">
        <circle v-if="tier.shape === 'round'" :r="u(tier.acrossMicrometres) / 2" class="tier" />
        <rect
          v-else
          :x="-u(tier.acrossMicrometres) / 2"
          :y="-u(depth(tier)) / 2"
          :width="u(tier.acrossMicrometres)"
          :height="u(depth(tier))"
          class="tier"
          :class="{ other: tier.shape === 'other' }"
        />
      </template>
      <g
        v-for="p in laid"
        :key="p.id"
        :transform="`translate(${above(p).x} ${above(p).y}) rotate(${180 + above(p).turn})`"
        :class="{ wrong: wrong.includes(p.id), chosen: chosen === p.number - 1 }"
      >
        <path :d="leaf(p)" class="lies" :fill="colour?.(p.line) ?? '#e9e2d6'" />
        <circle r="1.8" class="foot" />
      </g>
      <template v-if="numbers">
        <text v-for="p in laid" :key="p.id" :x="above(p).x + 5" :y="above(p).y - 4" class="number">{{ p.number }}</text>
      </template>
      <text y="112" class="word">{{ $t("front") }}</text>
    </g>
    <g transform="translate(346 0)">
      <rect
        v-for="(tier, i) in tiers"
        :key="i"
        :x="-u(tier.acrossMicrometres) / 2"
        :y="foot(i + 1)"
        :width="u(tier.acrossMicrometres)"
        :height="u(tier.heightMicrometres)"
        class="tier"
        :class="{ other: tier.shape === 'other' }"
      />
      <text
        v-for="(tier, i) in tiers"
        :key="`size-${i}`"
        :x="u(tier.acrossMicrometres) / 2 + 5"
        :y="foot(i) - u(tier.heightMicrometres) / 2 + 4"
        class="word left"
      >
        {{ length(tier.acrossMicrometres) }}
      </text>
      <template v-for="p in laid" :key="p.id">
        <g
          v-if="front(p)"
          :transform="`translate(${front(p)!.x} ${front(p)!.y}) rotate(${front(p)!.turn})`"
          :class="{ wrong: wrong.includes(p.id), chosen: chosen === p.number - 1 }"
        >
          <path
            v-if="p.depthMicrometres && p.on === 'top'"
            :d="`M0 0V${u(p.depthMicrometres)}`"
            class="stem"
            :transform="`rotate(${-front(p)!.turn})`"
          />
          <path :d="leaf(p)" class="lies" :fill="colour?.(p.line) ?? '#e9e2d6'" />
        </g>
      </template>
      <path :d="`M${-u(widest) / 2 - 8} ${foot(0)}H${u(widest) / 2 + 8}`" class="board" />
    </g>
    <g transform="translate(230 214)">
      <path :d="`M0 -4V0H${u(rule)}V-4`" class="rule" />
      <text :x="u(rule) + 6" y="1" class="word left">{{ length(rule) }}</text>
    </g>
  </svg>
</template>

<style scoped>
.cake {
  max-width: 100%;
  height: auto;
}
.tier {
  fill: #fffdf8;
  stroke: var(--ink);
  stroke-width: 1.2;
}
.tier.other {
  stroke-dasharray: 7 3;
}
.lies {
  stroke: var(--ink);
  stroke-width: 1;
  fill-opacity: 0.8;
}
.wrong .lies {
  stroke: var(--late);
  stroke-width: 1.8;
  stroke-dasharray: 3 2;
}
.chosen .lies {
  stroke-width: 2.6;
}
.foot {
  fill: var(--ink);
}
.stem {
  stroke: var(--ink);
  stroke-width: 1;
  stroke-dasharray: 2 2;
  fill: none;
}
.board,
.rule {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.2;
}
.number {
  font: 700 11px var(--count);
  fill: var(--ink);
  paint-order: stroke;
  stroke: #fffdf8;
  stroke-width: 3px;
}
.word {
  font: 500 10px var(--count);
  fill: var(--soft);
  text-anchor: middle;
}
.word.left {
  text-anchor: start;
}
</style>
