<script setup lang="ts">
/** How far a piece has dried, told by its shape: soft is a wet blob, firm a held cup, dry a hard crystal. */
defineProps<{ state: string; size?: number }>();
</script>

<template>
  <svg :width="size ?? 18" :height="size ?? 18" viewBox="0 0 24 24" aria-hidden="true" class="state" :class="state">
    <path
      v-if="state === 'soft'"
      d="M12 3c3 4 7 6 6.500 11.500C18 19 15.500 21 12 21s-6-2-6.500-6.500C5 9 9 7 12 3z"
      fill="none"
      stroke="currentColor"
      stroke-width="2"
      stroke-dasharray="3 2.400"
    />
    <g v-else-if="state === 'firm'">
      <path d="M4 7h16c0 8-3 13-8 13S4 15 4 7z" fill="none" stroke="currentColor" stroke-width="2" />
      <path d="M5 12h14c-1 5-3.500 8-7 8s-6-3-7-8z" fill="currentColor" />
    </g>
    <path v-else-if="state === 'spoilt'" d="M4 4l16 16M20 4L4 20" stroke="currentColor" stroke-width="2.600" />
    <g v-else>
      <path d="M12 2l8 6-3 13H7L4 8z" fill="currentColor" />
      <path d="M12 2v19M4 8l8 3 8-3" fill="none" stroke="#fdfcf9" stroke-width="1.100" />
    </g>
  </svg>
</template>

<style scoped>
.state {
  flex: none;
  vertical-align: -3px;
}
.soft {
  color: var(--water);
}
.firm {
  color: var(--dust);
}
.dry {
  color: var(--leaf);
}
.spoilt {
  color: var(--late);
}
</style>
