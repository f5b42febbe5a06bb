<script setup lang="ts">
import { useMutation } from "@tanstack/vue-query";
import { computed, ref } from "vue";
import { answered, client, type OpenedCell, type Schemas, useCommands } from "../api/client";
import { useTimes } from "../format";
import NumberField from "../parts/NumberField.vue";
import ProblemNote from "../parts/ProblemNote.vue";
import { t } from "../words/said";

/** The lots of a cell, and what the lead decides about those that are not begun. */
const props = defineProps<{ cell: OpenedCell; orders: Schemas["Named"][] }>();
const emit = defineEmits<{ decided: [] }>();
const times = useTimes();
const send = useCommands();
const chosen = ref<string>();
const start = ref(0);
const into = ref(2);
const later = ref(0);

const decide = useMutation({
  mutationFn: (wish: { lot: string; body: Schemas["Decision"] }) =>
    send(wish, (header) =>
      answered(client.POST("/api/lots/{lot}/decide", { params: { header, path: { lot: wish.lot } }, body: wish.body })),
    ),
  onSuccess: () => {
    chosen.value = undefined;
    emit("decided");
  },
});
const open = (l: Schemas["Lot"]) => !l.inWork && !l.from;
const others = computed(() => props.cell.lotList.filter((l) => open(l) && l.id !== chosen.value));
const whom = (l: Schemas["Lot"]) =>
  (l.for ?? [])
    .map((c) => `${props.orders.find((o) => o.id === c.order)?.name ?? t("shelf")} ${c.quantity}`)
    .join(", ");

function choose(l: Schemas["Lot"]) {
  chosen.value = chosen.value === l.id ? undefined : l.id;
  start.value = l.started;
  into.value = 2;
  later.value = 0;
  decide.reset();
}
function tell(l: Schemas["Lot"], body: Schemas["Decision"]) {
  decide.mutate({ lot: l.id, body });
}
</script>

<template>
  <table class="ledger">
    <thead>
      <tr>
        <th>begin by</th>
        <th class="n">must yield</th>
        <th class="n">started</th>
        <th>for</th>
        <td />
      </tr>
    </thead>
    <tbody v-for="l in cell.lotList" :key="l.id" :data-test="`lot-${l.ordinal}`">
      <tr>
        <td>{{ times.full(l.latestStart) }}</td>
        <td class="n">{{ l.need }}</td>
        <td class="n">{{ l.started }}</td>
        <td>{{ whom(l) }}</td>
        <td class="nowrap">
          <span v-if="l.inWork">in work, {{ l.alive }} left</span>
          <span v-else-if="l.from">from half made</span>
          <template v-else>
            <span v-if="l.decided" class="word plain">decided </span>
            <button class="bare add" :aria-expanded="chosen === l.id" @click="choose(l)">decide…</button>
          </template>
        </td>
      </tr>
      <tr v-if="chosen === l.id">
        <td colspan="5">
          <div class="choices">
            <label>
              Start
              <NumberField whole v-model="start" data-test="lot-start" />
              <v-btn variant="tonal" size="small" data-test="lot-start-go" @click="tell(l, { what: 'start', start })"
                >so many</v-btn
              >
            </label>
            <label v-if="l.need > 1">
              Split into
              <NumberField whole v-model="into" data-test="lot-into" />
              <v-btn variant="tonal" size="small" data-test="lot-split-go" @click="tell(l, { what: 'split', into })"
                >lots</v-btn
              >
            </label>
            <label>
              Ready
              <select class="own" v-model.number="later">
                <option v-for="d in [-3, -2, -1, 1, 2, 3]" :key="d" :value="d">
                  {{ d < 0 ? $t("{n} day earlier | {n} days earlier", -d) : $t("{n} day later | {n} days later", d) }}
                </option>
              </select>
              <v-btn
                variant="tonal"
                size="small"
                :disabled="!later"
                data-test="lot-move-go"
                @click="tell(l, { what: 'move', due: l.due + later * 1440 })"
                >than {{ times.full(l.due) }}</v-btn
              >
            </label>
            <label v-if="others.length">
              <v-btn
                v-for="o in others"
                :key="o.id"
                variant="tonal"
                size="small"
                data-test="lot-merge-go"
                @click="tell(l, { what: 'merge', with: [o.id] })"
                >Merge with the lot of {{ o.need }}</v-btn
              >
            </label>
            <v-btn
              v-if="!l.decided"
              variant="tonal"
              size="small"
              data-test="lot-keep"
              @click="tell(l, { what: 'keep' })"
              >Keep it as it is</v-btn
            >
            <v-btn v-else variant="tonal" size="small" data-test="lot-let-go" @click="tell(l, { what: 'let go' })"
              >Let the count decide</v-btn
            >
          </div>
          <ProblemNote :error="decide.error.value" />
        </td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
.choices {
  display: flex;
  flex-wrap: wrap;
  gap: 10px 22px;
  align-items: center;
  padding: 6px 0 10px;
}
label {
  display: inline-flex;
  gap: 6px;
  align-items: center;
}
.nowrap {
  white-space: nowrap;
}
</style>
