<script setup lang="ts">
import { computed } from "vue";
import { lobes, outline } from "./outlines";

/** A part or flower drawn in its colour, on a 100-unit square. */
const props = defineProps<{ form?: string; colour?: string; size?: number }>();

const fill = computed(() => props.colour || "#e9e2d6");
const many = computed(() => lobes(props.form));
const shaped = computed(() => /petal|leaf|cone|bud|former/.test(props.form ?? ""));
const ring = (count: number, turn = 0) => Array.from({ length: count }, (_, i) => (360 / count) * i + turn);
</script>

<template>
  <svg :width="size ?? 28" :height="size ?? 28" viewBox="0 0 100 100" aria-hidden="true">
    <g :fill="fill" stroke="var(--edge)" stroke-width="2.2" stroke-linejoin="round">
      <template v-if="form === 'petal'">
        <path d="M50 92C22 74 12 42 28 20c7-9 15-8 22-3 7-5 15-6 22 3 16 22 6 54-22 72z" />
        <path d="M50 90V38M50 70 34 44M50 70l16-26" fill="none" stroke-opacity=".35" />
      </template>
      <template v-else-if="form === 'leaf'">
        <path d="M50 94C18 70 22 26 50 6c28 20 32 64 0 88z" />
        <path d="M50 94V20M50 74 34 56M50 74l16-18M50 52 38 38M50 52l12-14" fill="none" stroke-opacity=".4" />
      </template>
      <template v-else-if="form === 'centre'">
        <path d="M50 60v36" stroke="var(--wire)" stroke-width="4" />
        <path d="M50 10c16 10 22 24 22 34 0 14-10 22-22 22S28 58 28 44c0-10 6-24 22-34z" />
      </template>
      <template v-else-if="form === 'blossom'">
        <ellipse v-for="a in ring(5)" :key="a" cx="50" cy="26" rx="15" ry="22" :transform="`rotate(${a} 50 50)`" />
        <circle cx="50" cy="50" r="8" fill="var(--dust)" />
      </template>
      <template v-else-if="form === 'layered'">
        <circle v-for="(a, i) in ring(10)" :key="'o' + i" cx="50" cy="24" r="17" :transform="`rotate(${a} 50 50)`" />
        <circle v-for="(a, i) in ring(8, 20)" :key="'i' + i" cx="50" cy="35" r="13" :transform="`rotate(${a} 50 50)`" />
        <circle cx="50" cy="50" r="11" />
      </template>
      <template v-else-if="form === 'wired'">
        <path
          v-for="a in ring(6)"
          :key="'o' + a"
          d="M50 52C34 40 34 14 50 4c16 10 16 36 0 48z"
          :transform="`rotate(${a} 50 50)`"
        />
        <path
          v-for="a in ring(3, 30)"
          :key="'i' + a"
          d="M50 52C40 44 40 28 50 22c10 6 10 22 0 30z"
          :transform="`rotate(${a} 50 50)`"
        />
        <circle cx="50" cy="50" r="7" fill="var(--dust)" />
      </template>
      <template v-else-if="form === 'filler' || form === 'cluster'">
        <path d="M50 96V30M50 70 28 44M50 62l22-24" fill="none" stroke="var(--leaf)" stroke-width="4" />
        <circle
          v-for="[x, y] in [
            [50, 22],
            [26, 40],
            [74, 34],
            [34, 62],
            [66, 58],
          ]"
          :key="x"
          :cx="x"
          :cy="y"
          r="12"
        />
      </template>
      <template v-else-if="['sprig', 'frond', 'trail', 'spray'].includes(form ?? '')">
        <path d="M50 96V16" fill="none" stroke="var(--leaf)" stroke-width="4" />
        <ellipse
          v-for="[x, y] in [
            [32, 74],
            [68, 74],
            [32, 50],
            [68, 50],
            [34, 28],
            [66, 28],
            [50, 12],
          ]"
          :key="`${x} ${y}`"
          :cx="x"
          :cy="y"
          rx="14"
          ry="10"
        />
      </template>
      <template v-else-if="form === 'dust'">
        <path d="M16 46h68c0 24-14 38-34 38S16 70 16 46z" />
        <path d="M30 38h.1M46 30h.1M62 36h.1M54 18h.1" stroke-width="7" stroke-linecap="round" />
      </template>
      <template v-else-if="many.count">
        <path
          v-for="a in ring(many.count)"
          :key="a"
          :d="outline(many.of, (170 / many.count) * (form === 'calyx' || form === 'star' ? 0.6 : 1.15), 44)"
          :transform="`translate(50 50) rotate(${a})`"
        />
        <circle cx="50" cy="50" r="7" />
      </template>
      <template v-else-if="shaped">
        <path :d="outline(form, /long|pointed/.test(form ?? '') ? 34 : 68, 84)" transform="translate(50 92)" />
      </template>
      <template v-else-if="['bead', 'ball', 'disc', 'brush'].includes(form ?? '')">
        <circle cx="50" cy="50" :r="form === 'bead' ? 22 : 32" />
        <path d="M38 42c4-8 12-11 20-9" fill="none" stroke-opacity=".4" />
      </template>
      <template v-else>
        <path d="M14 62c0-26 14-40 36-40s36 14 36 34c0 16-14 24-36 24S14 76 14 62z" />
        <path d="M30 50c6-10 18-14 30-12" fill="none" stroke-opacity=".4" />
      </template>
    </g>
  </svg>
</template>
