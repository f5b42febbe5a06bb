<script setup lang="ts">
import { useMutation } from "@tanstack/vue-query";
import { computed, ref } from "vue";
import { answered, client, person, Refused, type Schemas, useCommands } from "../../api/client";
import FieldGrid from "../../parts/fields/FieldGrid.vue";
import { at, type Row } from "../../parts/fields/fields";
import RowsTable from "../../parts/fields/RowsTable.vue";
import ProblemNote from "../../parts/ProblemNote.vue";
import { air, type Sheet } from "./sheets";
import { t } from "../../words/said";

/** The studio itself: its name, its usual air, and what it counts and plans by. */
const props = defineProps<{ shop: Schemas["WorkshopView"]; sheet: Sheet }>();
const emit = defineEmits<{ close: [] }>();
const send = useCommands();
type Frame = Pick<Schemas["WorkshopView"], "name" | "settings" | "climate">;
const copy = <T,>(of: T) => JSON.parse(JSON.stringify(of)) as T;
const seen = computed<Frame>(() => ({
  name: props.shop.name,
  settings: props.shop.settings,
  climate: props.shop.climate,
}));
const draft = ref<Frame>(copy(seen.value));
const same = computed(() => JSON.stringify(draft.value) === JSON.stringify(seen.value));
const write = useMutation({
  mutationFn: () => {
    const body = { ...draft.value, was: seen.value };
    return send(body, (header) => answered(client.PUT("/api/workshop", { params: { header }, body })));
  },
});
const flaw = (key: string) => (write.error.value instanceof Refused ? write.error.value.at(key) : undefined);
const usual = air("climate", t("The room's usual air"));
</script>

<template>
  <form class="sheet frame" data-test="frame" @submit.prevent="write.mutate()">
    <h2>The studio itself</h2>
    <p>
      <label>called <input v-model="draft.name" class="own" maxlength="80" data-test="frame-name" /></label>
      <span class="quiet"> in {{ shop.zone }}</span>
    </p>
    <FieldGrid
      name="settings"
      :row="draft.settings as unknown as Row"
      :columns="sheet.columns"
      :flaws="(key) => flaw(`settings.${key}`)"
      @row="draft.settings = $event as never"
    />
    <p class="quiet">
      Another language is a file in the studio's folder, <code>words</code>:
      <a href="/words.json" download="words.json">all the words, in English</a>.
    </p>
    <RowsTable
      v-for="l in sheet.lines"
      :key="l.key"
      :name="l.key"
      :title="l.title"
      :rows="(at(draft.settings as unknown as Row, l.key) as Row[]) ?? []"
      :columns="l.columns"
      :more="l.more"
      :fresh="l.fresh"
      :flaws="(i, key) => flaw(`settings.${l.key}[${i}].${key}`)"
      @rows="draft.settings = { ...draft.settings, [l.key]: $event } as never"
    />
    <details>
      <summary>{{ usual.title }}</summary>
      <RowsTable
        name="climate"
        :rows="draft.climate as unknown as Row[]"
        :columns="usual.columns"
        :label="usual.label"
        fixed
        @rows="draft.climate = $event as never"
      />
    </details>
    <ProblemNote :error="write.error.value" />
    <footer>
      <span class="grow" />
      <v-btn variant="text" @click="emit('close')">Leave it</v-btn>
      <v-btn type="submit" color="primary" data-test="frame-save" :disabled="same || !person || write.isPending.value">
        Change it so
      </v-btn>
    </footer>
  </form>
</template>

<style scoped>
.frame {
  padding: 16px 20px;
}
footer {
  display: flex;
  margin-top: 12px;
}
</style>
