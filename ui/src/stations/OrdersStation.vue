<script setup lang="ts">
import { useRouteQuery } from "@vueuse/router";
import { computed, defineAsyncComponent, nextTick, ref, watch } from "vue";
import { useRoute } from "vue-router";
import { type OrderView, person } from "../api/client";
import { useChances, useOrders, usePastOrders, useProposal, useStudio } from "../api/queries";
import { useTimes } from "../format";
import DearNote from "../parts/DearNote.vue";
import FilterBar from "../parts/FilterBar.vue";
import { useGradually } from "../parts/gradually";
import ProblemNote from "../parts/ProblemNote.vue";
import StationHead from "../parts/StationHead.vue";
import { t, word } from "../words/said";
import OrderRow from "./orders/OrderRow.vue";
import OrdersRail from "./orders/OrdersRail.vue";
import OrderTicket from "./orders/OrderTicket.vue";
import { holds, type Kind, standing, weekOf } from "./orders/standing";

/** Fetched when it is first opened: most mornings nobody enters an order. */
const OrderTable = defineAsyncComponent(() => import("./OrderTable.vue"));
/** Many at once. */
const many = ref(false);
const OrderForm = defineAsyncComponent(() => import("./OrderForm.vue"));

/** Only while a plan awaits the lead's word, and of what is over. */
const ProposalPanel = defineAsyncComponent(() => import("../parts/ProposalPanel.vue"));
const SearchControl = defineAsyncComponent(() => import("../parts/SearchControl.vue"));
const HistoryPages = defineAsyncComponent(() => import("../parts/HistoryPages.vue"));

/** So few are all shown whole. */
const few = 6;

const { data: orders, error } = useOrders();
const choice = ref("");
const { data: proposal } = useProposal(choice);
const { data: studio } = useStudio();
const times = useTimes();
const editing = ref<OrderView | "new" | undefined>("new" in useRoute().query ? "new" : undefined);

const typed = useRouteQuery("text", "", { mode: "replace" });
const show = useRouteQuery<Show>("show", "all", { mode: "push" });
const by = useRouteQuery<"week" | "client">("by", "week", { mode: "push" });
const opened = useRouteQuery<string | undefined>("open", undefined, { mode: "push" });

type Show = "all" | "asks" | Exclude<Kind, "plain" | "safe"> | "quotes";
const is: Record<Show, (o: OrderView) => boolean> = {
  all: () => true,
  asks: (o) => o.asks.length > 0,
  late: (o) => standing(o.outcome).kind === "late",
  tight: (o) => standing(o.outcome).kind === "tight",
  quotes: (o) => o.order.state === "quote",
};
const all = computed(() => orders.value ?? []);
const whole = computed(() => all.value.length <= few);
const choices = computed(() =>
  (
    [
      ["all", t("All")],
      ["asks", t("To decide")],
      ["late", t("Late")],
      ["tight", t("Tight")],
      ["quotes", t("Quotes")],
    ] as const
  ).map(([key, name]) => ({ key, name, n: all.value.filter(is[key]).length })),
);
const shown = computed(() => all.value.filter((o) => is[show.value]?.(o) && holds(o, typed.value ?? "")));

/** First what needs the lead's word, then what is left, week by week or client by client, and quotes. */
const groups = computed(() => {
  if (whole.value) return [{ name: "", orders: shown.value }];
  const asking = shown.value.filter((o) => o.asks.length);
  const named = new Map<string, { name: string; orders: OrderView[] }>();
  const put = (key: string, name: string, o: OrderView) => {
    if (!named.has(key)) named.set(key, { name, orders: [] });
    named.get(key)!.orders.push(o);
  };
  const quotes: OrderView[] = [];
  const left = shown.value.filter((o) => !o.asks.length);
  for (const o of [...left].sort((a, b) => a.order.leaves.localeCompare(b.order.leaves))) {
    const week = weekOf(o.order.leaves);
    if (o.order.state === "quote") quotes.push(o);
    else if (by.value === "client") put(o.order.client?.name ?? "", o.order.client?.name ?? t("Nobody noted"), o);
    else put(week, t("Week of {day}", { day: times.value.wallDay(`${week}T00:00`) }), o);
  }
  return [
    { name: t("To decide"), orders: asking },
    ...(by.value === "client" ? [...named.values()].sort((a, b) => a.name.localeCompare(b.name)) : [...named.values()]),
    { name: t("Quotes"), orders: quotes },
  ].filter((g) => g.orders.length);
});
const drawn = useGradually(() => all.value.length);
/** The groups as far as they are drawn, each with what it is called by all of it. */
const laid = computed(() => {
  let room = drawn.value;
  return groups.value.flatMap((g) => {
    const drawn = g.orders.slice(0, room);
    room -= drawn.length;
    return drawn.length ? [{ ...g, drawn }] : [];
  });
});
const pieces = (of: OrderView[]) =>
  of.reduce((sum, o) => o.order.lines.reduce((s, l) => s + l.quantity - (l.gone ?? 0), sum), 0);

/** Opens one order whole, wherever it stands, and brings it into view; shuts it if it is open. */
async function open(id: string) {
  opened.value = opened.value === id ? undefined : id;
  if (!opened.value) return;
  const o = all.value.find((one) => one.order.id === id);
  if (o && !shown.value.includes(o)) [typed.value, show.value] = ["", "all"];
  await bring();
}
async function bring() {
  drawn.value = Math.max(drawn.value, all.value.length);
  await nextTick();
  document.querySelector(`[data-order="${opened.value}"]`)?.scrollIntoView({ block: "nearest" });
}
const found = watch(orders, (now) => {
  if (!now) return;
  found.stop();
  if (opened.value) void bring();
});

const wonders = ref(false);
const { data: chances, error: unsure } = useChances(wonders);
const chance = (o: OrderView) => (wonders.value ? chances.value?.find((c) => c.order === o.order.id) : undefined);
const past = ref(false);
const { sought, lines: gone, more, busy, earlier } = usePastOrders(past);
const says = computed(() => {
  const promised = all.value.filter((o) => o.outcome);
  const late = promised.filter(is.late).length;
  return late
    ? t("{open} promised, {late} will be late", { open: promised.length, late })
    : t("{open} promised, all in time", { open: promised.length });
});
const flower = (id: string) => studio.value?.flowers.find((f) => f.id === id);
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
      <ProblemNote :error="error ?? unsure" />
      <OrdersRail v-if="all.length" :orders="all" :open="opened" @open="open" />
      <FilterBar
        v-if="!whole"
        v-model:text="typed"
        v-model:show="show"
        :choices="choices"
        :placeholder="$t('A name, client, place or flower')"
        test="orders"
      >
        <span class="grow" />
        <span class="quiet">by</span>
        <button class="bare" :class="{ here: by === 'week' }" @click="by = 'week'">week</button>
        <button class="bare" :class="{ here: by === 'client' }" data-test="by-client" @click="by = 'client'">
          client
        </button>
      </FilterBar>
      <p v-if="all.some((o) => o.outcome)" class="how">
        <button v-if="!wonders" class="bare add" data-test="how-sure" @click="wonders = true">How sure is it?</button>
        <DearNote v-else-if="!chances" what="Playing the plan through as it may go." />
        <span v-else class="quiet">
          Played through as it may go: minutes, drying, breakage, deliveries and people away go from the plan as they
          usually do. Nobody plans anew in it, so that a studio that looks at its plan does a little better.
        </span>
      </p>
      <p v-if="orders && !all.length" class="sheet empty">Nothing is promised yet. Enter the first order.</p>
      <p v-else-if="orders && !shown.length" class="sheet empty">
        No order is like that.
        <button
          class="bare add"
          @click="
            typed = '';
            show = 'all';
          "
        >
          Show all of them
        </button>
      </p>
      <section v-for="g in laid" :key="g.name" class="group">
        <h2 v-if="g.name">
          {{ g.name }}
          <span class="quiet">
            {{ $t("{n} order | {n} orders", g.orders.length) }}, {{ $t("{n} piece | {n} pieces", pieces(g.orders)) }}
          </span>
        </h2>
        <ul :class="{ sheet: !whole }">
          <li v-for="o in g.drawn" :key="o.order.id" :data-order="o.order.id">
            <OrderTicket v-if="whole" :order="o" :chance="chance(o)" class="apart" @edit="editing = o" />
            <template v-else-if="opened === o.order.id">
              <OrderTicket :order="o" :chance="chance(o)" @edit="editing = o">
                <button class="bare add shut" data-test="fold" @click="open(o.order.id)">Fold it up</button>
              </OrderTicket>
            </template>
            <OrderRow v-else :order="o" :chance="chance(o)" @open="open(o.order.id)" />
          </li>
        </ul>
      </section>
      <details class="sheet past" data-test="past-orders" @toggle="past = ($event.target as HTMLDetailsElement).open">
        <summary>Orders that have left, or were cancelled</summary>
        <HistoryPages
          v-if="past"
          v-model="sought"
          test="past"
          :number="gone.length"
          :more="more"
          :busy="busy"
          @earlier="earlier"
        >
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
.how {
  margin: 0 0 12px;
}
.group {
  margin-bottom: 18px;
}
.group h2 {
  display: flex;
  gap: 12px;
  align-items: baseline;
  margin-bottom: 4px;
}
.group h2 .quiet {
  font-family: var(--count);
  font-weight: 400;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
.apart {
  margin-bottom: 12px;
}
.past {
  padding: 12px 20px;
}
.empty {
  padding: 24px;
}
@media (max-width: 980px) {
  .orders {
    flex-direction: column-reverse;
    align-items: stretch;
  }
}
</style>
