<script setup lang="ts">
import { useMutation } from "@tanstack/vue-query";
import { defineAsyncComponent } from "vue";
import { answered, client, type OrderView, person, type Schemas, useCommands } from "../../api/client";
import { useStudio } from "../../api/queries";
import PartDrawing from "../../drawings/PartDrawing.vue";
import Swatch from "../../drawings/Swatch.vue";
import { useTimes } from "../../format";
import ProblemNote from "../../parts/ProblemNote.vue";
import SafetyWord from "../../parts/SafetyWord.vue";
import { metWords } from "../../words/allergies";
import { approvalWords } from "../../words/approvals";
import { hourGives, lateBy, sure } from "../../words/chances";
import { fellBecause, fellBy } from "../../words/falls";
import { word } from "../../words/said";
import { waitedFor } from "../plan/because";

/** Of few orders, and where somebody asks. */
const ChanceGrains = defineAsyncComponent(() => import("../../drawings/ChanceGrains.vue"));
const OrderBuys = defineAsyncComponent(() => import("../OrderBuys.vue"));

/** All of one order: what it is, how it stands, what it hangs on and what may be done about it. */
const props = defineProps<{ order: OrderView; chance?: Schemas["ChanceView"] }>();
const emit = defineEmits<{ edit: [] }>();
const { data: studio } = useStudio();
const times = useTimes();
const send = useCommands();
type Said = "sent" | "approved" | "another";
/** How far the client's approval of a sample is. */
const answer = useMutation({
  mutationFn: ({ approval, state }: { approval: string; state: Said }) =>
    send([props.order.order.id, props.order.version, approval, state], (header) =>
      answered(
        client.POST("/api/orders/{id}/approvals/{approval}", {
          params: {
            path: { id: props.order.order.id, approval },
            header: { ...header, "If-Match": props.order.version },
          },
          body: { state },
        }),
      ),
    ),
});
const say = (approval: string, state: Said) => answer.mutate({ approval, state });
const flower = (id: string) => studio.value?.flowers.find((f) => f.id === id);
const colourway = (id: string) => studio.value?.colourways.find((c) => c.id === id);
</script>

<template>
  <article class="sheet ticket" :data-test="`order-${order.order.name}`">
    <div class="leaves">
      <span class="quiet">leaves</span>
      <strong>{{ times.wallDay(order.order.leaves) }}</strong><strong>{{ times.wallClock(order.order.leaves) }}</strong>
      <span class="quiet">{{ word(order.order.leaving) }}</span>
    </div>
    <div class="what">
      <h2>
        <button class="bare" :data-test="`open-${order.order.name}`" @click="emit('edit')">
          {{ order.order.name }}
        </button>
        <span v-if="order.order.state === 'quote'" class="word plain">quote only</span>
        <span v-if="order.order.state === 'cancelled'" class="word plain">cancelled, awaits acceptance</span>
        <span v-else-if="order.pending" class="word tight">awaits acceptance</span>
        <span class="ways no-print">
          <button class="bare add" data-test="change-order" @click="emit('edit')">Change it…</button>
          <slot />
        </span>
      </h2>
      <p class="quiet">
        {{ order.order.occasion
        }}<template v-if="order.order.allergies.length">
          · <b class="allergy">no {{ order.order.allergies.join($t(", no ")) }}</b></template
        >
      </p>
      <p
        v-for="m in order.met"
        :key="m.material + m.into + m.of"
        class="allergy"
        :data-test="`met-${order.order.name}`"
      >
        {{ metWords(m) }}
      </p>
      <p v-if="order.uncompared.length" class="allergy">
        {{ $t("No material says whether it holds {what}.", { what: order.uncompared.join(", ") }) }}
      </p>
      <p v-for="a in order.approvals" :key="a.id" class="approval" :data-test="`approval-${order.order.name}`">
        {{ approvalWords(a, times) }}
        <template v-if="person && (a.state === 'to-make' || a.state === 'sent')">
          <button v-if="a.state === 'to-make'" class="bare add" @click="say(a.id, 'sent')">It is sent</button>
          <button class="bare add" data-test="approve" @click="say(a.id, 'approved')">Approved</button>
          <button class="bare add" @click="say(a.id, 'another')">They want another</button>
        </template>
        <RouterLink v-if="a.state === 'another'" class="add" to="/stores?view=Change of mind"
          >What becomes of it?</RouterLink
        >
      </p>
      <ul>
        <li v-for="l in order.order.lines" :key="l.id">
          <PartDrawing :form="flower(l.recipe)?.form" :colour="flower(l.recipe)?.colours[l.colourway]" :size="30" />
          <b>{{ l.quantity }}</b> {{ flower(l.recipe)?.name }}<template v-if="l.variant">, {{ l.variant }}</template>
          <span class="quiet">
            <Swatch v-for="(c, i) in colourway(l.colourway)?.swatches" :key="i" :colour="c" :size="12" />
            {{ colourway(l.colourway)?.name ?? $t("its own colours")
            }}<template v-if="l.gone">, {{ l.gone }} have left</template>
          </span>
        </li>
      </ul>
    </div>
    <div v-if="order.outcome" class="standing">
      <SafetyWord class="slack" :outcome="order.outcome" />
      <span v-if="order.fell" class="quiet" :data-test="`fell-${order.order.name}`">
        {{ fellBy(order.fell) }} {{ times.moment(order.fell.at) }}: {{ fellBecause(order.fell) }}
      </span>
      <div v-if="chance" class="chance" :data-test="`chance-${order.order.name}`">
        <b>{{ sure(chance) }}</b>
        <ChanceGrains :chance="chance" />
        <span class="quiet">{{ lateBy(chance) }} {{ hourGives(chance) }}</span>
      </div>
      <OrderBuys v-if="order.buys.length" :order="order" />
      <span class="quiet">
        ready {{ order.outcome.ready === undefined ? $t("never") : times.full(order.outcome.ready) }}, wanted by
        {{ times.full(order.outcome.readyBy) }}
      </span>
      <p v-if="order.earliestLeave" class="earliest" data-test="earliest">
        Could leave {{ times.wall(order.earliestLeave) }} at the earliest.
      </p>
      <RouterLink class="add" :to="`/orders/${order.order.id}/sheet`" :data-test="`sheet-${order.order.name}`"
        >Packing and hand-over</RouterLink
      >
      <RouterLink
        v-if="order.outcome.late > 0"
        class="add"
        :to="`/promise?order=${order.order.id}`"
        :data-test="`help-${order.order.name}`"
        >What would help?</RouterLink
      >
      <p v-if="order.limit" class="limit">
        Hangs on <b>{{ order.limit.name }}</b>, {{ order.limit.of }} ({{ times.moment(order.limit.start) }}):
        {{
          order.limit.cause === "now" || !order.limit.cause
            ? $t("it begins at once")
            : $t("it waits for {toOrder}", {
                toOrder: waitedFor(order.limit.cause, order.limit.short, order.limit.toOrder),
              })
        }}.
      </p>
      <div
        class="stalk"
        :title="$t('{tasksDone} of {tasksAll} tasks done', { tasksDone: order.tasksDone, tasksAll: order.tasksAll })"
      >
        <i :style="{ width: `${order.tasksAll ? (100 * order.tasksDone) / order.tasksAll : 0}%` }" />
        <span class="quiet">{{ order.tasksDone }} of {{ order.tasksAll }} tasks done</span>
      </div>
    </div>
    <p v-else-if="order.order.state === 'open' && !order.pending" class="quiet" data-test="distant">
      Counted and planned when its time comes.
    </p>
    <ProblemNote :error="answer.error.value" />
  </article>
</template>

<style scoped>
.ticket {
  display: grid;
  grid-template-columns: 132px minmax(240px, 1.1fr) minmax(230px, 1fr);
  gap: 22px;
  padding: 16px 20px;
}
.chance {
  margin: 4px 0;
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
.ways {
  display: flex;
  gap: 16px;
  font: 400 0.9333rem var(--count);
}
.allergy {
  color: var(--late);
}
.what ul {
  list-style: none;
  padding: 0;
  margin: 8px 0 0;
  display: grid;
  gap: 2px;
}
.what li {
  display: flex;
  align-items: center;
  gap: 7px;
}
.what li b {
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
  color: var(--late);
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
@media (max-width: 980px) {
  .leaves {
    border: 0;
  }
  .ticket {
    grid-template-columns: 1fr;
    gap: 8px;
  }
}
</style>
