<script setup lang="ts">
import { useMutation } from "@tanstack/vue-query";
import Papa from "papaparse";
import { reactive, ref, watch } from "vue";
import { answered, client, type Schemas, useCommands } from "../../api/client";
import { given, spokenUnit, stocked } from "../../format";
import { massScale } from "../../manner";
import { typed } from "../../number";
import { kept } from "../../parts/fields/fields";
import NumberField from "../../parts/NumberField.vue";
import ProblemNote from "../../parts/ProblemNote.vue";
import TableText from "../../parts/TableText.vue";

/** Counting what is there: figures are typed as they are found, compared, and accepted. */
interface Thing {
  id: string;
  length: number;
  name: string;
  unit: string;
  amount: number;
}
const props = defineProps<{ title: string; things: Thing[] }>();
const emit = defineEmits<{ close: [] }>();
const send = useCommands();
const found = reactive<Record<string, number | undefined>>({});
const key = (t: { id: string; length?: number }) => `${t.id}/${t.length ?? 0}`;
// What the books said when counting began: what moves meanwhile is said.
const things = ref(props.things);

const counts = (): Schemas["Counted"][] =>
  things.value
    .filter((t) => found[key(t)] !== undefined)
    .map((t) => ({
      id: t.id,
      ...(t.length ? { lengthMicrometres: t.length } : {}),
      amount: given(found[key(t)] as number, t.unit),
      seen: t.amount,
    }));
/** A table from a spreadsheet, a name and an amount a line, fills what is found; names that are not here are told. */
const strangers = ref<string[]>([]);
const table = ref("");
watch(table, fill);
function fill(text: string) {
  strangers.value = [];
  for (const cells of Papa.parse<string[]>(text.trim(), { skipEmptyLines: "greedy" }).data) {
    const [name = "", ...rest] = cells.map((c) => c.trim());
    const thing = things.value.find((t) => t.name.toLowerCase() === name.toLowerCase());
    const amount = rest.filter(Boolean).at(-1) ?? "";
    const said =
      thing?.unit === "mg"
        ? (kept({ key: "", label: "", kind: "g" }, amount) as number) / massScale()
        : typed(amount.replace(/\s*[a-zA-Z]+$/, ""));
    if (thing && Number.isFinite(said)) found[key(thing)] = Number(said.toFixed(3));
    else strangers.value.push(name);
  }
}
const compare = useMutation({
  mutationFn: () => answered(client.POST("/api/stores/differences", { body: { counts: counts() } })),
});
const accept = useMutation({
  mutationFn: () =>
    send(counts(), (header) =>
      answered(client.POST("/api/stores/count", { params: { header }, body: { counts: counts() } })),
    ),
  onSuccess: () => emit("close"),
});
</script>

<template>
  <v-dialog :model-value="true" :aria-label="title" max-width="640" persistent @keydown.esc="emit('close')">
    <div class="sheet opened" data-test="stock-taking">
      <h2>{{ title }}</h2>
      <p class="quiet">Type what you find; leave open what you do not count. Nothing is booked before you accept.</p>
      <details v-if="!compare.data.value">
        <summary>From a spreadsheet</summary>
        <TableText v-model="table" :rows="4" test="paste-stock" />
        <p v-if="strangers.length" class="word tight">Not known or not read: {{ strangers.join(", ") }}</p>
      </details>
      <table v-if="!compare.data.value" class="ledger">
        <tbody>
          <tr v-for="t in things" :key="key(t)">
            <td>{{ t.name }}</td>
            <td class="n">
              <NumberField
                v-model="found[key(t)]"
                :aria-label="$t('found of {name}', { name: t.name })"
                :data-test="`found-${t.name}`"
              />
              {{ t.unit === "pieces" ? "" : spokenUnit(t.unit) }}
            </td>
          </tr>
        </tbody>
      </table>
      <table v-else class="ledger">
        <thead>
          <tr>
            <th>counted</th>
            <th class="n">books</th>
            <th class="n">found</th>
            <th class="n">difference</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="d in compare.data.value" :key="key({ id: d.id, length: d.lengthMicrometres })">
            <td>{{ d.name }}</td>
            <td class="n">{{ stocked(d.books, d.unit) }}</td>
            <td class="n">{{ stocked(d.found, d.unit) }}</td>
            <td class="n">
              <b v-if="d.found !== d.books"
                >{{ d.found > d.books ? "+" : "−" }}{{ stocked(Math.abs(d.found - d.books), d.unit) }}</b
              >
              <span v-else class="word safe">as booked</span>
            </td>
          </tr>
        </tbody>
      </table>
      <ProblemNote :error="compare.error.value ?? accept.error.value" />
      <footer>
        <v-btn variant="text" @click="emit('close')">Leave it</v-btn>
        <template v-if="!compare.data.value">
          <v-btn color="primary" :disabled="!counts().length" data-test="compare" @click="compare.mutate()"
            >See the differences</v-btn
          >
        </template>
        <template v-else>
          <v-btn variant="tonal" @click="compare.reset()">Count on</v-btn>
          <v-btn color="primary" data-test="accept-count" @click="accept.mutate()">Accept, and book it</v-btn>
        </template>
      </footer>
    </div>
  </v-dialog>
</template>
