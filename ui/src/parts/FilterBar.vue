<script setup lang="ts" generic="K extends string">
/** What of a station is shown: words that must be in it, and one of several choices with how many each is of. */
defineProps<{ choices: { key: K; name: string; n?: number }[]; placeholder: string; test: string }>();
const text = defineModel<string>("text", { required: true });
const show = defineModel<K>("show");
</script>

<template>
  <div class="filters no-print" role="search">
    <input
      v-model="text"
      class="own text"
      type="search"
      :placeholder="placeholder"
      :aria-label="placeholder"
      :data-test="`${test}-text`"
    />
    <button
      v-for="c in choices"
      :key="c.key"
      type="button"
      class="bare"
      :class="{ here: show === c.key }"
      :aria-pressed="show === c.key"
      :data-test="`${test}-${c.key}`"
      @click="show = c.key"
    >
      {{ c.name }}<span v-if="c.n !== undefined" class="quiet">&nbsp;{{ c.n }}</span>
    </button>
    <slot />
  </div>
</template>

<style scoped>
.filters {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px 18px;
  margin: 10px 0 14px;
}
.text {
  flex: 0 1 280px;
  min-width: 180px;
  min-height: 38px;
  padding: 3px 12px;
}
</style>
