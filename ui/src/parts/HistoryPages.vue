<script setup lang="ts">
import type { Sought } from "../api/queries";

/** A history, page by page: what is looked for in it, its lines in the slot, and earlier ones when asked for. */
const sought = defineModel<Sought>({ required: true });
defineProps<{ test: string; number: number; more: boolean; busy: boolean }>();
const emit = defineEmits<{ earlier: [] }>();
const set = (field: keyof Sought, event: Event) =>
  (sought.value = { ...sought.value, [field]: (event.target as HTMLInputElement).value });
</script>

<template>
  <search class="sought">
    <label
      >with
      <input
        class="own"
        type="search"
        maxlength="120"
        placeholder="a word of it"
        :value="sought.text"
        :data-test="`${test}-text`"
        @change="set('text', $event)"
    /></label>
    <label
      >from
      <input class="own" type="date" :value="sought.from" :data-test="`${test}-from`" @change="set('from', $event)"
    /></label>
    <label
      >to <input class="own" type="date" :value="sought.to" :data-test="`${test}-to`" @change="set('to', $event)"
    /></label>
  </search>
  <slot />
  <p v-if="!number && !busy" class="quiet" :data-test="`${test}-none`">Nothing like this is recorded.</p>
  <v-btn
    v-if="more"
    variant="tonal"
    size="small"
    :loading="busy"
    :data-test="`${test}-earlier`"
    @click="emit('earlier')"
    >Earlier</v-btn
  >
</template>

<style scoped>
.sought {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 16px;
  align-items: center;
  margin: 8px 0;
}
.sought input[type="search"] {
  width: 150px;
}
</style>
