<script setup lang="ts">
import { useMutation } from "@tanstack/vue-query";
import { ref } from "vue";
import { answered, client, person, useCommands } from "../../api/client";
import ProblemNote from "../../parts/ProblemNote.vue";

/** A day on which nobody works: a holiday, or a day that is worked after all. */
const send = useCommands();
const day = ref("");
const close = useMutation({
  mutationFn: (closed: boolean) => {
    const body = { day: day.value, closed };
    return send(body, (header) => answered(client.POST("/api/workshop/closed", { params: { header }, body })));
  },
  onSuccess: () => (day.value = ""),
});
</script>

<template>
  <p class="closed">
    <label>On <input v-model="day" type="date" data-test="closed-day" /> the studio is</label>
    <button class="bare add" :disabled="!day || !person" data-test="close-day" @click="close.mutate(true)">
      closed
    </button>
    <button class="bare add" :disabled="!day || !person" @click="close.mutate(false)">open after all</button>
    <ProblemNote :error="close.error.value" />
  </p>
</template>

<style scoped>
.closed {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: center;
  margin: 8px 0 0;
  color: var(--soft);
}
input {
  font: inherit;
  color: var(--ink);
  padding: 4px 8px;
  border: 1.5px solid var(--vein);
  border-radius: 3px 10px;
  background: var(--field);
}
button:disabled {
  color: var(--soft);
}
</style>
