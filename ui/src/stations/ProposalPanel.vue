<script setup lang="ts">
import { computed } from "vue";
import { person, type Schemas } from "../api/client";
import { useAccept, useOrders, useStudio } from "../api/queries";
import { lasting, useTimes } from "../format";
import ProblemNote from "../parts/ProblemNote.vue";
import SafetyWord from "../parts/SafetyWord.vue";

/** What accepting the pending wishes would change. */
const props = defineProps<{ proposal: Schemas["Proposal"] }>();
const accept = useAccept();
const { data: orders } = useOrders();
const { data: studio } = useStudio();
const times = useTimes();
const most = 6;

const name = (id: string) => orders.value?.find((o) => o.order.id === id)?.order.name ?? "an order";
const who = (id: string) => studio.value?.people.find((p) => p.id === id)?.name ?? "";
const card = (id: string) => props.proposal.cards.find((c) => c.id === id);
const summary = computed(() => {
  const d = props.proposal.differences;
  const words = [];
  if (d.added.length) words.push(`${d.added.length} tasks are added`);
  if (d.gone.length) words.push(`${d.gone.length} go`);
  if (d.moved.length) words.push(`${d.moved.length} move`);
  return words.length ? words.join(", ") : "Nothing in the plan moves";
});

function change(o: Schemas["OrderChange"]): string {
  if (!o.after) return "is no longer made";
  if (!o.before || o.before.ready === undefined || o.after.ready === undefined) return "";
  const by = o.after.ready - o.before.ready;
  return by === 0 ? "as before" : `${lasting(by)} ${by > 0 ? "later" : "earlier"} than now`;
}
</script>

<template>
  <aside class="sheet proposal" data-test="proposal">
    <h2>A plan awaits you</h2>
    <p>
      For <b v-if="proposal.pending.length">{{ proposal.pending.map((o) => o.order.name).join(", ") }}</b><b v-else
        >what you decided about lots</b
      >. {{ summary }}.
    </p>
    <ul>
      <li v-for="o in proposal.differences.orders" :key="o.order">
        <b>{{ name(o.order) }}</b>
        <SafetyWord v-if="o.after" :outcome="o.after" />
        <span class="quiet">{{ change(o) }}</span>
      </li>
    </ul>
    <ProblemNote :error="accept.error.value" />
    <v-btn
      color="secondary"
      block
      size="large"
      data-test="accept"
      :disabled="!person"
      :loading="accept.isPending.value"
      @click="accept.mutate(proposal.n)"
    >
      Accept this plan
    </v-btn>
    <p class="quiet">
      Or leave it: the orders are saved, the benches work on as planned. “Take back…” undoes an entry.
    </p>
    <template v-if="proposal.differences.moved.length">
      <h3>What moves</h3>
      <ul class="moves">
        <li v-for="m in proposal.differences.moved.slice(0, most)" :key="m.task">
          {{ card(m.task)?.name }}, <span class="quiet">{{ card(m.task)?.of }}</span><br />
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
.moves li {
  display: block;
  font-size: 14px;
}
</style>
