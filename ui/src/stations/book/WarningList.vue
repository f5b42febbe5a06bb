<script setup lang="ts">
import { ref } from "vue";
import type { Schemas } from "../../api/client";
import WorkingSheet from "../../parts/WorkingSheet.vue";
import { proportionWords } from "../../words";
import type { Recipe } from "./writing";

/** Proportions out of the usual: each with its working, and a way to let it stand. */
const props = defineProps<{ warnings: Schemas["Warning"][]; recipes: Recipe[] }>();
const emit = defineEmits<{ silence: [recipe: string, change: (r: Recipe) => void] }>();
const open = ref(-1);
const reason = ref("");
const name = (id: string) => props.recipes.find((r) => r.id === id)?.name ?? "";
function silence(w: Schemas["Warning"]) {
  const why = reason.value.trim();
  if (!why) return;
  emit(
    "silence",
    w.recipe,
    (r) => (r.silenced = [...(r.silenced ?? []).filter((s) => s.rule !== w.rule), { rule: w.rule, reason: why }]),
  );
  reason.value = "";
}
function speak(w: Schemas["Warning"]) {
  emit("silence", w.recipe, (r) => {
    r.silenced = (r.silenced ?? []).filter((s) => s.rule !== w.rule);
    if (!r.silenced.length) delete r.silenced;
  });
}
</script>

<template>
  <section v-if="warnings.length" class="sheet warnings" data-test="warnings">
    <article v-for="(w, i) in warnings" :key="i" :class="{ silent: w.reason }">
      <button class="bare" @click="open = open === i ? -1 : i">
        <span class="word" :class="w.reason ? 'plain' : 'tight'">{{ name(w.recipe) }}</span> {{ proportionWords(w) }}
      </button>
      <p v-if="w.reason" class="quiet">Let stand: {{ w.reason }}</p>
      <div v-if="open === i">
        <WorkingSheet :workings="[w.working]" />
        <button v-if="w.reason" class="bare add" @click="speak(w)">Warn again</button>
        <form v-else @submit.prevent="silence(w)">
          <input v-model="reason" name="reason" placeholder="why it may stand" />
          <button class="bare add" type="submit" data-test="silence">Let it stand</button>
        </form>
        <p class="quiet">A rule of thumb and an estimate; try it on one piece.</p>
      </div>
    </article>
  </section>
</template>

<style scoped>
.warnings {
  padding: 8px 14px;
  margin-bottom: 10px;
  border-left: 4px solid var(--dust);
}
article + article {
  border-top: 1px solid var(--vein);
  padding-top: 5px;
  margin-top: 5px;
}
article.silent {
  color: var(--soft);
}
p {
  margin: 2px 0;
}
input {
  font: inherit;
  border: 0;
  border-bottom: 1px solid var(--vein);
  background: none;
  color: inherit;
  width: 60%;
}
</style>
