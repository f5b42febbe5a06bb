<script setup lang="ts">
import { computed, defineAsyncComponent, ref } from "vue";
import { useRoute } from "vue-router";
import { useMutation } from "@tanstack/vue-query";
import { answered, client, type OrderView, person, useCommands } from "../api/client";
import { useChances, useOrders, usePastOrders, useProposal, useStudio } from "../api/queries";
import ChanceGrains from "../drawings/ChanceGrains.vue";
import PartDrawing from "../drawings/PartDrawing.vue";
import Swatch from "../drawings/Swatch.vue";
import { useTimes } from "../format";
import DearNote from "../parts/DearNote.vue";
import HistoryPages from "../parts/HistoryPages.vue";
import ProblemNote from "../parts/ProblemNote.vue";
import SafetyWord from "../parts/SafetyWord.vue";
import StationHead from "../parts/StationHead.vue";
import OrderBuys from "./OrderBuys.vue";
import { waitedFor } from "./plan/because";
import ProposalPanel from "../parts/ProposalPanel.vue";
import SearchControl from "../parts/SearchControl.vue";
import { metWords } from "../words/allergies";
import { approvalWords } from "../words/approvals";
import { hourGives, lateBy, sure } from "../words/chances";
import { fellBecause, fellBy } from "../words/falls";
import { t, word } from "../words/said";

/** Fetched when it is first opened: most mornings nobody enters an order. */
const OrderTable = defineAsyncComponent(() => import("./OrderTable.vue"));
/** Many at once. */
const many = ref(false);
const OrderForm = defineAsyncComponent(() => import("./OrderForm.vue"));

const { data: orders, error } = useOrders();
const choice = ref("");
const { data: proposal } = useProposal(choice);
const { data: studio } = useStudio();
const times = useTimes();
const editing = ref<OrderView | "new" | undefined>("new" in useRoute().query ? "new" : undefined);

const shown = computed(() => orders.value ?? []);
const wonders = ref(false);
const { data: chances, error: unsure } = useChances(wonders);
const chance = (o: OrderView) => (wonders.value ? chances.value?.find((c) => c.order === o.order.id) : undefined);
const past = ref(false);
const { sought, lines: gone, more, busy, earlier } = usePastOrders(past);
const says = computed(() => {
  const open = shown.value.filter((o) => o.outcome);
  const late = open.filter((o) => o.outcome!.late > 0).length;
  return late
    ? t("{open} promised, {late} will be late", { open: open.length, late })
    : t("{open} promised, all in time", { open: open.length });
});
const send = useCommands();
/** How far the client's approval of a sample is. */
const answer = useMutation({
  mutationFn: ({ o, approval, state }: { o: OrderView; approval: string; state: "sent" | "approved" | "another" }) =>
    send([o.order.id, o.version, approval, state], (header) =>
      answered(
        client.POST("/api/orders/{id}/approvals/{approval}", {
          params: { path: { id: o.order.id, approval }, header: { ...header, "If-Match": o.version } },
          body: { state },
        }),
      ),
    ),
});
const say = (o: OrderView, approval: string, state: "sent" | "approved" | "another") =>
  answer.mutate({ o, approval, state });
const flower = (id: string) => studio.value?.flowers.find((f) => f.id === id);
const colourway = (id: string) => studio.value?.colourways.find((c) => c.id === id);
</script>

<template>
  <div class="station orders">
    <div class="list">
      <StationHead title="Orders" :says="says">
        <v-btn color="primary" size="large" data-test="new-order" :disabled="!person" @click="editing = 'new'">
          {{ person ? $t("Enter an order") : $t("Say who is here first") }}
        </v-btn>
        <button v-if="person" class="bare add" data-test="open-order-table" @click="many = true">
          From a spreadsheet…
        </button>
      </StationHead>
      <ProblemNote :error="error ?? unsure ?? answer.error.value" />
      <p v-if="shown.some((o) => o.outcome)" class="how">
        <button v-if="!wonders" class="bare add" data-test="how-sure" @click="wonders = true">How sure is it?</button>
        <DearNote v-else-if="!chances" what="Playing the plan through as it may go." />
        <span v-else class="quiet">
          Played through as it may go: minutes, drying, breakage, deliveries and people away go from the plan as they
          usually do. Nobody plans anew in it, so that a studio that looks at its plan does a little better.
        </span>
      </p>
      <p v-if="orders && !shown.length" class="sheet empty">Nothing is promised yet. Enter the first order.</p>
      <article v-for="o in shown" :key="o.order.id" class="sheet ticket" :data-test="`order-${o.order.name}`">
        <div class="leaves">
          <span class="quiet">leaves</span>
          <strong>{{ times.wallDay(o.order.leaves) }}</strong><strong>{{ times.wallClock(o.order.leaves) }}</strong>
          <span class="quiet">{{ word(o.order.leaving) }}</span>
        </div>
        <div class="what">
          <h2>
            <button class="bare" :data-test="`open-${o.order.name}`" @click="editing = o">{{ o.order.name }}</button>
            <span v-if="o.order.state === 'quote'" class="word plain">quote only</span>
            <span v-if="o.order.state === 'cancelled'" class="word plain">cancelled, awaits acceptance</span>
            <span v-else-if="o.pending" class="word tight">awaits acceptance</span>
          </h2>
          <p class="quiet">
            {{ o.order.occasion
            }}<template v-if="o.order.allergies.length">
              · <b class="allergy">no {{ o.order.allergies.join($t(", no ")) }}</b></template
            >
          </p>
          <p v-for="m in o.met" :key="m.material + m.into + m.of" class="allergy" :data-test="`met-${o.order.name}`">
            {{ metWords(m) }}
          </p>
          <p v-if="o.uncompared.length" class="allergy">
            {{ $t("No material says whether it holds {what}.", { what: o.uncompared.join(", ") }) }}
          </p>
          <p v-for="a in o.approvals" :key="a.id" class="approval" :data-test="`approval-${o.order.name}`">
            {{ approvalWords(a, times) }}
            <template v-if="person && (a.state === 'to-make' || a.state === 'sent')">
              <button v-if="a.state === 'to-make'" class="bare add" @click="say(o, a.id, 'sent')">It is sent</button>
              <button class="bare add" data-test="approve" @click="say(o, a.id, 'approved')">Approved</button>
              <button class="bare add" @click="say(o, a.id, 'another')">They want another</button>
            </template>
            <RouterLink v-if="a.state === 'another'" class="add" to="/stores?view=Change of mind"
              >What becomes of it?</RouterLink
            >
          </p>
          <ul>
            <li v-for="l in o.order.lines" :key="l.id">
              <PartDrawing :form="flower(l.recipe)?.form" :colour="flower(l.recipe)?.colours[l.colourway]" :size="30" />
              <b>{{ l.quantity }}</b> {{ flower(l.recipe)?.name
              }}<template v-if="l.variant">, {{ l.variant }}</template>
              <span class="quiet">
                <Swatch v-for="(c, i) in colourway(l.colourway)?.swatches" :key="i" :colour="c" :size="12" />
                {{ colourway(l.colourway)?.name ?? $t("its own colours")
                }}<template v-if="l.gone">, {{ l.gone }} have left</template>
              </span>
            </li>
          </ul>
        </div>
        <div v-if="o.outcome" class="standing">
          <SafetyWord class="slack" :outcome="o.outcome" />
          <span v-if="o.fell" class="quiet" :data-test="`fell-${o.order.name}`">
            {{ fellBy(o.fell) }} {{ times.moment(o.fell.at) }}: {{ fellBecause(o.fell) }}
          </span>
          <div v-if="chance(o)" class="chance" :data-test="`chance-${o.order.name}`">
            <b>{{ sure(chance(o)!) }}</b>
            <ChanceGrains :chance="chance(o)!" />
            <span class="quiet">{{ lateBy(chance(o)!) }} {{ hourGives(chance(o)!) }}</span>
          </div>
          <OrderBuys v-if="o.buys.length" :order="o" />
          <span class="quiet">
            ready {{ o.outcome.ready === undefined ? $t("never") : times.full(o.outcome.ready) }}, wanted by
            {{ times.full(o.outcome.readyBy) }}
          </span>
          <p v-if="o.earliestLeave" class="earliest" data-test="earliest">
            Could leave {{ times.wall(o.earliestLeave) }} at the earliest.
          </p>
          <RouterLink class="add" :to="`/orders/${o.order.id}/sheet`" :data-test="`sheet-${o.order.name}`"
            >Packing and hand-over</RouterLink
          >
          <RouterLink
            v-if="o.outcome.late > 0"
            class="add"
            :to="`/promise?order=${o.order.id}`"
            :data-test="`help-${o.order.name}`"
            >What would help?</RouterLink
          >
          <p v-if="o.limit" class="limit">
            Hangs on <b>{{ o.limit.name }}</b>, {{ o.limit.of }} ({{ times.moment(o.limit.start) }}):
            {{
              o.limit.cause === "now" || !o.limit.cause
                ? $t("it begins at once")
                : $t("it waits for {toOrder}", { toOrder: waitedFor(o.limit.cause, o.limit.short, o.limit.toOrder) })
            }}.
          </p>
          <div
            class="stalk"
            :title="$t('{tasksDone} of {tasksAll} tasks done', { tasksDone: o.tasksDone, tasksAll: o.tasksAll })"
          >
            <i :style="{ width: `${o.tasksAll ? (100 * o.tasksDone) / o.tasksAll : 0}%` }" />
            <span class="quiet">{{ o.tasksDone }} of {{ o.tasksAll }} tasks done</span>
          </div>
        </div>
        <p v-else-if="o.order.state === 'open' && !o.pending" class="quiet" data-test="distant">
          Counted and planned when its time comes.
        </p>
      </article>
      <details class="sheet past" data-test="past-orders" @toggle="past = ($event.target as HTMLDetailsElement).open">
        <summary>Orders that have left, or were cancelled</summary>
        <HistoryPages v-model="sought" test="past" :number="gone.length" :more="more" :busy="busy" @earlier="earlier">
          <table class="ledger">
            <tbody>
              <tr v-for="g in gone" :key="g.order.id" :data-test="`past-${g.order.name}`">
                <td>{{ times.wallDate(g.order.leaves) }}</td>
                <td>
                  <b>{{ g.order.name }}</b> <span class="quiet">{{ g.order.occasion }}</span>
                </td>
                <td class="quiet">
                  {{
                    g.order.lines
                      .map((l) => `${l.quantity} ${flower(l.recipe)?.name ?? $t("of an earlier recipe")}`)
                      .join(", ")
                  }}
                </td>
                <td>
                  <RouterLink v-if="g.order.state === 'left'" class="add" :to="`/orders/${g.order.id}/sheet`"
                    >its sheet</RouterLink
                  >
                </td>
                <td class="quiet">{{ word(g.order.state === "left" ? g.order.leaving : "cancelled") }}</td>
              </tr>
            </tbody>
          </table>
        </HistoryPages>
      </details>
    </div>
    <ProposalPanel v-if="proposal?.waits" v-model:chosen="choice" :proposal="proposal">
      <SearchControl />
    </ProposalPanel>
    <OrderTable v-if="many" @close="many = false" />
    <OrderForm v-if="editing" :order="editing === 'new' ? undefined : editing" @close="editing = undefined" />
  </div>
</template>

<style scoped>
.orders {
  display: flex;
  gap: 24px;
  align-items: flex-start;
}
.list {
  flex: 1;
  min-width: 0;
}
.ticket {
  display: grid;
  grid-template-columns: 132px minmax(240px, 1.1fr) minmax(230px, 1fr);
  gap: 22px;
  padding: 16px 20px;
  margin-bottom: 12px;
}
.how {
  margin: -6px 0 12px;
}
.chance {
  margin: 4px 0;
}
.past {
  padding: 12px 20px;
}
.leaves {
  display: grid;
  align-content: start;
  border-right: 1px dashed var(--vein);
}
.leaves strong {
  font-family: var(--name);
  font-size: 1.2rem;
  font-weight: 560;
  line-height: 1.2;
}
h2 {
  display: flex;
  gap: 12px;
  align-items: baseline;
}
h2 .word {
  font: 600 0.8667rem var(--count);
}
p {
  margin: 2px 0 6px;
}
.allergy {
  color: #a32740;
}
ul {
  list-style: none;
  padding: 0;
  margin: 8px 0 0;
  display: grid;
  gap: 2px;
}
li {
  display: flex;
  align-items: center;
  gap: 7px;
}
li b {
  min-width: 22px;
  text-align: right;
  font-size: 1.1333rem;
}
.standing {
  display: grid;
  align-content: start;
  gap: 2px;
}
.slack {
  font-size: 1.2rem;
}
.earliest {
  font-weight: 650;
  color: #a32740;
}
.limit {
  font-size: 0.9333rem;
  margin: 4px 0;
}
.stalk {
  position: relative;
  margin-top: 4px;
  padding-top: 9px;
}
.stalk::before,
.stalk i {
  content: "";
  position: absolute;
  top: 3px;
  left: 0;
  height: 3px;
  width: 100%;
  background: var(--vein);
  border-radius: 2px;
}
.stalk i {
  background: var(--leaf);
}
.empty {
  padding: 24px;
}
@media (max-width: 980px) {
  .leaves {
    border: 0;
  }
  .orders {
    flex-direction: column-reverse;
    align-items: stretch;
  }
  .ticket {
    grid-template-columns: 1fr;
    gap: 8px;
  }
}
</style>
