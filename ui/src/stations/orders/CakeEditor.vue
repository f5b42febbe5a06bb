<script setup lang="ts">
import { computed, ref } from "vue";
import type { Schemas } from "../../api/client";
import { useStudio, useWorkshop } from "../../api/queries";
import CakeDrawing from "../../drawings/CakeDrawing.vue";
import type { Column } from "../../parts/fields/column";
import type { Row } from "../../parts/fields/fields";
import RowsTable from "../../parts/fields/RowsTable.vue";
import { typed } from "../../number";
import { findingWords } from "../../words/placings";
import { t } from "../../words/said";
import { useLineColours } from "./colours";
import type { DraftLine } from "./draft";

/** The cakes of an order: their tiers, and where on them its flowers go. What is laid and not ordered yet is ordered. */
const props = defineProps<{ findings: Schemas["Finding"][]; flaw?: (field: string) => string | undefined }>();
const cakes = defineModel<Schemas["Cake"][]>({ required: true });
const lines = defineModel<DraftLine[]>("lines", { required: true });
const { data: studio } = useStudio();
const { data: workshop } = useWorkshop();
const chosen = ref<number>();

const flower = (l: DraftLine) => studio.value?.flowers.find((f) => f.id === l.recipe);
const ordered = computed(() =>
  lines.value.filter((l) => l.recipe).map((l) => ({ value: l.id, title: flower(l)?.name ?? t("a flower") })),
);
const holders = computed(() =>
  (workshop.value?.materials ?? []).filter((m) => m.holder && !m.outOfUse).map((m) => ({ value: m.id, title: m.name })),
);
const colour = useLineColours(() => lines.value);

const tierColumns = computed<Column[]>(() => [
  {
    key: "shape",
    label: t("from above"),
    kind: "choice",
    options: [
      { value: "round", title: t("round") },
      { value: "square", title: t("square") },
      { value: "other", title: t("other") },
    ],
  },
  { key: "acrossMicrometres", label: t("across"), kind: "mm", width: 70 },
  { key: "deepMicrometres", label: t("front to back"), kind: "mm", when: (row) => row.shape === "other" },
  { key: "heightMicrometres", label: t("high"), kind: "mm", width: 70 },
]);
const onTier = (row: Row) => row.on !== "loose";
function placingColumns(cake: Schemas["Cake"]): Column[] {
  const tiers = (cake.tiers ?? []).map((_, i) => ({ value: String(i), title: t("tier {n}", { n: i + 1 }) }));
  return [
    { key: "quantity", label: t("how many"), kind: "whole", width: 56 },
    { key: "line", label: t("of"), kind: "choice", options: ordered.value, width: 130 },
    {
      key: "on",
      label: t("where"),
      kind: "choice",
      options: [
        { value: "top", title: t("on top of") },
        { value: "side", title: t("at the side of") },
        { value: "loose", title: t("loose, with the cake") },
      ],
      width: 100,
    },
    {
      key: "tier",
      label: t("tier"),
      kind: "choice",
      options: tiers,
      when: onTier,
      width: 74,
    },
    { key: "atDegrees", label: t("round, °"), kind: "whole", when: onTier, width: 60 },
    { key: "outMicrometres", label: t("out, or up"), kind: "mm", when: onTier, width: 66 },
    { key: "pointsDegrees", label: t("points, °"), kind: "whole", when: onTier, width: 60 },
    { key: "lengthMicrometres", label: t("long"), kind: "mm", width: 60 },
    { key: "breadthMicrometres", label: t("broad"), kind: "mm", width: 60 },
    { key: "depthMicrometres", label: t("goes in"), kind: "mm", when: onTier, width: 60 },
    { key: "holder", label: t("held in"), kind: "choice", options: holders.value, blank: t("nothing"), width: 120 },
    { key: "note", label: t("note"), kind: "text", width: 120 },
  ];
}

function addCake() {
  const tier = { shape: "round" as const, acrossMicrometres: 200_000, heightMicrometres: 100_000 };
  cakes.value = [
    ...cakes.value,
    { id: crypto.randomUUID(), name: t("Cake {n}", { n: cakes.value.length + 1 }), tiers: [tier], placings: [] },
  ];
}
function change(i: number, part: Partial<Schemas["Cake"]>) {
  cakes.value = cakes.value.map((c, j) => (j === i ? { ...c, ...part } : c));
}
function place(i: number, rows: Row[]) {
  change(i, {
    placings: rows.map((r) => ({ ...r, tier: Number(r.tier ?? 0) })) as unknown as Schemas["Placing"][],
  });
  for (const l of lines.value) {
    const laid = cakes.value
      .flatMap((c) => c.placings ?? [])
      .filter((p) => p.line === l.id)
      .reduce((sum, p) => sum + (p.quantity || 0), 0);
    if (laid > (typed(l.quantity) || 0)) l.quantity = String(laid);
  }
}
const fresh = (cake: Schemas["Cake"]) => () => ({
  id: crypto.randomUUID(),
  line: ordered.value[0]?.value ?? "",
  quantity: 1,
  on: "top",
  tier: Math.max(0, (cake.tiers?.length ?? 1) - 1),
  atDegrees: 0,
  outMicrometres: 0,
  pointsDegrees: 0,
});
const rowsOf = (cake: Schemas["Cake"]) =>
  (cake.placings ?? []).map((p) => ({ ...p, tier: String(p.tier) })) as unknown as Row[];
const amiss = (cake: Schemas["Cake"]) =>
  props.findings
    .filter((f) => f.cake === cake.id)
    .map((f) => ({
      number: (cake.placings ?? []).findIndex((p) => p.id === f.placing) + 1,
      placing: f.placing,
      words: findingWords(f),
    }));
/** Of what is ordered, what has no place on a cake. */
const left = computed(() =>
  lines.value
    .map((l) => ({
      name: flower(l)?.name,
      left:
        (typed(l.quantity) || 0) -
        cakes.value
          .flatMap((c) => c.placings ?? [])
          .filter((p) => p.line === l.id)
          .reduce((sum, p) => sum + (p.quantity || 0), 0),
    }))
    .filter((l) => l.name && l.left > 0),
);
</script>

<template>
  <section class="cakes" data-test="cakes">
    <article v-for="(c, i) in cakes" :key="c.id" class="one" :data-test="`cake-${i}`">
      <div class="head">
        <input
          class="own name"
          :value="c.name"
          :name="`cake-${i}-name`"
          :aria-label="$t('What this cake is called')"
          @input="change(i, { name: ($event.target as HTMLInputElement).value })"
        />
        <button
          type="button"
          class="bare"
          :aria-label="$t('Take {name} away', { name: c.name })"
          @click="cakes = cakes.filter((_, j) => j !== i)"
        >
          ✕
        </button>
      </div>
      <div class="both">
        <RowsTable
          :name="`tiers-${i}`"
          title="Tiers, from the lowest up"
          :rows="(c.tiers ?? []) as unknown as Row[]"
          :columns="tierColumns"
          more="Add a tier"
          :label="(n) => String(n + 1)"
          :fresh="
            () => ({
              shape: 'round',
              acrossMicrometres: Math.max(50_000, (c.tiers?.at(-1)?.acrossMicrometres ?? 250_000) - 50_000),
              heightMicrometres: 100_000,
            })
          "
          :flaws="(n, key) => flaw?.(`cakes[${i}].tiers[${n}].${key}`)"
          @rows="(rows) => change(i, { tiers: rows as unknown as Schemas['Tier'][] })"
        />
        <CakeDrawing
          :cake="c"
          :wrong="amiss(c).map((f) => f.placing)"
          :colour="colour"
          :chosen="chosen"
          :width="430"
          data-test="cake-drawing"
        />
      </div>
      <RowsTable
        :name="`placings-${i}`"
        title="Where its flowers go"
        :rows="rowsOf(c)"
        :columns="placingColumns(c)"
        more="Lay a flower or spray on it"
        :label="(n) => String(n + 1)"
        :fresh="fresh(c)"
        :selected="chosen"
        :flaws="(n, key) => flaw?.(`cakes[${i}].placings[${n}].${key}`)"
        @rows="(rows) => place(i, rows)"
        @choose="chosen = $event"
      />
      <p class="quiet">
        Round: clockwise from the front, seen from above. Out: from the tier's middle on top, up from its foot at a
        side. A tip points clockwise from the front on top, from straight up at a side.
      </p>
      <ul v-if="amiss(c).length" class="amiss" data-test="cake-findings">
        <li v-for="f in amiss(c)" :key="f.placing + f.words">
          <b>{{ f.number }}</b> {{ f.words }}
        </li>
      </ul>
    </article>
    <p v-if="cakes.length && left.length" class="quiet" data-test="unplaced">
      Not laid on a cake: {{ left.map((l) => `${l.left} ${l.name}`).join(", ") }}.
    </p>
    <button type="button" class="bare add" data-test="add-cake" @click="addCake">
      {{ cakes.length ? $t("Another cake") : $t("Draw the cake they go on") }}
    </button>
  </section>
</template>

<style scoped>
.one {
  border-top: 1px dashed var(--vein);
  padding: 10px 0;
}
.head {
  display: flex;
  justify-content: space-between;
}
.name {
  font: 560 1.1rem var(--name);
  min-width: 16rem;
}
.both {
  display: flex;
  flex-wrap: wrap;
  gap: 20px;
  align-items: flex-start;
  justify-content: space-between;
}
.both :deep(input) {
  max-width: 5.5rem;
}
.amiss {
  list-style: none;
  padding: 0;
  margin: 0 0 8px;
  color: var(--late);
}
.amiss b {
  display: inline-block;
  min-width: 1.4em;
}
.add {
  color: var(--leaf);
  font-weight: 650;
  padding: 6px 0;
}
</style>
