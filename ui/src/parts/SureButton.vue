<script setup lang="ts">
import { nextTick, ref } from "vue";

/**
 * What cannot be called back, or goes out of the house: pressed once it says what would happen, and waits for a second press.
 * Escape, and the other button, let it be.
 */
defineProps<{ asks: string; yes: string; no: string; test: string; disabled?: boolean; loading?: boolean }>();
const emit = defineEmits<{ sure: [] }>();
const asked = ref(false);
const first = ref<{ $el: HTMLElement }>();
const keep = ref<{ $el: HTMLElement }>();
async function ask() {
  asked.value = true;
  await nextTick();
  keep.value?.$el.focus();
}
async function leave() {
  asked.value = false;
  await nextTick();
  first.value?.$el.focus();
}
function go() {
  asked.value = false;
  emit("sure");
}
</script>

<template>
  <v-btn
    v-if="!asked"
    ref="first"
    v-bind="$attrs"
    :data-test="test"
    :disabled="disabled"
    :loading="loading"
    @click="ask"
  >
    <slot />
  </v-btn>
  <span v-else class="sure" role="alert" @keydown.esc.stop.prevent="leave">
    <b>{{ asks }}</b>
    <v-btn size="small" color="error" variant="tonal" :data-test="`${test}-yes`" @click="go">{{ yes }}</v-btn>
    <v-btn ref="keep" size="small" variant="text" :data-test="`${test}-no`" @click="leave">{{ no }}</v-btn>
  </span>
</template>

<style scoped>
.sure {
  display: inline-flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px 10px;
}
</style>
