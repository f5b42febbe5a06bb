<script setup lang="ts">
import { useMutation } from "@tanstack/vue-query";
import { computed, ref, watch } from "vue";
import { answered, client, type Schemas, useCommands } from "../../api/client";
import { useStudio } from "../../api/queries";
import ProblemNote from "../../parts/ProblemNote.vue";

/** A task is handed on in two touches, to anybody who can do it. */
const props = defineProps<{ task: Schemas["TaskCard"]; of: string; test: string }>();
const { data: studio } = useStudio();
const send = useCommands();
const open = ref(false);
const others = computed(() =>
  (studio.value?.people ?? []).filter((p) => p.id !== props.of && props.task.may.includes(p.id)),
);
watch(
  () => props.task.id,
  () => (open.value = false),
);
const give = useMutation({
  mutationFn: (to: string) =>
    send(["give", props.task.id, to], (header) =>
      answered(
        client.POST("/api/tasks/{task}/give", { params: { path: { task: props.task.id }, header }, body: { to } }),
      ),
    ),
  onSuccess: () => (open.value = false),
});
</script>

<template>
  <div v-if="others.length" class="hand">
    <button v-if="!open" :data-test="test" @click="open = true">Hand it on…</button>
    <template v-else>
      <button v-for="p in others" :key="p.id" :data-test="`to-${p.name}`" @click="give.mutate(p.id)">
        to {{ p.name }}
      </button>
      <button class="bare" @click="open = false">Leave it</button>
    </template>
    <ProblemNote :error="give.error.value" />
  </div>
</template>

<style scoped>
.hand {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
}
button {
  min-height: 56px;
}
button:not(.bare) {
  padding: 0 1rem;
  font: 600 1.05rem var(--count);
  color: var(--ink);
  background: var(--sheet);
  border: 1.5px solid var(--vein);
  border-radius: 3px 14px;
  cursor: pointer;
}
</style>
