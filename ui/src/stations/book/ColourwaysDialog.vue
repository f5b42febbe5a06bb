<script setup lang="ts">
import { useMutation } from "@tanstack/vue-query";
import { computed, ref, watch } from "vue";
import { answered, client, person, type Schemas, useCommands } from "../../api/client";
import Swatch from "../../drawings/Swatch.vue";
import ProblemNote from "../../parts/ProblemNote.vue";
import EffectNote from "../../parts/EffectNote.vue";
import { newId } from "./writing";

/** Colourways: the mix that each gives to a colour slot. What a change does to orders is seen first. */
const props = defineProps<{ colourways: Schemas["ColourwayState"][]; pages: Schemas["Page"][] }>();
const emit = defineEmits<{ close: [] }>();
const id = ref(props.colourways[0]?.id ?? newId());
const name = ref("");
const lines = ref<{ slot: string; mix: string }[]>([]);
const current = computed(() => props.colourways.find((c) => c.id === id.value));
watch(
  current,
  (c) => {
    name.value = c?.name ?? "";
    lines.value = Object.entries(c?.slots ?? { petal: "", "inner petal": "", dust: "" }).map(([slot, mix]) => ({
      slot,
      mix,
    }));
  },
  { immediate: true },
);
const mixes = computed(() => props.pages.filter((p) => p.kind === "mix").sort((a, b) => a.name.localeCompare(b.name)));
const colour = (mix: string) => props.pages.find((p) => p.recipe === mix)?.colour ?? "";
const body = computed(() => ({
  name: name.value,
  slots: Object.fromEntries(lines.value.filter((l) => l.slot && l.mix).map((l) => [l.slot, l.mix])),
}));
const preview = useMutation({
  mutationFn: () =>
    answered(
      client.POST("/api/book/colourways/{id}/preview", { params: { path: { id: id.value } }, body: body.value }),
    ),
});
watch(body, () => preview.reset());
const send = useCommands();
const write = useMutation({
  mutationFn: () =>
    send(["colourway", id.value, body.value], (header) =>
      answered(
        client.PUT("/api/book/colourways/{id}", {
          params: { path: { id: id.value }, header: { ...header, "If-Match": current.value?.version ?? 0 } },
          body: body.value,
        }),
      ),
    ),
  onSuccess: () => preview.reset(),
});
</script>

<template>
  <v-dialog :model-value="true" :aria-label="$t('Colourways')" max-width="720" @update:model-value="emit('close')">
    <form
      class="sheet form"
      data-test="colourways"
      @submit.prevent="preview.data.value || !current ? write.mutate() : preview.mutate()"
    >
      <h2>Colourways</h2>
      <nav>
        <button
          v-for="c in colourways"
          :key="c.id"
          type="button"
          class="bare"
          :class="{ here: c.id === id }"
          @click="id = c.id"
        >
          {{ c.name }}
        </button>
        <button type="button" class="bare add" data-test="new-colourway" @click="id = newId()">+ a new one</button>
      </nav>
      <label>called <input v-model="name" name="colourway-name" /></label>
      <table class="ledger">
        <tbody>
          <tr v-for="(l, i) in lines" :key="i">
            <td><input v-model="l.slot" :name="`slot-${i}`" aria-label="Colour slot" /></td>
            <td><Swatch :colour="colour(l.mix)" /></td>
            <td>
              <select v-model="l.mix" :name="`mix-${i}`" aria-label="Mix">
                <option value="">choose…</option>
                <option v-if="l.mix && !mixes.some((m) => m.recipe === l.mix)" :value="l.mix">
                  an earlier revision
                </option>
                <option v-for="m in mixes" :key="m.recipe" :value="m.recipe">{{ m.name }}</option>
              </select>
            </td>
            <td>
              <button type="button" class="bare" aria-label="Take this slot away" @click="lines.splice(i, 1)">✕</button>
            </td>
          </tr>
        </tbody>
      </table>
      <button type="button" class="bare add" @click="lines.push({ slot: '', mix: '' })">Add a slot</button>
      <EffectNote v-if="preview.data.value" :effect="preview.data.value" />
      <ProblemNote :error="preview.error.value ?? write.error.value" />
      <p v-if="write.isSuccess.value" class="quiet">Written. “Take back…” undoes it.</p>
      <footer>
        <v-btn variant="text" @click="emit('close')">Close</v-btn>
        <v-btn color="primary" type="submit" data-test="write-colourway" :disabled="!person || !name">
          {{
            !person
              ? $t("Say who is here first")
              : preview.data.value || !current
                ? $t("Write it")
                : $t("See what it does")
          }}
        </v-btn>
      </footer>
    </form>
  </v-dialog>
</template>

<style scoped>
.form {
  padding: 22px 26px;
  max-height: 90vh;
  overflow: auto;
}
nav {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 16px;
  margin: 10px 0 14px;
}
input,
select {
  font: inherit;
  border: 0;
  border-bottom: 1px solid var(--vein);
  background: none;
  color: inherit;
}
footer {
  display: flex;
  justify-content: flex-end;
  gap: 10px;
  margin-top: 18px;
}
</style>
