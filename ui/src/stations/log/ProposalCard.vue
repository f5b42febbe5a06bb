<script setup lang="ts">
import { useMutation, useQuery } from "@tanstack/vue-query";
import { computed, ref } from "vue";
import { answered, client, type Schemas, useCommands } from "../../api/client";
import RecordChart from "../../drawings/RecordChart.vue";
import { lasting } from "../../format";
import ProblemNote from "../../parts/ProblemNote.vue";
import { about, rests, sure, valued } from "./words";
import { t } from "../../words/said";

/** A standard that the record is clearly other than, to be accepted or kept. */
const props = defineProps<{ record: Schemas["RecordView"]; may: boolean }>();
const called = computed(() =>
  ["proposal", props.record.kind, props.record.of, props.record.skill].filter(Boolean).join("-"),
);
const send = useCommands();
const asked = ref(false);
const effect = useQuery({
  queryKey: ["effect", () => props.record.key],
  queryFn: () => answered(client.GET("/api/log/effect", { params: { query: { key: props.record.key } } })),
  enabled: asked,
});
const decide = useMutation({
  mutationFn: (how: "accept" | "refuse") =>
    send([how, props.record.key], (header) =>
      answered(client.POST(`/api/log/${how}`, { params: { header }, body: { key: props.record.key } })),
    ),
});
const says = computed(() => {
  const e = effect.data.value;
  if (!e) return "";
  const moved = e.differences.moved.length;
  const orders = e.orders
    .filter((o) => o.was?.slack !== undefined && o.is?.slack !== undefined && Math.abs(o.was.slack - o.is.slack) >= 30)
    .map((o) =>
      t(o.is!.slack! < o.was!.slack! ? "{name} {time} less slack" : "{name} {time} more slack", {
        name: o.name,
        time: lasting(o.is!.slack! - o.was!.slack!),
      }),
    );
  return [t("{n} task moves | {n} tasks move", moved), ...orders].join(", ");
});
</script>

<template>
  <article class="sheet proposal" :data-test="called">
    <div>
      <h2 class="lesser">{{ about(record) }}</h2>
      <p class="change">
        <span>{{ valued(record, record.standard) }}</span> → <b>{{ valued(record, record.found) }}</b>
      </p>
      <p class="quiet">{{ rests(record) }}, {{ sure(record) }}</p>
    </div>
    <RecordChart :record="record" />
    <div class="deciding">
      <ProblemNote :error="decide.error.value ?? effect.error.value" />
      <v-btn
        :disabled="!may"
        color="primary"
        data-test="accept"
        :loading="decide.isPending.value"
        @click="decide.mutate('accept')"
        >Make it the standard</v-btn
      >
      <v-btn variant="text" :disabled="!may" data-test="refuse" @click="decide.mutate('refuse')"
        >Keep the old one</v-btn
      >
      <p v-if="says" class="quiet" data-test="effect">{{ says }}.</p>
      <button v-else class="bare add" data-test="ask" @click="asked = true">What would it do to the plan?</button>
    </div>
  </article>
</template>

<style scoped>
.proposal {
  display: grid;
  grid-template-columns: minmax(220px, 1fr) 300px 250px;
  gap: 20px;
  align-items: center;
  padding: 12px 18px;
}
.proposal p {
  margin: 4px 0;
}
.change b {
  font-size: 1.4667rem;
}
.deciding {
  display: grid;
  gap: 4px;
  justify-items: start;
}
@media (max-width: 1000px) {
  .proposal {
    grid-template-columns: 1fr;
  }
}
</style>
