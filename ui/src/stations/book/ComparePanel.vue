<script setup lang="ts">
import { useQuery } from "@tanstack/vue-query";
import { computed, ref, watch } from "vue";
import { answered, client, type Schemas } from "../../api/client";
import FlowerPortrait from "../../drawings/FlowerPortrait.vue";
import ProblemNote from "../../parts/ProblemNote.vue";
import { totalWords } from "../../words";
import { placeWords, valueWords } from "../../parts/fields/fields";
import { amount } from "../../words/differences";
import type { Writing } from "./writing";
import { t } from "../../words/said";

/** Two recipes, or two ways of one, side by side. */
const props = defineProps<{ w: Writing; pages: Schemas["Page"][] }>();
const way = ref("");
const other = ref(props.w.chosen.value);
const otherWay = ref("");
const recipe = computed(() => props.w.base.value);

/** The ways of a recipe as one list: itself, its variants, the schools of its techniques. */
function ways(id: string) {
  const r = props.w.recipes.value.find((x) => x.id === id);
  const variants = r
    ? (r.variants ?? []).map((v) => v.name)
    : (props.pages.find((p) => p.recipe === id)?.variants ?? []);
  return [
    { title: t("as it is"), value: "" },
    ...variants.map((v) => ({ title: v, value: `v:${v}` })),
    ...(r?.techniques ?? []).flatMap((t) =>
      t.schools.map((s) => ({ title: `${t.question}: ${s.name}`, value: `t:${t.question}:${s.name}` })),
    ),
  ];
}
watch(
  () => props.w.chosen.value,
  (now) => {
    other.value = now;
    way.value = "";
    otherWay.value = ways(now)[1]?.value ?? "";
  },
  { immediate: true },
);
function side(id: string, w: string): Schemas["Way"] {
  if (w.startsWith("v:")) return { recipe: id, variant: w.slice(2) };
  const [, question, ...school] = w.split(":");
  return w ? { recipe: id, question, school: school.join(":") } : { recipe: id };
}
const body = computed(() => ({
  recipes: props.w.changed.value,
  colourway: props.w.colourway.value || undefined,
  one: side(recipe.value?.id ?? "", way.value),
  other: side(other.value, otherWay.value),
}));
const { data, error } = useQuery({
  queryKey: ["compared", body],
  queryFn: () => answered(client.POST("/api/book/compare", { body: body.value })),
  placeholderData: (before: Schemas["Compared"] | undefined) => before,
  gcTime: 0,
});
const pieces = computed(() => {
  const all = new Map(props.pages.filter((p) => p.kind === recipe.value?.kind).map((p) => [p.recipe, p.name]));
  for (const r of props.w.recipes.value) if (r.kind === recipe.value?.kind) all.set(r.id, r.name);
  return [...all].sort((a, b) => a[1].localeCompare(b[1]));
});
</script>

<template>
  <ProblemNote :error="error" />
  <div class="sides" data-test="compared">
    <section>
      <h3>{{ recipe?.name }}</h3>
      <select v-model="way" aria-label="One way">
        <option v-for="x in ways(recipe?.id ?? '')" :key="x.value" :value="x.value">{{ x.title }}</option>
      </select>
      <div class="drawn"><FlowerPortrait v-if="data?.one" :of="data.one.portrait" /></div>
    </section>
    <section>
      <select v-model="other" name="compare-with" aria-label="The other recipe">
        <option v-for="[id, name] in pieces" :key="id" :value="id">{{ name }}</option>
      </select>
      <select v-model="otherWay" name="compare-way" aria-label="The other way">
        <option v-for="x in ways(other)" :key="x.value" :value="x.value">{{ x.title }}</option>
      </select>
      <div class="drawn"><FlowerPortrait v-if="data?.other" :of="data.other.portrait" /></div>
    </section>
    <section class="lists">
      <table v-if="data?.differences.length" class="ledger">
        <thead>
          <tr>
            <th>one flower</th>
            <th class="n">first</th>
            <th class="n">second</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="d in data.differences" :key="d.what + d.of">
            <td>{{ totalWords(d) }}</td>
            <td class="n">{{ amount(d.was, d.unit) }}</td>
            <td class="n">{{ amount(d.is, d.unit) }}</td>
          </tr>
        </tbody>
      </table>
      <p v-else class="quiet">They come to the same.</p>
      <details v-if="data?.changes.length">
        <summary>{{ data.changes.length }} things are written otherwise</summary>
        <ul>
          <li v-for="c in data.changes" :key="c.place" class="quiet">
            {{ placeWords(c.place) }}: {{ valueWords(c.place, c.was) }} → {{ valueWords(c.place, c.is) }}
          </li>
        </ul>
      </details>
    </section>
  </div>
</template>

<style scoped>
.sides {
  display: grid;
  grid-template-columns: 1fr 1fr 1.2fr;
  gap: 18px;
}
.drawn {
  height: 230px;
}
select {
  font: inherit;
  border: 0;
  border-bottom: 1px solid var(--vein);
  background: none;
  color: inherit;
  max-width: 100%;
}
.lists {
  font-size: 0.9333rem;
}
</style>
