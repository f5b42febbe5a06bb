<script setup lang="ts">
import type { Schemas } from "../api/client";
import { batchWords } from "../words";

/** How many of something are made at once, and what limits them. */
defineProps<{ batch: Schemas["Batch"] }>();
</script>

<template>
  <p class="batch" :class="{ none: batch.none }" data-test="batch">
    <b v-if="!batch.none && batch.most">{{ batch.most }} at a time.</b> {{ batchWords(batch) }}
  </p>
</template>

<style scoped>
.batch {
  margin: 6px 0 10px;
  padding-left: 9px;
  border-left: 3px solid var(--leaf);
  font-size: 0.9333rem;
}
.none {
  border-color: var(--petal);
}
</style>
