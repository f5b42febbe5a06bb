<script setup lang="ts">
/** A mix as a dab of its colour. */
defineProps<{ colour?: string; size?: number }>();
</script>

<template>
  <svg :width="size ?? 18" :height="size ?? 18" viewBox="0 0 20 20" aria-hidden="true" class="swatch">
    <path
      d="M2 11C2 5 6 2 11 2s8 3 7 9-4 7-9 7-7-3-7-7z"
      :fill="colour || 'none'"
      stroke="var(--edge)"
      stroke-width=".9"
    />
  </svg>
</template>

<style scoped>
.swatch {
  flex: none;
  vertical-align: -3px;
}
</style>
