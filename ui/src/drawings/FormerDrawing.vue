<script setup lang="ts">
import { computed } from "vue";

/** What pieces lie, hang or stand in while they dry, by the word that its name holds; a shelf where it holds none. */
const props = defineProps<{ name: string }>();
const forms: [RegExp, string][] = [
  [/rail|hang|line/i, "M4 10h56M12 10v6a4 4 0 1 0 4 4M30 10v6a4 4 0 1 0 4 4M48 10v6a4 4 0 1 0 4 4"],
  [/wavy/i, "M4 34h56v-8c-7 8-14 8-14 0s-7-8-14 0-7 8-14 0-7-8-14 0z"],
  [/foam|block/i, "M8 18h42l8-8H16zM8 18v20h42V18M50 38l8-8V10M18 26v.01M29 26v.01M40 26v.01M24 32v.01M35 32v.01"],
  [/cone/i, "M10 8h16l-8 32zM36 8h16l-8 32zM10 8c4 4 12 4 16 0M36 8c4 4 12 4 16 0"],
  [/sphere|\bcups?\b|bowl|mould/i, "M4 14h26a13 13 0 0 1-26 0zM34 14h26a13 13 0 0 1-26 0zM8 34h48"],
  [
    /spoon|tray/i,
    "M6 16c0-6 10-6 10 0 0 4-3 6-5 6s-5-2-5-6zM11 22v18M27 16c0-6 10-6 10 0 0 4-3 6-5 6s-5-2-5-6zM32 22v18M48 16c0-6 10-6 10 0 0 4-3 6-5 6s-5-2-5-6zM53 22v18",
  ],
  [/rack|grid/i, "M6 10h52M6 24h52M6 38h52M14 8v34M32 8v34M50 8v34"],
  [/mat|sheet/i, "M8 36l8-26h32l8 26zM20 18h24M18 26h28"],
  [/sleeve|bag/i, "M12 10h40v30H12zM12 16h40M44 13v.01"],
  [/dehydrator|oven|machine/i, "M10 6h44v38H10zM14 14h36M14 22h36M14 30h36M18 38h.01M46 38h.01"],
];
const path = computed(() => forms.find(([word]) => word.test(props.name))?.[1] ?? "M6 18h52M6 38h52M8 6v38M56 6v38");
</script>

<template>
  <svg
    viewBox="0 0 64 48"
    width="64"
    height="48"
    fill="none"
    stroke="currentColor"
    stroke-width="1.8"
    stroke-linecap="round"
    stroke-linejoin="round"
    aria-hidden="true"
  >
    <path :d="path" />
  </svg>
</template>
