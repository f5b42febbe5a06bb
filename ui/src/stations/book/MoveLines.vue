<script setup lang="ts">
import { useMutation } from "@tanstack/vue-query";
import { computed, ref } from "vue";
import { answered, client, person, type Schemas, useCommands } from "../../api/client";
import ProblemNote from "../../parts/ProblemNote.vue";
import EffectNote from "../../parts/EffectNote.vue";

/** Open orders that keep an earlier revision: moved by the lead, the effect seen first. */
const props = defineProps<{ page: string; lines: Schemas["Behind"][] }>();
const left = ref(new Set<string>());
const lines = computed(() => props.lines.filter((l) => !left.value.has(l.line)).map((l) => l.line));
const params = computed(() => ({ path: { page: props.page } }));
const preview = useMutation({
  mutationFn: () =>
    answered(
      client.POST("/api/book/pages/{page}/move/preview", { params: params.value, body: { lines: lines.value } }),
    ),
});
const send = useCommands();
const move = useMutation({
  mutationFn: () =>
    send(["move", lines.value], (header) =>
      answered(
        client.POST("/api/book/pages/{page}/move", {
          params: { ...params.value, header },
          body: { lines: lines.value },
        }),
      ),
    ),
  onSuccess: () => preview.reset(),
});
function toggle(line: string) {
  const next = new Set(left.value);
  if (!next.delete(line)) next.add(line);
  left.value = next;
  preview.reset();
}
</script>

<template>
  <section class="sheet behind" data-test="behind">
    <b>{{
      props.lines.length === 1
        ? $t("An order keeps an earlier revision")
        : $t("{lines} orders keep an earlier revision", { lines: props.lines.length })
    }}</b>
    until you move them:
    <label v-for="l in props.lines" :key="l.line">
      <input type="checkbox" :checked="!left.has(l.line)" @change="toggle(l.line)" /> {{ l.name }}, {{ l.quantity }} in
      revision {{ l.revision }}
    </label>
    <button class="bare add" data-test="see-move" :disabled="!lines.length" @click="preview.mutate()">
      See what moving does
    </button>
    <ProblemNote :error="preview.error.value ?? move.error.value" />
    <template v-if="preview.data.value">
      <EffectNote :effect="preview.data.value" />
      <v-btn size="small" color="primary" data-test="move-lines" :disabled="!person" @click="move.mutate()"
        >Move them; the plan awaits acceptance</v-btn
      >
    </template>
  </section>
</template>

<style scoped>
.behind {
  padding: 10px 16px;
  margin-bottom: 12px;
  border-left: 4px solid var(--dust);
}
label {
  margin-left: 12px;
}
.add {
  color: var(--leaf);
  font-weight: 650;
  margin-left: 14px;
}
</style>
