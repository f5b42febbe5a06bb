<script setup lang="ts">
import { computed } from "vue";
import { Refused } from "../api/client";

/** What went wrong, what is safe, what to do. */
const props = defineProps<{ error: unknown }>();
const text = computed(() => {
  if (!props.error) return "";
  return props.error instanceof Refused
    ? props.error.message
    : "This page failed; nothing you saved is lost. Reload it.";
});
</script>

<template>
  <p v-if="text" class="problem" role="alert">{{ text }}</p>
</template>

<style scoped>
.problem {
  margin: 8px 0;
  padding: 10px 14px;
  border-left: 4px solid var(--late);
  background: var(--petal-wash);
  font-weight: 600;
}
</style>
