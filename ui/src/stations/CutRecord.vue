<script setup lang="ts">
import { useMutation } from "@tanstack/vue-query";
import { computed, ref } from "vue";
import { answered, client, Refused, type Schemas, useCommands } from "../api/client";
import { length, lengthFigure } from "../format";
import { lengthUnit } from "../manner";
import { typed } from "../number";
import NumberField from "../parts/NumberField.vue";
import ProblemNote from "../parts/ProblemNote.vue";

/** A cutting recorded as it was done: prefilled as planned, put right where it came out otherwise. */
const props = defineProps<{ sheet: Schemas["WireSheet"] }>();
const emit = defineEmits<{ close: [] }>();
const send = useCommands();

const rows = ref(
  props.sheet.cutting.patterns.map((p) => ({
    from: p.fromMicrometres,
    wires: p.wires,
    cuts: p.cuts.map((c) => lengthFigure(c)).join(" + "),
  })),
);
const spoilt = ref(0);
/** "95 + 95 + 80", in the unit of lengths. */
const lengths = (text: string) =>
  text
    .split(/[+;\s]+/)
    .filter(Boolean)
    .map((t) => Math.round(typed(t) * 1000));
const wrong = computed(() =>
  rows.value.some((r) => r.wires && lengths(r.cuts).some((l) => !Number.isFinite(l) || l <= 0)),
);

const record = useMutation({
  mutationFn: (confirmed: boolean) => {
    const body = {
      material: props.sheet.material,
      done: rows.value
        .filter((r) => r.wires > 0)
        .map((r) => ({ fromMicrometres: r.from, cuts: lengths(r.cuts), wires: r.wires })),
      spoilt: spoilt.value,
      confirmed,
    };
    return send(body, (header) => answered(client.POST("/api/wires/cut", { params: { header }, body })));
  },
  onSuccess: () => emit("close"),
});
const mayConfirm = () =>
  record.error.value instanceof Refused && record.error.value.fields.some((f) => f.location === "body.confirmed");
</script>

<template>
  <v-dialog
    :model-value="true"
    :aria-label="$t('{name}, cut', { name: sheet.name })"
    max-width="640"
    @update:model-value="emit('close')"
  >
    <form class="sheet opened" data-test="cut-record" @submit.prevent="record.mutate(false)">
      <h2>{{ sheet.name }}, cut</h2>
      <p class="quiet">
        As planned; put right what came out otherwise. A piece of a wrong length is kept by its length.
      </p>
      <table class="ledger">
        <thead>
          <tr>
            <th class="n">wires</th>
            <th class="n">of</th>
            <th>cut to, in {{ lengthUnit() }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(r, i) in rows" :key="i">
            <td class="n">
              <NumberField whole v-model="r.wires" :aria-label="$t('wires')" :data-test="`cut-wires-${i}`" />
            </td>
            <td class="n nowrap">{{ length(r.from) }}</td>
            <td>
              <input v-model="r.cuts" class="own cuts" :aria-label="$t('cut to')" :data-test="`cut-lengths-${i}`" />
            </td>
          </tr>
          <tr>
            <td class="n">
              <NumberField whole v-model="spoilt" :aria-label="$t('spoilt')" data-test="cut-spoilt" />
            </td>
            <td class="n nowrap">{{ length(sheet.wire.lengthMicrometres) }}</td>
            <td>spoilt, nothing of them is left</td>
          </tr>
        </tbody>
      </table>
      <ProblemNote :error="record.error.value" />
      <footer>
        <v-btn variant="text" @click="emit('close')">Leave it</v-btn>
        <v-btn v-if="mayConfirm()" variant="tonal" data-test="cut-all-the-same" @click="record.mutate(true)"
          >Record it all the same</v-btn
        >
        <v-btn type="submit" color="primary" :disabled="wrong" data-test="cut-done">Record it as cut</v-btn>
      </footer>
    </form>
  </v-dialog>
</template>

<style scoped>
input.cuts {
  width: 100%;
}
.nowrap {
  white-space: nowrap;
}
</style>
