<script setup lang="ts">
import { onUnmounted, ref, watch } from "vue";
import { address, drawnAlready, type Portrait, soon } from "./portrait";

/** A recipe as a small picture: words come first, pictures are filled in between frames. */
const props = defineProps<{ of: Portrait }>();
const src = ref("");
let cancel = () => {};
watch(
  () => props.of,
  (now) => {
    cancel();
    if (drawnAlready(now)) src.value = address(now);
    else cancel = soon(() => (src.value = address(now)));
  },
  { immediate: true },
);
onUnmounted(() => cancel());
</script>

<template>
  <img v-if="src" :src="src" alt="" decoding="async" />
  <span v-else />
</template>
