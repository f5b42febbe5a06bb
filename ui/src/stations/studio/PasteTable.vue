<script setup lang="ts">
import { useMutation } from "@tanstack/vue-query";
import { computed, ref, watch } from "vue";
import { answered, client, person, type Schemas, useCommands } from "../../api/client";
import { placeWords, type Row } from "../../parts/fields/fields";
import ProblemNote from "../../parts/ProblemNote.vue";
import TableText from "../../parts/TableText.vue";
import { effectLine } from "../../words/workshop";
import { columnsOf, pasted } from "./pasted";
import { fresh, type Sheet } from "./sheets";
import { word } from "../../words/said";
import { inWords } from "../../words/refusals";

/** Many things at once, from a spreadsheet: pasted, looked at line by line, taken in all or none. */
const props = defineProps<{
  kinds: { kind: string; title: string }[];
  sheets: Record<string, Sheet>;
  things: (kind: string) => Row[];
  usual: (kind: string) => Row[];
}>();
const emit = defineEmits<{ close: [] }>();
const send = useCommands();
const kind = ref("places");
const text = ref("");
const headings = computed(() =>
  columnsOf(props.sheets[kind.value]!)
    .map((c) => c.label)
    .filter((l, i, all) => all.indexOf(l) === i),
);
const table = computed(() =>
  pasted(text.value, props.sheets[kind.value]!, props.things(kind.value), props.usual(kind.value), fresh[kind.value]!),
);
const body = computed(() => ({
  things: table.value.rows.map((r) => ({ id: r.is.id as string, is: r.is, ...(r.was ? { was: r.was } : {}) })),
}));
const view = ref<Schemas["ManyView"]>();
watch([text, kind], () => (view.value = undefined));
const path = computed(() => ({ kind: kind.value }));
const look = useMutation({
  mutationFn: () =>
    answered(
      client.POST("/api/workshop/{kind}/many/preview", { params: { path: path.value }, body: body.value as never }),
    ),
  onSuccess: (answer) => (view.value = answer),
});
const take = useMutation({
  mutationFn: () =>
    send([kind.value, body.value], (header) =>
      answered(
        client.POST("/api/workshop/{kind}/many", { params: { header, path: path.value }, body: body.value as never }),
      ),
    ),
  onSuccess: () => {
    text.value = "";
    emit("close");
  },
});
const wrong = computed(() => view.value?.rows.filter((r) => r.state === "wrong").length ?? 0);
const brings = computed(() => view.value?.rows.some((r) => r.state === "new" || r.state === "changed"));
</script>

<template>
  <form class="sheet paste" data-test="paste" @submit.prevent="look.mutate()">
    <h2>From a spreadsheet</h2>
    <p>
      <label>
        A table of
        <select v-model="kind" class="own" data-test="paste-kind">
          <option v-for="k in kinds" :key="k.kind" :value="k.kind">{{ k.title }}</option>
        </select>
      </label>
    </p>
    <p class="quiet">Its first line names the columns, any of: {{ headings.join(", ") }}.</p>
    <p v-if="kind === 'people'" class="quiet">
      Skills with commas between; hours as in “Mon–Fri 9:00–17:00; Sat 10–14”.
    </p>
    <TableText v-model="text" test="paste-text" />
    <p v-if="table.unknown.length && text.trim()" class="word tight">
      Nothing is known of {{ table.unknown.map((u) => `“${u}”`).join(", ") }}: left out.
    </p>
    <table v-if="view" class="ledger" data-test="paste-rows">
      <tbody>
        <tr v-for="(r, i) in view.rows" :key="i" :class="r.state">
          <td>{{ table.rows[i]?.name }}</td>
          <td>
            <b>{{ word(r.state) }}</b>
            <span v-for="p in r.problems" :key="p.place" class="late">
              {{ placeWords(p.place) }} {{ inWords(p.message, p.says) }}</span
            >
          </td>
        </tr>
      </tbody>
    </table>
    <p v-if="view?.effect" class="does">
      <b>{{ effectLine(view.effect) }}</b>
    </p>
    <ProblemNote :error="look.error.value ?? take.error.value" />
    <p v-if="wrong" class="word late">{{ wrong }} of {{ view!.rows.length }} are wrong; nothing is taken in before.</p>
    <footer>
      <span class="grow" />
      <v-btn variant="text" @click="emit('close')">Leave it</v-btn>
      <v-btn v-if="!view" type="submit" color="primary" :disabled="!table.rows.length" data-test="paste-look">
        Look at it
      </v-btn>
      <v-btn
        v-else
        color="primary"
        :disabled="!!wrong || !brings || !person || take.isPending.value"
        data-test="paste-take"
        @click="take.mutate()"
      >
        Take it in
      </v-btn>
    </footer>
  </form>
</template>

<style scoped>
.paste {
  padding: 16px 20px;
}
.late {
  color: var(--late);
}
.does {
  padding: 8px 12px;
  background: var(--dust-wash);
  border-left: 4px solid var(--dust);
}
footer {
  display: flex;
  margin-top: 12px;
}
</style>
