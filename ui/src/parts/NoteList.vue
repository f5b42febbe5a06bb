<script setup lang="ts">
/** What there is to be said, each once: the first of it, the rest folded. */
defineProps<{ notes: string[] }>();
</script>

<template>
  <p v-if="notes.length === 1" class="remark">{{ notes[0] }}</p>
  <details v-else-if="notes.length" class="remark" data-test="notes">
    <summary>
      {{ notes[0] }} <b class="add">{{ $t("and {n} more | and {n} more", notes.length - 1) }}</b>
    </summary>
    <p v-for="n in notes.slice(1)" :key="n">{{ n }}</p>
  </details>
</template>

<style scoped>
summary {
  cursor: pointer;
}
p + p,
details p {
  margin: 8px 0 0;
}
</style>
