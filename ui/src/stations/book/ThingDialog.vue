<script setup lang="ts">
import { useMutation } from "@tanstack/vue-query";
import { computed, ref } from "vue";
import { answered, client, person, type Schemas, useCommands } from "../../api/client";
import ProblemNote from "../../parts/ProblemNote.vue";
import type { Column } from "../../parts/fields/column";
import FieldGrid from "../../parts/fields/FieldGrid.vue";
import type { Row } from "../../parts/fields/fields";

/** Something new that a recipe needs: a material, a wire, a place, a tool, a machine, a drying class. */
const emit = defineEmits<{ close: [] }>();
const kinds = ["material", "wire", "place", "tool", "machine", "drying class"] as const;
const kind = ref<(typeof kinds)[number]>("material");
const row = ref<Row>({ unit: "pieces" });
const name: Column = { key: "name", label: "name", kind: "text", width: 240 };
const columns = computed<Column[]>(() => {
  switch (kind.value) {
    case "material":
      return [
        name,
        {
          key: "unit",
          label: "counted in",
          kind: "choice",
          options: [
            { title: "pieces", value: "pieces" },
            { title: "milligrams", value: "mg" },
            { title: "length", value: "µm" },
          ],
        },
        {
          key: "form",
          label: "looks like",
          kind: "choice",
          blank: "—",
          options: ["stamens", "thread", "pearl", "foam"].map((v) => ({ title: v, value: v })),
        },
      ];
    case "wire":
      return [
        name,
        { key: "wire.gauge", label: "gauge", kind: "whole" },
        { key: "wire.cover", label: "cover", kind: "text" },
        { key: "wire.lengthMicrometres", label: "full length", kind: "mm" },
        { key: "wire.diameterMicrometres", label: "thick", kind: "mm" },
      ];
    case "place":
      return [
        name,
        { key: "slots", label: "slots", kind: "whole" },
        { key: "sizeMicrometres", label: "width of a cup", kind: "mm", blank: "—" },
        { key: "keepsMinutes", label: "keeps soft, minutes", kind: "wall", blank: "no limit" },
      ];
    case "tool":
      return [
        name,
        { key: "number", label: "how many", kind: "whole" },
        { key: "sizeMicrometres", label: "a cutter cuts", kind: "mm", blank: "—" },
      ];
    case "machine":
      return [name, { key: "slots", label: "slots", kind: "whole" }];
    default:
      return [
        name,
        { key: "firmMinutes", label: "firm after, min", kind: "whole" },
        { key: "stiffMinutes", label: "stiff after, min", kind: "whole" },
        { key: "dryMinutes", label: "dry after, min", kind: "whole" },
        { key: "thicknessMicrometres", label: "at a thickness of", kind: "mm" },
      ];
  }
});
const body = computed<Schemas["Addition"]>(() => {
  const r = { id: "", name: "", ...row.value } as Row;
  switch (kind.value) {
    case "material":
      return { material: { onHand: 0, ...r } as never };
    case "wire":
      return {
        material: {
          onHand: 0,
          ...r,
          unit: "pieces",
          form: undefined,
          wire: { gauge: 0, cover: "", lengthMicrometres: 0, diameterMicrometres: 0, ...(r.wire as Row | undefined) },
        } as never,
      };
    case "place":
      return { place: { slots: 0, ...r, unit: undefined } as never };
    case "tool":
      return { tool: { number: 1, ...r, unit: undefined } as never };
    case "machine":
      return { machine: { slots: 0, ...r, unit: undefined } as never };
    default:
      return {
        dryingClass: {
          firmMinutes: 0,
          stiffMinutes: 0,
          dryMinutes: 0,
          thicknessMicrometres: 0,
          spreadPerMille: 200,
          stallHumidityPerMille: 800,
          ...r,
          unit: undefined,
        } as never,
      };
  }
});
const send = useCommands();
const add = useMutation({
  mutationFn: () =>
    send(["thing", body.value], (header) =>
      answered(client.POST("/api/book/things", { params: { header }, body: body.value })),
    ),
  onSuccess: () => emit("close"),
});
</script>

<template>
  <v-dialog :model-value="true" max-width="720" @update:model-value="emit('close')">
    <form class="sheet form" data-test="thing-form" @submit.prevent="add.mutate()">
      <h2>Something new</h2>
      <nav>
        <button
          v-for="k in kinds"
          :key="k"
          type="button"
          class="bare"
          :class="{ here: kind === k }"
          :data-test="`thing-${k}`"
          @click="((kind = k), (row = k === 'material' ? { unit: 'pieces' } : {}))"
        >
          {{ k }}
        </button>
      </nav>
      <FieldGrid name="thing" :row="row" :columns="columns" @row="(r) => (row = r)" />
      <ProblemNote :error="add.error.value" />
      <footer>
        <v-btn variant="text" @click="emit('close')">Leave it</v-btn>
        <v-btn color="primary" type="submit" data-test="save-thing" :disabled="!person">{{
          person ? "Add it" : "Say who is here first"
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
