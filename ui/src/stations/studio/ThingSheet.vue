<script setup lang="ts">
import { useMutation, useQuery } from "@tanstack/vue-query";
import { useDebounceFn } from "@vueuse/core";
import { computed, ref, watch } from "vue";
import { answered, client, person, Refused, type Schemas, useCommands } from "../../api/client";
import { useStudio } from "../../api/queries";
import FieldGrid from "../../parts/fields/FieldGrid.vue";
import { at, type Row } from "../../parts/fields/fields";
import RowsTable from "../../parts/fields/RowsTable.vue";
import ProblemNote from "../../parts/ProblemNote.vue";
import { useTimes } from "../../format";
import DoesNote from "./DoesNote.vue";
import type { Sheet } from "./sheets";

/** One thing of the workshop: all that is said of it, and what a change would do before it counts. */
const props = defineProps<{ kind: string; thing: Row; isNew: boolean; sheet: Sheet; title: string }>();
const emit = defineEmits<{ close: []; saved: [id: string] }>();
const { data: studio } = useStudio();
const times = useTimes();
const send = useCommands();
const { data: uses } = useQuery({
  queryKey: ["workshop", "uses", props.thing.id],
  queryFn: () => answered(client.GET("/api/workshop/{kind}/{id}/uses", { params: { path: path.value } })),
  enabled: () => !props.isNew,
});

const copy = (row: Row) => JSON.parse(JSON.stringify(row)) as Row;
const draft = ref<Row>(copy(props.thing));
const seen = ref<Row>(copy(props.thing));
const same = computed(() => JSON.stringify(draft.value) === JSON.stringify(seen.value));
watch(
  () => props.thing,
  (is) => {
    if (same.value || is.id !== seen.value.id) draft.value = copy(is);
    seen.value = copy(is);
    effect.value = undefined;
  },
);

const body = (is?: Row) => ({ ...(props.isNew ? {} : { was: seen.value }), ...(is ? { is } : {}) });
const path = computed(() => ({ kind: props.kind, id: props.thing.id as string }));
const effect = ref<Schemas["Effect"]>();
const flaws = ref<unknown>();
const look = useMutation({
  mutationFn: (is: Row) =>
    answered(
      client.POST("/api/workshop/{kind}/{id}/preview", { params: { path: path.value }, body: body(is) as never }),
    ),
  onSuccess: (answer) => ((effect.value = answer), (flaws.value = undefined)),
  onError: (error) => ((effect.value = undefined), (flaws.value = error)),
});
const lookSoon = useDebounceFn(() => same.value || look.mutate(draft.value), 500);
watch(draft, () => {
  effect.value = undefined;
  void lookSoon();
});

const write = useMutation({
  mutationFn: (is: Row | undefined) =>
    send([path.value, body(is)], (header) =>
      answered(
        client.PUT("/api/workshop/{kind}/{id}", { params: { header, path: path.value }, body: body(is) as never }),
      ),
    ),
  onSuccess: (_, is) => {
    if (is) {
      seen.value = copy(is);
      draft.value = copy(is);
      emit("saved", path.value.id);
    } else emit("close");
  },
});
const flaw = (key: string) => {
  const error = write.error.value ?? flaws.value;
  return error instanceof Refused ? error.at(key) : undefined;
};
const unsaid = computed(() => {
  const error = write.error.value ?? flaws.value;
  if (!(error instanceof Refused)) return error;
  return error.fields.length && error.fields.every((f) => onSheet(f.location.replace("body.", ""))) ? undefined : error;
});
const onSheet = (key: string) =>
  props.sheet.columns.some((c) => c.key === key) || props.sheet.lines.some((l) => key.startsWith(l.key));
const lineFlaw = (lines: string) => (index: number, key: string) => flaw(`${lines}[${index}].${key}`);

/** Days away in one touch. */
const today = computed(() => times.value.date(studio.value?.now ?? 0));
const after = (days: number) => new Date(Date.parse(today.value) + days * 86_400_000).toISOString().slice(0, 10);
function awayFor(days: number) {
  const whole = Array.from({ length: days }, (_, i) => after(i));
  draft.value = { ...draft.value, away: [...new Set([...((draft.value.away as string[]) ?? []), ...whole])].sort() };
}
/** Away from now on for so many minutes, at most for the rest of the day. */
function awayUntil(minutes: number) {
  const now = studio.value?.now ?? 0;
  const left = Math.ceil((Date.parse(`${after(1)}T00:00Z`) - wallNow()) / 60_000);
  const span = { from: now, to: now + Math.min(minutes, left) };
  draft.value = { ...draft.value, awayTimes: [...((draft.value.awayTimes as object[]) ?? []), span] };
}
/** Days and times away out of an iCalendar file, beside those that are known. */
const calendar = useMutation({
  mutationFn: (file: File) =>
    answered(
      client.POST("/api/workshop/calendar", {
        body: file as never,
        bodySerializer: (raw) => raw as never,
        headers: { "Content-Type": "application/octet-stream" },
      }),
    ),
  onSuccess: ({ away, awayTimes }) => {
    const days = [...new Set([...((draft.value.away as string[]) ?? []), ...away])].sort();
    const known = ((draft.value.awayTimes as { from: number; to: number }[]) ?? []).map((t) => JSON.stringify(t));
    const times = [...new Set([...known, ...awayTimes.map((t) => JSON.stringify(t))])].map(
      (t) => JSON.parse(t) as object,
    );
    draft.value = {
      ...draft.value,
      ...(days.length ? { away: days } : {}),
      ...(times.length ? { awayTimes: times } : {}),
    };
  },
});
function readCalendar(event: Event) {
  const file = (event.target as HTMLInputElement).files?.[0];
  if (file) calendar.mutate(file);
}
const wallNow = () => Date.parse(`${today.value}T${times.value.clock(studio.value?.now ?? 0)}Z`);
</script>

<template>
  <form class="sheet thing" data-test="thing" @submit.prevent="write.mutate(draft)">
    <h2>{{ isNew ? title : (seen.name as string) }}</h2>
    <p v-if="kind === 'people' && !isNew" class="touches">
      <button type="button" class="touch" data-test="ill-today" @click="awayFor(1)">Away today</button>
      <button type="button" class="touch" data-test="leaves-now" @click="awayUntil(24 * 60)">Leaves now</button>
      <button type="button" class="touch" @click="awayUntil(60)">An hour late</button>
      <button type="button" class="touch" @click="awayFor(7)">Away for a week</button>
      <label class="touch file">
        From a calendar file…
        <input type="file" accept=".ics,text/calendar" data-test="calendar-file" @change="readCalendar" />
      </label>
    </p>
    <FieldGrid name="thing" :row="draft" :columns="sheet.columns" :flaws="flaw" @row="draft = $event" />
    <RowsTable
      v-for="l in sheet.lines"
      :key="l.key"
      :name="l.key"
      :title="l.title"
      :rows="(at(draft, l.key) as Row[]) ?? []"
      :columns="l.columns"
      :more="l.more"
      :fresh="l.fresh"
      :fixed="l.fixed"
      :label="l.label"
      :flaws="lineFlaw(l.key)"
      @rows="draft = { ...draft, [l.key]: $event }"
    />
    <p v-if="kind === 'materials' && !isNew" class="quiet">
      What is there is counted in <RouterLink class="add" to="/stores">Stores</RouterLink>.
    </p>
    <details v-if="!isNew && uses?.length" class="uses">
      <summary>Used by {{ $t("{n} thing | {n} things", uses.length) }}</summary>
      {{ [...new Set(uses.map((u) => u.name))].join(", ") }}
    </details>
    <ProblemNote :error="calendar.error.value ?? unsaid" />
    <div class="foot">
      <DoesNote v-if="!same" :effect="effect" :pending="look.isPending.value" />
      <footer>
        <v-btn
          v-if="!isNew"
          variant="text"
          data-test="thing-remove"
          :disabled="!person || write.isPending.value"
          @click="write.mutate(undefined)"
        >
          Remove it
        </v-btn>
        <span class="grow" />
        <v-btn variant="text" data-test="thing-leave" @click="emit('close')">Leave it</v-btn>
        <v-btn
          type="submit"
          color="primary"
          data-test="thing-save"
          :disabled="(same && !isNew) || !person || write.isPending.value"
        >
          {{ isNew ? $t("Add it") : $t("Change it so") }}
        </v-btn>
      </footer>
    </div>
    <p v-if="!person" class="quiet">Say who is here first (top right).</p>
  </form>
</template>

<style scoped>
.thing {
  padding: 16px 20px 0;
}
h2 {
  margin-bottom: 8px;
}
.touches {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.touch {
  min-height: 40px;
  padding: 0 12px;
  white-space: nowrap;
  font: 600 1rem var(--count);
  color: var(--ink);
  background: var(--marble);
  border: 1.5px solid var(--vein);
  border-radius: 3px 14px;
  cursor: pointer;
}
.foot {
  position: sticky;
  bottom: 0;
  background: var(--sheet);
  padding-bottom: 10px;
}
.file {
  display: flex;
  align-items: center;
}
.file input {
  width: 0;
  opacity: 0;
}
.file:focus-within {
  border-color: var(--ink);
}
footer {
  display: flex;
  margin-top: 12px;
}
</style>
