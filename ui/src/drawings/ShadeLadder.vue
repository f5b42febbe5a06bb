<script setup lang="ts">
import { computed } from "vue";
import { mass, plain } from "../format";

/** Shades from one weighing, by grams: the deep one as it is, then what it is thinned to. */
const props = defineProps<{
  deep: { name: string; colour: string; milligrams: number; whole: number };
  shades: { name: string; colour: string; takes: number; makes: number; share: number }[];
}>();
const most = computed(() => Math.max(props.deep.whole, ...props.shades.map((s) => s.makes), 1));
const wide = (milligrams: number) => `${Math.max(1.5, (100 * milligrams) / most.value)}%`;
</script>

<template>
  <div class="ladder">
    <div class="rung">
      <span class="grams" :style="{ width: wide(deep.whole) }"
        ><i :style="{ background: deep.colour, width: `${(100 * deep.milligrams) / Math.max(1, deep.whole)}%` }" /><i
          class="thinned"
          :style="{ background: deep.colour, flex: 1 }"
      /></span>
      <span
        ><b>{{ deep.name }}</b
        >, {{ mass(deep.whole) }} from one weighing, {{ mass(deep.milligrams) }} of it as it is</span
      >
    </div>
    <div v-for="s in shades" :key="s.name" class="rung">
      <span class="grams" :style="{ width: wide(s.makes) }"
        ><i class="thinned" :style="{ background: deep.colour, width: `${s.share / 10}%` }" /><i
          :style="{ background: s.colour, flex: 1 }"
      /></span>
      <span
        ><b>{{ s.name }}</b
        >, {{ mass(s.makes) }}: {{ mass(s.takes) }} of the deep one, {{ plain(s.share / 10) }} %, the rest white</span
      >
    </div>
  </div>
</template>

<style scoped>
.ladder {
  display: grid;
  gap: 6px;
}
.rung {
  display: grid;
  grid-template-columns: 260px 1fr;
  gap: 16px;
  align-items: center;
}
.grams {
  display: flex;
  height: 20px;
  border: 1px solid #35202f44;
  border-radius: 2px 8px 2px 8px;
  overflow: hidden;
}
.grams i {
  display: block;
}
.thinned {
  background-image: repeating-linear-gradient(115deg, #fff6 0 3px, transparent 3px 8px) !important;
  background-blend-mode: screen;
}
</style>
