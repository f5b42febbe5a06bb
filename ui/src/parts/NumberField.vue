<script setup lang="ts">
import { computed, ref, watch } from "vue";
import { typed } from "../number";

/**
 * A figure that is typed: with a decimal comma or point, and never repaired. What is no
 * number stays as it was typed, is marked, and is NaN; an empty field is undefined.
 */
const value = defineModel<number | undefined>({ required: true });
defineProps<{ whole?: boolean }>();
const text = ref(value.value === undefined || Number.isNaN(value.value) ? "" : String(value.value));
const read = () => (text.value.trim() === "" ? undefined : typed(text.value));

watch(text, () => {
  const now = read();
  if (!Object.is(now, value.value)) value.value = now;
});
watch(value, (now) => {
  if (!Object.is(now, read()) && !Number.isNaN(now)) text.value = now === undefined ? "" : String(now);
});
const wrong = computed(() => Number.isNaN(read()));
</script>

<template>
  <input
    v-model="text"
    class="own number"
    :inputmode="whole ? 'numeric' : 'decimal'"
    autocomplete="off"
    :aria-invalid="wrong || undefined"
    :title="wrong ? 'This is no number; 35.5 or 35,5 would be.' : undefined"
  />
</template>

<style scoped>
input[aria-invalid] {
  border-color: var(--petal);
  background: var(--dust-wash);
}
</style>
