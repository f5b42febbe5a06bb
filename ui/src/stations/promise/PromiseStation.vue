<script setup lang="ts">
import { useMutation } from "@tanstack/vue-query";
import { watchDebounced } from "@vueuse/core";
import { computed, reactive, ref, watch } from "vue";
import { useRoute, useRouter } from "vue-router";
import { answered, client, person, Refused, type Schemas, useCommands } from "../../api/client";
import { useOrders, useStudio } from "../../api/queries";
import { lasting, money, useTimes } from "../../format";
import { manner } from "../../manner";
import ProblemNote from "../../parts/ProblemNote.vue";
import StationHead from "../../parts/StationHead.vue";
import { t, word } from "../../words/said";
import { bodyOf, draftOf, fewer, newLine, questionOf } from "../orders/draft";
import OrderLines from "../orders/OrderLines.vue";
import { usePromise } from "./asking";
import FixList from "./FixList.vue";
import PromiseAnswer from "./PromiseAnswer.vue";
import QuotesWeighed from "./QuotesWeighed.vue";

/** What somebody asks for on the telephone, and whether it can be taken on. */
const times = useTimes();
const router = useRouter();
const { data: orders } = useOrders();
const { data: studio } = useStudio();

const draft = reactive(draftOf());
/** The quote that is looked at again, where it is one. */
const quote = ref<Schemas["OrderView"]>();
const quotes = computed(() => (orders.value ?? []).filter((o) => o.order.state === "quote"));
/** What is asked for stands in the address, so that it can be kept and sent: when it leaves, and of what how many. */
const route = useRoute();
const said = computed(() => ({
  leaves: draft.leaves || undefined,
  of: draft.lines
    .filter((l) => l.recipe && l.quantity)
    .map((l) =>
      [l.quantity, flowers.value.find((f) => f.id === l.recipe)?.name, colours.value.get(l.colourway)].join("|"),
    ),
}));
const flowers = computed(() => studio.value?.flowers.filter((f) => f.latest) ?? []);
const colours = computed(() => new Map(studio.value?.colourways.map((c) => [c.id, c.name])));
watch(
  () => !!studio.value,
  (known) => {
    const of = [route.query.of ?? []].flat();
    if (!known || !of.length) return;
    draft.leaves = String(route.query.leaves ?? "");
    draft.lines = of.map((line) => {
      const [quantity = "", flower, colour] = String(line).split("|");
      const colourway = studio.value?.colourways.find((c) => c.name === colour)?.id ?? "";
      return { ...newLine(), quantity, recipe: flowers.value.find((f) => f.name === flower)?.id ?? "", colourway };
    });
  },
  { immediate: true },
);
watchDebounced(
  said,
  (query) => {
    const entered = enter.isPending.value || enter.isSuccess.value; // another address would call off the way to the orders
    if (studio.value && !quote.value && !entered) void router.replace({ query: { ...route.query, ...query } });
  },
  {
    debounce: 400,
  },
);

/** An order that somebody came with, such as one that is late. */
const came = route.query.order;
watch(
  () => orders.value?.find((o) => o.order.id === came),
  (order) => order && !quote.value && open(order),
);
const question = computed(() => questionOf(draft, t("This order")));
const promise = usePromise(
  () => question.value,
  () => quote.value?.order.id,
);
const answer = computed(() => promise.answer.value);

const today = computed(() => (studio.value ? times.value.date(studio.value.now) : ""));
/** A week from today, unless somebody says otherwise. */
const until = ref("");
const holds = computed({
  get: () => until.value || (today.value ? plus(today.value, 7) : ""),
  set: (day: string) => (until.value = day),
});
const plus = (day: string, days: number) =>
  new Date(Date.parse(`${day}T00:00:00Z`) + days * 86_400_000).toISOString().slice(0, 10);

function open(q?: Schemas["OrderView"]) {
  quote.value = q;
  Object.assign(draft, draftOf(q?.order));
  until.value = q?.order.quoted?.until ?? "";
}

const send = useCommands();
const enter = useMutation({
  mutationFn: (state: "open" | "quote") =>
    send([state, draft, holds.value], (header) => {
      const lines = questionOf(draft, "")?.lines ?? [];
      const body = { ...bodyOf(draft), lines, state, promise: answer.value?.id };
      if (state === "quote")
        body.quoted = { until: holds.value, ready: answer.value?.outcome.ready, price: answer.value?.bill.price };
      const was = quote.value;
      if (!was) return answered(client.POST("/api/orders", { params: { header }, body }));
      return answered(
        client.PUT("/api/orders/{id}", {
          params: { path: { id: was.order.id }, header: { ...header, "If-Match": was.version } },
          body,
        }),
      );
    }),
  onSuccess: () => void router.push("/orders"),
});
const refused = computed(() => (enter.error.value instanceof Refused ? enter.error.value : undefined));
const flaw = (field: string) => refused.value?.at(field) ?? promise.refused.value?.at(field);
const ready = computed(() => !!answer.value && !promise.stale.value && !!person.value && draft.name.trim() !== "");

/** What has changed of a quote since it was given. */
const changed = computed(() => {
  const said = quote.value?.order.quoted;
  const a = answer.value;
  if (!said || !a || promise.stale.value) return [];
  const all: string[] = [];
  if (said.until && said.until < today.value)
    all.push(t("It held until {until}.", { until: times.value.wallDate(`${said.until}T12:00`) }));
  if (said.ready !== undefined && a.outcome.ready !== undefined && Math.abs(a.outcome.ready - said.ready) >= 60) {
    const by = lasting(a.outcome.ready - said.ready);
    all.push(
      a.outcome.ready > said.ready
        ? t("It would be ready {by} later than was said.", { by })
        : t("It would be ready {by} earlier than was said.", { by }),
    );
  }
  if (said.price !== undefined && manner.value.money && a.bill.price !== said.price)
    all.push(
      t("{price} was asked for it; it would be {now} today.", { price: money(said.price), now: money(a.bill.price) }),
    );
  return all.length ? all : [t("Nothing has changed since.")];
});
</script>

<template>
  <div class="station">
    <StationHead title="Promise check" says="Can we take this on? Nothing is entered until you say so.">
      <RouterLink class="add" to="/what-if">What if…</RouterLink>
    </StationHead>
    <div class="two">
      <form class="sheet asked" @submit.prevent>
        <OrderLines v-model="draft.lines" :flaw="flaw" />
        <div class="when">
          <v-text-field
            v-model="draft.leaves"
            label="Leaves the studio"
            name="leaves"
            type="datetime-local"
            :error-messages="flaw('leaves')"
          />
          <v-select
            v-model="draft.leaving"
            label="How"
            :items="['collected', 'delivered', 'posted'].map((value) => ({ value, title: word(value) }))"
          />
        </div>
        <v-text-field v-model="draft.name" label="Called" name="name" :error-messages="flaw('name')" />
        <v-text-field v-model="draft.allergies" label="Allergies, with commas" name="allergies" />
        <ProblemNote :error="enter.error.value" />
        <footer>
          <v-btn
            color="primary"
            data-test="promise-it"
            :disabled="!ready"
            :loading="enter.isPending.value"
            @click="enter.mutate('open')"
          >
            {{
              !quote ? $t("Promise it") : quote.order.state === "quote" ? $t("Make it an order") : $t("Save the change")
            }}
          </v-btn>
          <template v-if="quote?.order.state !== 'open'">
            <v-btn variant="tonal" data-test="keep-quote" :disabled="!ready" @click="enter.mutate('quote')">
              Keep it as a quote
            </v-btn>
            <v-text-field v-model="holds" label="Holds until" name="until" type="date" density="compact" />
          </template>
        </footer>
        <p v-if="!person" class="quiet">Say who is here first, at the top.</p>
        <p v-else-if="answer && !draft.name.trim()" class="quiet">What is it called? It can be entered then.</p>
        <template v-if="quotes.length">
          <h2 class="lesser">Quotes</h2>
          <button
            v-for="q in quotes"
            :key="q.order.id"
            type="button"
            class="bare quote"
            :class="{ chosen: quote?.order.id === q.order.id }"
            :data-test="`quote-${q.order.name}`"
            @click="open(q)"
          >
            <b>{{ q.order.name }}</b>
            <span class="quiet">
              {{ times.wall(q.order.leaves)
              }}<template v-if="q.order.quoted?.until">
                · {{ $t("holds until {until}", { until: times.wallDate(`${q.order.quoted.until}T12:00`) }) }}</template
              >
            </span>
          </button>
          <button v-if="quote" type="button" class="bare add" @click="open()">Ask for something new</button>
          <QuotesWeighed v-if="quotes.length > 1" :quotes="quotes" />
        </template>
      </form>
      <div>
        <ul v-if="changed.length" class="changed" data-test="quote-changed">
          <li v-for="c in changed" :key="c">{{ c }}</li>
        </ul>
        <PromiseAnswer :promise="promise" @later="draft.leaves = $event" @fewer="fewer(draft, $event)" />
        <FixList
          v-if="answer?.verdict === 'not' && question"
          :question="question"
          :id="quote?.order.id"
          :version="quote?.version"
          :name="draft.name.trim()"
          @taken="router.push('/orders')"
        />
      </div>
    </div>
  </div>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: minmax(460px, 0.9fr) minmax(0, 1.1fr);
  gap: 32px;
  align-items: start;
}
.asked {
  padding: 16px 20px;
}
.asked > .v-text-field {
  margin-bottom: 10px;
}
.when {
  display: grid;
  grid-template-columns: 1.3fr 1fr;
  gap: 10px;
  margin: 10px 0;
}
footer {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: center;
  margin-top: 10px;
}
footer .v-text-field {
  flex: 0 1 170px;
}
h2 {
  margin-top: 18px;
}
.quote {
  display: block;
  width: 100%;
  text-align: left;
  padding: 8px 10px;
  border-radius: 3px 10px;
}
.quote.chosen {
  background: var(--petal-wash);
}
.quote .quiet {
  display: block;
}
.changed {
  margin: 0 0 12px;
  padding: 10px 14px 10px 30px;
  background: var(--dust-wash);
}
.add {
  color: var(--leaf);
  font-weight: 650;
  padding: 6px 0;
}
@media (max-width: 980px) {
  .two {
    grid-template-columns: 1fr;
  }
}
</style>
