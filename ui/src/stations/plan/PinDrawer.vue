<script setup lang="ts">
import { computed, watch } from "vue";
import { useMutation, useQuery } from "@tanstack/vue-query";
import { answered, type Block, client, command, person, type PlanView } from "../../api/client";
import { lasting, useTimes } from "../../format";
import { changes, fares } from "../../parts/differences";
import DearNote from "../../parts/DearNote.vue";
import ProblemNote from "../../parts/ProblemNote.vue";
import { unplacedWords } from "../../words";
import type { Draft } from "./draft";

/** A task as somebody has moved it on the board: what that would do, before it is done. */
const props = defineProps<{ draft: Draft; block: Block; plan: PlanView }>();
const emit = defineEmits<{ close: []; pinned: [accepted: boolean]; move: [start: number] }>();
const times = useTimes();
const who = (id?: string) => props.plan.people.find((p) => p.id === id)?.name ?? "";

const wish = computed(() => ({ person: props.draft.person, start: props.draft.start }));
const {
  data: tried,
  error,
  isFetching,
} = useQuery({
  queryKey: ["plan", "try", () => props.draft.task, wish],
  queryFn: () =>
    answered(client.POST("/api/tasks/{task}/try", { params: { path: { task: props.draft.task } }, body: wish.value })),
  retry: false,
});
const pin = useMutation({
  mutationFn: () =>
    answered(
      client.POST("/api/tasks/{task}/pin", {
        params: { header: command(), path: { task: props.draft.task } },
        body: wish.value,
      }),
    ),
  onSuccess: (answer) => emit("pinned", answer.accepted),
});
const holds = computed(() => !isFetching.value && tried.value?.trial.holds === true);
const orders = computed(() =>
  (tried.value?.trial.differences.orders ?? []).map((o) => ({
    ...o,
    name: tried.value?.names.find((n) => n.id === o.order)?.name ?? "",
  })),
);
function confirm() {
  if (holds.value && person.value) pin.mutate();
}
watch(
  () => props.draft.confirmed,
  (now) => now && confirm(),
);
</script>

<template>
  <aside class="drawer" data-test="pin-drawer">
    <h2>{{ block.name }}</h2>
    <p>{{ block.of }}</p>
    <p>
      <b>{{ who(draft.person || block.person) }}</b>,
      <b>{{ draft.start === undefined ? $t("when it suits the plan") : times.moment(draft.start) }}</b> <br /><span
        class="quiet"
        >now {{ who(block.person) }}, {{ times.moment(block.from) }}</span
      >
    </p>
    <DearNote v-if="isFetching" what="Looking at what that moves…" />
    <div v-else-if="tried" aria-live="polite" data-test="verdict">
      <p v-if="!tried.trial.holds && tried.why" class="cannot">
        It cannot be so: {{ unplacedWords(tried.why, times.full) }}.
        <button
          v-if="tried.trial.nearest !== undefined"
          class="bare add"
          data-test="nearest"
          @click="emit('move', tried.trial.nearest)"
        >
          It could begin {{ times.full(tried.trial.nearest) }}
        </button>
      </p>
      <template v-else>
        <p><span class="word safe">It can</span> {{ changes(tried.trial.differences) }}.</p>
        <p v-for="o in orders" :key="o.order">
          <b>{{ o.name }}</b> {{ fares(o) }}
        </p>
        <p v-if="tried.trial.dropped.length" class="cannot">
          {{ tried.trial.dropped.length }} tasks would be left without a place.
        </p>
      </template>
    </div>
    <ProblemNote :error="error ?? pin.error.value" />
    <div class="does">
      <v-btn
        color="primary"
        data-test="confirm-pin"
        :disabled="!holds || !person"
        :loading="pin.isPending.value"
        @click="confirm"
        >Pin it so</v-btn
      >
      <v-btn variant="text" data-test="leave-pin" @click="emit('close')">Leave it</v-btn>
    </div>
    <p class="quiet">
      Alt with the arrow keys moves it by a quarter of an hour or to another maker, Enter pins, Esc leaves it. What
      would move other tasks waits for your acceptance.
      <template v-if="draft.start !== undefined">Its time is {{ lasting(draft.start - block.from) }} off.</template>
    </p>
  </aside>
</template>

<style scoped>
p {
  margin: 6px 0;
}
.cannot {
  color: var(--late);
  font-weight: 650;
}
.does {
  display: flex;
  gap: 8px;
  margin: 14px 0 10px;
}
</style>
