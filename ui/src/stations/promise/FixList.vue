<script setup lang="ts">
import { useMutation } from "@tanstack/vue-query";
import { computed, watch } from "vue";
import { answered, client, person, type Schemas, useCommands } from "../../api/client";
import { lasting, money, useTimes } from "../../format";
import { manner } from "../../manner";
import DearNote from "../../parts/DearNote.vue";
import ProblemNote from "../../parts/ProblemNote.vue";
import { t } from "../../words/said";
import { asksOf, helpful } from "./saying";

/** What would help an order, smallest first, with what it brings and costs and whom it hurts; done in one touch. */
const props = defineProps<{ question: Schemas["OrderBody"]; id?: string; version?: number; name: string }>();
const emit = defineEmits<{ taken: [] }>();
const times = useTimes();

const find = useMutation({
  mutationFn: () => answered(client.POST("/api/promise/fixes", { body: { ...props.question, id: props.id } })),
});
watch(
  () => JSON.stringify(props.question),
  () => find.reset(),
);
const fixes = computed(() => find.data.value);

const send = useCommands();
const take = useMutation({
  mutationFn: (fix: Schemas["FixView"]) =>
    send([fix.id, props.question, props.name], (header) =>
      answered(
        client.POST("/api/promise/fixes/{id}/take", {
          params: { path: { id: fix.id }, header },
          body: { ...props.question, name: props.name, seen: props.version },
        }),
      ),
    ),
  onSuccess: () => emit("taken"),
});
/** What it brings and takes, in a line. */
function brings(f: Schemas["FixView"]): string {
  const words = [
    f.kept
      ? t("in time, with {slack} in hand", { slack: lasting(f.outcome.slack ?? 0) })
      : f.outcome.slack === undefined
        ? t("not enough")
        : f.outcome.late > 0
          ? t("{late} late still", { late: lasting(f.outcome.late) })
          : t("in time itself"),
  ];
  if (manner.value.money && f.cost >= 100) words.push(t("costs {cost}", { cost: money(f.cost) }));
  if (f.harms.length) words.push(t("late by it: {names}", { names: f.harms.map((h) => h.name).join(", ") }));
  if (f.moves.told)
    words.push(t("{n} task of the next two days moves | {n} tasks of the next two days move", f.moves.told));
  return words.join(" · ");
}
</script>

<template>
  <section class="help" data-test="fixes">
    <v-btn v-if="!fixes" variant="tonal" data-test="find-fixes" :loading="find.isPending.value" @click="find.mutate()">
      What would help?
    </v-btn>
    <DearNote v-if="find.isPending.value" what="Trying what you would try." />
    <ProblemNote :error="find.error.value ?? take.error.value" />
    <p v-if="fixes && !fixes.length" class="quiet">
      Nothing that was tried is enough: more hours, more formers, fewer spares, other orders later, a part of it later.
    </p>
    <ol v-if="fixes?.length">
      <li v-for="(f, i) in fixes" :key="f.id" :class="{ enough: f.kept }" :data-test="`fix-${i}`">
        <div>
          <b v-for="c in f.changes" :key="`${c.kind}${c.of}`">{{ helpful(c, times) }}</b>
          <span class="quiet">{{ brings(f) }}</span>
          <span v-for="c in f.changes" :key="`${c.kind}${c.of}asks`" class="quiet">{{ asksOf(c.kind) }}</span>
        </div>
        <v-btn
          v-if="f.kept"
          variant="tonal"
          :disabled="!person || !name || take.isPending.value"
          :data-test="`take-fix-${i}`"
          @click="take.mutate(f)"
        >
          With this
        </v-btn>
      </li>
    </ol>
  </section>
</template>

<style scoped>
.help {
  margin: 16px 0 0 22px;
}
ol {
  list-style: none;
  padding: 0;
  margin: 8px 0;
}
li {
  display: flex;
  gap: 14px;
  align-items: center;
  justify-content: space-between;
  padding: 9px 0;
  border-top: 1px solid var(--vein);
}
li b,
li .quiet {
  display: block;
}
li:not(.enough) b {
  font-weight: 500;
  color: var(--soft);
}
</style>
