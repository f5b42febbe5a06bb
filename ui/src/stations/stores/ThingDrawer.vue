<script setup lang="ts">
import { useMutation } from "@tanstack/vue-query";
import { ref } from "vue";
import { answered, client, Refused, type Schemas, useCommands } from "../../api/client";
import { useDryingRoom, useLedger } from "../../api/queries";
import { given, spokenUnit, stocked, useTimes } from "../../format";
import HistoryPages from "../../parts/HistoryPages.vue";
import NumberField from "../../parts/NumberField.vue";
import ProblemNote from "../../parts/ProblemNote.vue";
import { t } from "../../words/said";

/** One thing in the stores: what happened to it, and what can be said about it. */
const props = defineProps<{
  id: string;
  length: number;
  name: string;
  unit: string;
  amount: number;
  stock?: Schemas["StockRow"];
}>();
const emit = defineEmits<{ close: [] }>();
const times = useTimes();
const send = useCommands();
const { sought, lines, more, busy, earlier } = useLedger(
  () => props.id,
  () => props.length,
);
const lost = ref(0);
const why = ref("");
const place = ref(props.stock?.place ?? "");
const lies = ref(props.stock?.in ?? "");
const { data: room } = useDryingRoom();
const unitName = spokenUnit(props.unit);

const spoil = useMutation({
  mutationFn: (confirmed: boolean) =>
    send([props.id, props.length, lost.value, why.value, confirmed], (header) =>
      answered(
        client.POST("/api/stores/spoil", {
          params: { header },
          body: {
            id: props.id,
            ...(props.length ? { lengthMicrometres: props.length } : {}),
            amount: given(lost.value, props.unit),
            why: why.value,
            confirmed,
          },
        }),
      ),
    ),
  onSuccess: () => (lost.value = 0),
});
const mayConfirm = () =>
  spoil.error.value instanceof Refused && spoil.error.value.fields.some((f) => f.location === "body.confirmed");

/** What came without an order. */
const got = ref(0);
const buy = useMutation({
  mutationFn: () =>
    send(["bought", props.id, got.value], (header) =>
      answered(
        client.POST("/api/stores/bought", {
          params: { header },
          body: { material: props.id, amount: given(got.value, props.unit) },
        }),
      ),
    ),
  onSuccess: () => (got.value = 0),
});
const keep = useMutation({
  mutationFn: (kept: string) =>
    send([props.id, place.value, lies.value, kept], (header) =>
      answered(
        client.POST("/api/stock/{stock}/keep", {
          params: { header, path: { stock: props.id } },
          body: { place: place.value, kept, ...(lies.value ? { in: lies.value } : {}) },
        }),
      ),
    ),
});
const ways = [
  { kept: "board", name: t("On the board") },
  { kept: "wrapped", name: t("Wrap it") },
  { kept: "cold", name: t("Into the cold") },
];
const booked: Record<string, string> = {
  bought: t("bought"),
  mixed: t("mixed"),
  used: t("used"),
  made: t("made"),
  spoilt: t("thrown away"),
  counted: t("counted"),
  reserved: t("reserved"),
  released: t("no longer reserved"),
  corrected: t("put right"),
};
const signed = (n: number) => `${n > 0 ? "+" : "−"}${stocked(Math.abs(n), props.unit)}`;
</script>

<template>
  <v-dialog :model-value="true" :aria-label="name" max-width="680" @update:model-value="emit('close')">
    <div class="sheet opened" data-test="thing">
      <div class="top">
        <h2>{{ name }}</h2>
        <span class="figure">{{ stocked(amount, unit) }}<span class="unit"> there</span></span>
      </div>
      <slot />
      <template v-if="stock">
        <h3>Where it lies</h3>
        <div class="line">
          <input
            class="own"
            v-model="place"
            placeholder="tin, shelf, drawer"
            aria-label="where it lies"
            data-test="place"
          />
          <select v-model="lies" class="own" aria-label="In which air it lies" data-test="lies-in">
            <option value="">in the room's air</option>
            <option v-for="p in room?.places" :key="p.id" :value="p.id">in {{ p.name.toLowerCase() }}</option>
          </select>
          <v-btn variant="tonal" size="small" data-test="keep-place" @click="keep.mutate(stock.kept ?? '')"
            >Lies there</v-btn
          >
          <template v-if="stock.kind === 'mix'">
            <v-btn
              v-for="w in ways"
              :key="w.kept"
              :variant="stock.kept === w.kept ? 'flat' : 'tonal'"
              size="small"
              :data-test="`kept-${w.kept}`"
              @click="keep.mutate(w.kept)"
              >{{ w.name }}</v-btn
            >
          </template>
        </div>
        <ProblemNote :error="keep.error.value" />
      </template>
      <template v-if="!stock && !length">
        <h3>Bought in a shop</h3>
        <form class="line" @submit.prevent="buy.mutate()">
          <NumberField v-model="got" aria-label="how much came" data-test="got" />
          {{ unitName }}
          <v-btn type="submit" variant="tonal" size="small" data-test="bought">Book it in</v-btn>
        </form>
        <ProblemNote :error="buy.error.value" />
      </template>
      <h3>Thrown away</h3>
      <form class="line" @submit.prevent="spoil.mutate(false)">
        <NumberField v-model="lost" aria-label="how much" data-test="lost" />
        {{ unitName }}
        <input class="own" v-model="why" placeholder="why" aria-label="why" />
        <v-btn type="submit" variant="tonal" size="small" data-test="spoil">Book it</v-btn>
        <v-btn
          v-if="mayConfirm()"
          variant="tonal"
          size="small"
          data-test="spoil-all-the-same"
          @click="spoil.mutate(true)"
          >Book it all the same</v-btn
        >
      </form>
      <ProblemNote :error="spoil.error.value" />
      <h3>What happened</h3>
      <HistoryPages v-model="sought" test="ledger" :number="lines.length" :more="more" :busy="busy" @earlier="earlier">
        <table class="ledger">
          <tbody>
            <tr v-for="(l, i) in lines" :key="i">
              <td>{{ times.full(l.at) }}</td>
              <td>{{ booked[l.movement] }}</td>
              <td class="n">
                <b>{{ signed(l.amount) }}</b>
              </td>
              <td class="quiet">
                {{ l.summary }}{{ l.order ? ` (${l.order})` : "" }}{{ l.person ? `, ${l.person}` : "" }}
              </td>
            </tr>
          </tbody>
        </table>
      </HistoryPages>
    </div>
  </v-dialog>
</template>

<style scoped>
.top {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
}
h3 {
  margin: 16px 0 4px;
}
.line {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
}
</style>
