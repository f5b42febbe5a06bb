<script setup lang="ts">
import { computed } from "vue";
import { useMutation } from "@tanstack/vue-query";
import { answered, client, command, person, type Schemas } from "../api/client";
import { useAccept, useOrders, useStudio } from "../api/queries";
import { lasting, useTimes } from "../format";
import { changes, fares } from "./differences";
import ProblemNote from "./ProblemNote.vue";
import SafetyWord from "./SafetyWord.vue";
import { t } from "../words/said";

/** What accepting the pending wishes would change, with the plans there are for them. */
const props = defineProps<{ proposal: Schemas["Proposal"] }>();
const chosen = defineModel<string>("chosen", { default: "" });
const emit = defineEmits<{ task: [id: string] }>();
const accept = useAccept();
const { data: orders } = useOrders();
const { data: studio } = useStudio();
const times = useTimes();
const most = 6;

const drop = useMutation({
  mutationFn: (id: string) =>
    answered(client.POST("/api/proposal/{id}/drop", { params: { header: command(), path: { id } } })),
});

const name = (id: string) => orders.value?.find((o) => o.order.id === id)?.order.name ?? t("an order");
const who = (id: string) => studio.value?.people.find((p) => p.id === id)?.name ?? "";
const card = (id: string) => props.proposal.cards.find((c) => c.id === id);

const about = computed(() => {
  const words = props.proposal.pending.map((o) => o.order.name);
  words.push(...props.proposal.pins.map((p) => `${p.name} ${p.pin ? t("pinned") : t("let go")}`));
  if (words.length) return words.join("; ");
  return props.proposal.choices.some((c) => c.how === "repaired") ? t("what you decided about lots") : "";
});
const called: Record<string, string> = {
  repaired: t("Made at once"),
  searched: t("Searched for"),
  anew: t("Planned anew"),
  earlier: t("As it was earlier"),
  promised: t("As it was promised"),
};
function figures(c: Schemas["Choice"]): string {
  const late = c.late
    ? t("{late} late, worst by {worstSlack}", { late: c.late, worstSlack: lasting(c.worstSlack) })
    : t("all in time, least slack {worstSlack}", { worstSlack: lasting(c.worstSlack) });
  return `${late}; ${t("{n} task moves | {n} tasks move", c.moved)}, ${c.told} of them within two days`;
}
</script>

<template>
  <aside class="sheet proposal" data-test="proposal">
    <h2>A plan awaits you</h2>
    <p>
      <template v-if="about"
        >For <b>{{ about }}</b>. </template
      >{{ changes(proposal.differences) }}.
    </p>
    <ul v-if="proposal.choices.length > 1" class="choices" role="radiogroup" aria-label="Plans to choose from">
      <li v-for="c in proposal.choices" :key="c.id">
        <label :data-test="`choice-${c.how}`">
          <input type="radio" name="choice" :value="c.id" :checked="c.id === proposal.chosen" @change="chosen = c.id" />
          <span
            ><b>{{ called[c.how] }}</b
            ><br /><span class="quiet">{{ figures(c) }}</span></span
          >
        </label>
      </li>
    </ul>
    <ul>
      <li v-for="o in proposal.differences.orders" :key="o.order">
        <b>{{ name(o.order) }}</b>
        <SafetyWord v-if="o.after" :outcome="o.after" />
        <span class="quiet">{{ fares(o) }}</span>
      </li>
    </ul>
    <ProblemNote :error="accept.error.value ?? drop.error.value" />
    <v-btn
      color="secondary"
      block
      size="large"
      data-test="accept"
      :disabled="!person"
      :loading="accept.isPending.value"
      @click="accept.mutate({ n: proposal.n, plan: proposal.chosen })"
    >
      Accept this plan
    </v-btn>
    <p class="quiet">
      Or leave it: what you wished is kept, the benches work on as planned. “Take back…” undoes a wish.
      <button
        v-if="proposal.chosen && proposal.chosen !== 'proposed'"
        class="bare add"
        data-test="drop-choice"
        @click="drop.mutate(proposal.chosen)"
      >
        Drop this one
      </button>
    </p>
    <slot />
    <template v-if="proposal.differences.moved.length">
      <h3>What moves</h3>
      <ul class="moves">
        <li v-for="m in proposal.differences.moved.slice(0, most)" :key="m.task">
          <button class="bare" @click="emit('task', m.task)">
            {{ card(m.task)?.name }}, <span class="quiet">{{ card(m.task)?.of }}</span>
          </button>
          <br />
          <span class="quiet">
            {{ times.moment(m.from) }} → <b>{{ times.moment(m.to) }}</b>
            <template v-if="m.before !== m.after">, {{ who(m.before) }} → {{ who(m.after) }}</template>
          </span>
        </li>
        <li v-if="proposal.differences.moved.length > most" class="quiet">
          and {{ proposal.differences.moved.length - most }} more
        </li>
      </ul>
    </template>
  </aside>
</template>

<style scoped>
.proposal {
  flex: 0 0 310px;
  padding: 18px 20px;
  border-top: 5px solid var(--dust);
  position: sticky;
  top: 12px;
}
ul {
  list-style: none;
  padding: 0;
  margin: 6px 0 14px;
}
li {
  padding: 6px 0;
  border-bottom: 1px solid var(--vein);
  display: grid;
}
label {
  display: flex;
  gap: 8px;
  align-items: baseline;
  cursor: pointer;
}
input[type="radio"] {
  accent-color: var(--petal);
}
.moves li {
  display: block;
  font-size: 0.9333rem;
}
</style>
