<script setup lang="ts">
/** The kind of work a step is, as a glyph on a 24-unit grid. */
defineProps<{ glyph: string; size?: number }>();
const strokes: Record<string, string> = {
  mix: "M4 11h16c0 5-3.5 8-8 8s-8-3-8-8zM9 8c0-2 2-2 2-4M14 8c0-2 2-2 2-4",
  shape: "M12 20c-5-3-7-7-5-12 2-3 8-3 10 0 2 5 0 9-5 12zM12 20V11",
  wire: "M4 20C9 20 8 5 13 5s3 9 7 9M17.5 11.5 20 14l-2.5 2.5",
  dust: "M5 19l6-6M9 11l4 4 6-8-2-2zM5 8v.01M8 5v.01M4 12v.01M11 4v.01",
  assemble:
    "M12 12m-2.5 0a2.5 2.5 0 1 0 5 0 2.5 2.5 0 1 0-5 0M12 9.500V3.500M12 14.500v6M9.800 10.800 4.600 7.800M14.200 13.200l5.200 3M14.200 10.800l5.200-3M9.800 13.200l-5.200 3",
  steam: "M5 19h14M8 15c-2-3 2-4 0-7M12 15c-2-3 2-4 0-7M16 15c-2-3 2-4 0-7",
  pack: "M4 9l8-4 8 4v8l-8 4-8-4zM4 9l8 4 8-4M12 13v8",
  wait: "M12 12m-8 0a8 8 0 1 0 16 0 8 8 0 1 0-16 0M12 7v5l3.500 2",
};
</script>

<template>
  <svg
    :width="size ?? 20"
    :height="size ?? 20"
    viewBox="0 0 24 24"
    fill="none"
    stroke="currentColor"
    stroke-width="1.7"
    stroke-linecap="round"
    stroke-linejoin="round"
    aria-hidden="true"
  >
    <path :d="strokes[glyph] ?? strokes.shape" />
  </svg>
</template>
