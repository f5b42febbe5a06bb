<script setup lang="ts">
import { useMutation } from "@tanstack/vue-query";
import { computed, ref } from "vue";
import { answered, client, type Schemas } from "../../api/client";
import { useOrders, useStudio } from "../../api/queries";
import PartDrawing from "../../drawings/PartDrawing.vue";
import Swatch from "../../drawings/Swatch.vue";
import { stocked } from "../../format";
import ProblemNote from "../../parts/ProblemNote.vue";
import { t } from "../../words/said";

/** “These flowers in another colour”: what can still become it, what is freed, what is left over. */
const { data: orders } = useOrders();
const { data: studio } = useStudio();
const line = ref("");
const colourway = ref("");

const recipe = (id: string) => studio.value?.flowers.find((r) => r.id === id)?.name ?? t("flowers");
const lines = computed(() =>
  (orders.value ?? [])
    .filter((o) => o.order.state === "open")
    .flatMap((o) =>
      o.order.lines.map((l) => ({ id: l.id, name: `${o.order.name}: ${l.quantity} × ${recipe(l.recipe)}` })),
    ),
);
const ask = useMutation({
  mutationFn: () =>
    answered(client.POST("/api/stores/mind", { body: { line: line.value, colourway: colourway.value } })),
});
const anew = computed(() =>
  [...(ask.data.value?.anew ?? [])].sort(
    (a, b) => Number(a.kind === "mix") - Number(b.kind === "mix") || a.name.localeCompare(b.name),
  ),
);
const unit = (kind: string) => (kind === "mix" ? "mg" : "pieces");
function fates(f: Schemas["FateRow"]): string[] {
  const say = (n: number, what: string) => (n ? [`${stocked(n, unit(f.kind))} ${what}`] : []);
  return [
    ...say(f.stays, t("serve it as before")),
    ...say(f.becomes, t("become the other colour")),
    ...say(f.freed, t("freed for {to}", { to: f.to.join(", ") })),
    ...say(f.left, "left over; nobody wants them now"),
  ];
}
</script>

<template>
  <form class="sheet ask" @submit.prevent="ask.mutate()">
    <label>
      These flowers
      <select class="own" v-model="line" required data-test="mind-line">
        <option v-for="l in lines" :key="l.id" :value="l.id">{{ l.name }}</option>
      </select>
    </label>
    <label>
      in
      <select class="own" v-model="colourway" required data-test="mind-colour">
        <option v-for="c in studio?.colourways" :key="c.id" :value="c.id">{{ c.name }}</option>
      </select>
      instead?
    </label>
    <v-btn type="submit" color="primary" :disabled="!line || !colourway" data-test="mind-ask"
      >What would that cost?</v-btn
    >
    <span class="quiet">Nothing is changed by asking.</span>
  </form>
  <ProblemNote :error="ask.error.value" />
  <div v-if="ask.data.value" class="answer" data-test="mind-answer">
    <section class="sheet">
      <h2>What lies there or is in work</h2>
      <p v-if="!ask.data.value.fates.length">Nothing is made for it yet: no piece is lost.</p>
      <table v-else class="ledger">
        <tbody>
          <tr v-for="(f, i) in ask.data.value.fates" :key="i">
            <td class="what">
              <PartDrawing v-if="f.kind !== 'mix'" :form="f.form" :colour="f.colour" :size="24" />
              <Swatch v-else :colour="f.colour" :size="18" />
              {{ f.name }}
              <span class="quiet">{{ f.kind === "mix" ? "" : f.mix }}{{ f.inWork ? $t(", in work") : "" }}</span>
            </td>
            <td>
              <span
                v-for="(t, k) in fates(f)"
                :key="k"
                :class="f.left && k === fates(f).length - 1 ? 'word late' : 'word safe'"
                >{{ t }}</span
              >
            </td>
          </tr>
        </tbody>
      </table>
    </section>
    <section class="sheet">
      <h2>What is begun more, or less</h2>
      <table class="ledger">
        <thead>
          <tr>
            <th>pieces</th>
            <th class="n">to start now</th>
            <th class="n">instead</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(n, i) in anew" :key="i">
            <td>
              <Swatch :colour="n.colour" :size="16" /> {{ n.name }}
              <span class="quiet">{{ n.kind === "mix" ? "" : n.mix }}</span>
            </td>
            <td class="n">{{ stocked(n.before, unit(n.kind)) }}</td>
            <td class="n">
              <b>{{ stocked(n.after, unit(n.kind)) }}</b>
            </td>
          </tr>
        </tbody>
      </table>
    </section>
  </div>
</template>

<style scoped>
.ask {
  display: flex;
  flex-wrap: wrap;
  gap: 16px;
  align-items: center;
  padding: 14px 20px;
  margin-bottom: 14px;
}
.answer {
  display: grid;
  grid-template-columns: 1.3fr 1fr;
  gap: 14px;
  align-items: start;
}
.answer section {
  padding: 14px 20px;
}
.what {
  white-space: nowrap;
}
td .word {
  margin-right: 14px;
}
@media (max-width: 980px) {
  .answer {
    grid-template-columns: 1fr;
  }
}
</style>
