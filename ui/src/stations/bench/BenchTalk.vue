<script setup lang="ts">
import { useMutation } from "@tanstack/vue-query";
import { computed, ref, watch } from "vue";
import { person, type Schemas } from "../../api/client";
import { record } from "../../api/outbox";
import ProblemNote from "../../parts/ProblemNote.vue";
import HandOn from "./HandOn.vue";
import { t } from "../../words/said";

/** What a maker says at the bench beside counting: help is needed, this is not as it should be, somebody else does it. */
const props = defineProps<{ bench: Schemas["BenchView"]; task: Schemas["TaskCard"] }>();
const open = ref<"" | "ask" | "remark">("");
const says = ref("");
const photo = ref<File>();
const begun = computed(() => props.task.state !== "planned");
const asks = [t("Come and look, please"), t("I do not manage it in time"), t("Something is missing")];
watch(
  () => props.task.id,
  () => (open.value = ""),
);

const ask = useMutation({
  mutationFn: (text: string) => record("ask", props.task.id, props.task.of, { says: text }),
  onSuccess: () => (open.value = ""),
});
const remark = useMutation({
  mutationFn: () => record("remark", props.task.id, props.task.of, { says: says.value }, photo.value),
  onSuccess: () => {
    open.value = says.value = "";
    photo.value = undefined;
  },
});
</script>

<template>
  <section class="talk">
    <p v-if="bench.asks" class="asked" data-test="asked">
      You asked for help: “{{ bench.asks }}”.
      <button class="bare add" @click="ask.mutate('')">It is settled</button>
    </p>
    <div class="row">
      <button v-if="begun && !bench.asks" data-test="ask" @click="open = open === 'ask' ? '' : 'ask'">Help…</button>
      <button v-if="begun" data-test="remark" @click="open = open === 'remark' ? '' : 'remark'">
        Not like this…<template v-if="bench.remarks"> ({{ bench.remarks }})</template>
      </button>
      <HandOn :task="task" :of="person" test="give" />
    </div>
    <div v-if="open === 'ask'" class="opened">
      <button v-for="a in asks" :key="a" @click="ask.mutate(a)">{{ a }}</button>
    </div>
    <form v-else-if="open === 'remark'" class="opened" @submit.prevent="remark.mutate()">
      <label>
        What is not as it should be?
        <textarea v-model="says" rows="2" maxlength="500" data-test="remark-says" />
      </label>
      <label>
        A photo of it
        <input
          type="file"
          accept="image/*"
          capture="environment"
          @change="photo = ($event.target as HTMLInputElement).files?.[0]"
        />
      </label>
      <button :disabled="remark.isPending.value || (!says.trim() && !photo)" data-test="remark-keep">Keep it</button>
    </form>
    <ProblemNote :error="ask.error.value ?? remark.error.value" />
  </section>
</template>

<style scoped>
.row,
.opened {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
}
.opened {
  margin-top: 0.5rem;
}
button:not(.bare) {
  min-height: 56px;
  padding: 0 1rem;
  font: 600 1.05rem var(--count);
  color: var(--ink);
  background: var(--sheet);
  border: 1.5px solid var(--vein);
  border-radius: 3px 14px;
  cursor: pointer;
}
label {
  flex: 1 1 100%;
  font-weight: 600;
}
textarea {
  width: 100%;
  font: 400 1.1rem var(--count);
  padding: 0.5rem;
  border: 1.5px solid var(--ink);
  border-radius: 3px 12px;
  background: var(--field);
}
.asked {
  background: var(--dust-wash);
  padding: 0.5rem 0.9rem;
  font-weight: 600;
}
</style>
