<script setup lang="ts">
/** What stands beside a drawing about one thing of it, until it is shut. */
defineProps<{ title: string }>();
const emit = defineEmits<{ close: [] }>();
</script>

<template>
  <aside class="drawer">
    <button class="bare shut" aria-label="Close" @click="emit('close')">✕</button>
    <h2><slot name="before" /> {{ title }}</h2>
    <slot />
  </aside>
</template>

<style scoped>
.shut {
  position: absolute;
  right: 14px;
  top: 12px;
  padding: 6px;
}
h2 {
  padding-right: 20px;
}
</style>
