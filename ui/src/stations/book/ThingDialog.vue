<script setup lang="ts">
import { useMutation } from "@tanstack/vue-query";
import { v7 } from "uuid";
import { computed, ref } from "vue";
import { answered, client, person, Refused, useCommands } from "../../api/client";
import FieldGrid from "../../parts/fields/FieldGrid.vue";
import type { Row } from "../../parts/fields/fields";
import ProblemNote from "../../parts/ProblemNote.vue";
import { fresh, sheets } from "../studio/sheets";

/** Something new that a recipe needs, by the least that is said of it; the rest stands in Studio. */
const emit = defineEmits<{ close: [] }>();
const kinds = {
  material: { of: "materials", keys: ["name", "unit", "form"] },
  wire: {
    of: "materials",
    keys: ["name", "wire.gauge", "wire.cover", "wire.lengthMicrometres", "wire.diameterMicrometres"],
  },
  place: { of: "places", keys: ["name", "slots", "sizeMicrometres", "keepsMinutes"] },
  tool: { of: "tools", keys: ["name", "number", "sizeMicrometres"] },
  machine: { of: "machines", keys: ["name", "slots"] },
  "drying class": {
    of: "dryingClasses",
    keys: ["name", "firmMinutes", "stiffMinutes", "dryMinutes", "thicknessMicrometres"],
  },
} as const;
const kind = ref<keyof typeof kinds>("material");
const begun = (): Row => ({
  id: v7(),
  ...fresh[kinds[kind.value].of]!(),
  ...(kind.value === "wire"
    ? { wire: { gauge: 26, cover: "", lengthMicrometres: 360_000, diameterMicrometres: 450 } }
    : {}),
});
const row = ref<Row>(begun());
function choose(k: keyof typeof kinds) {
  kind.value = k;
  row.value = begun();
}
const none = {
  surroundings: [],
  parts: [],
  mixes: [],
  tools: [],
  suppliers: [],
  classes: [],
  families: [],
  languages: [],
  currencies: [],
  skills: [],
};
const sheet = sheets({ ...none, moment: { shown: String, kept: Number } }, () => 0);
const columns = computed(() => {
  const { of, keys } = kinds[kind.value];
  return sheet[of]!.columns.filter((c) => (keys as readonly string[]).includes(c.key));
});
const send = useCommands();
const add = useMutation({
  mutationFn: () => {
    const path = { kind: kinds[kind.value].of, id: row.value.id as string };
    const body = { is: row.value } as never;
    return send([path, body], (header) =>
      answered(client.PUT("/api/workshop/{kind}/{id}", { params: { header, path }, body })),
    );
  },
  onSuccess: () => emit("close"),
});
const flaw = (key: string) => (add.error.value instanceof Refused ? add.error.value.at(key) : undefined);
</script>

<template>
  <v-dialog :model-value="true" :aria-label="$t('Something new')" max-width="720" @update:model-value="emit('close')">
    <form class="sheet form" data-test="thing-form" @submit.prevent="add.mutate()">
      <h2>Something new</h2>
      <nav>
        <button
          v-for="(_, k) in kinds"
          :key="k"
          type="button"
          class="bare"
          :class="{ here: kind === k }"
          :data-test="`thing-${k}`"
          @click="choose(k)"
        >
          {{ k }}
        </button>
      </nav>
      <FieldGrid name="thing" :row="row" :columns="columns" :flaws="flaw" @row="(r) => (row = r)" />
      <ProblemNote :error="add.error.value" />
      <footer>
        <v-btn variant="text" @click="emit('close')">Leave it</v-btn>
        <v-btn color="primary" type="submit" data-test="save-thing" :disabled="!person">{{
          person ? $t("Add it") : $t("Say who is here first")
        }}</v-btn>
      </footer>
    </form>
  </v-dialog>
</template>

<style scoped>
.form {
  padding: 22px 26px;
}
nav {
  display: flex;
  gap: 16px;
  margin: 10px 0 14px;
}
footer {
  display: flex;
  justify-content: flex-end;
  gap: 10px;
  margin-top: 18px;
}
</style>
